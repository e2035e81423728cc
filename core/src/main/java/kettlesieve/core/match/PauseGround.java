package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;

/**
 * The ground that the pauses of a source give: what stands there is noise, and what stands well
 * above it elsewhere is wanted.
 */
public final class PauseGround implements Ground {
  /** Nothing counts as quieter than this below the wanted sound. */
  public static final double FLOOR_DB = -80;

  private static final double FLARES_FROM = 8;
  private static final double FLARING_BANDS = 0.5;

  private final Activity activity;
  private final List<Spectrogram> spectra;
  private final List<float[]> noises = new ArrayList<>();
  private final List<PauseShape> shapes = new ArrayList<>();
  private List<Cells> cells;
  private final double wantedPower;
  private double flaring;
  private final int lowBin;
  private final int highBin;

  /**
   * @param spectra of the source, one a channel
   * @param activity where its pauses are
   */
  PauseGround(List<Spectrogram> spectra, Activity activity) {
    this.activity = activity;
    this.spectra = spectra;
    Framing framing = spectra.get(0).framing();
    this.lowBin = lowBin(framing);
    this.highBin = highBin(framing);
    if (activity.problem().isPresent()) {
      this.wantedPower = Double.NaN;
      return;
    }
    spectra.forEach(s -> noises.add(noise(s, activity)));
    this.wantedPower = measuredPower();
    int bins = highBin - lowBin + 1;
    float floor = (float) Math.max(1e-25, wantedPower * Db.toPower(FLOOR_DB) / bins);
    for (int c = 0; c < spectra.size(); c++) {
      float[] noise = noises.get(c);
      for (int k = 0; k < noise.length; k++) {
        noise[k] = Math.max(noise[k], floor);
      }
      PauseShape shape = new PauseShape(spectra.get(c), activity, noise);
      flaring = Math.max(flaring, shape.shareOver(FLARES_FROM, framing));
      shapes.add(shape);
    }
  }

  /** Made when first asked for: who opens what was measured before never does. */
  private synchronized Cells cells(int channel) {
    if (cells == null) {
      List<Cells> all = new ArrayList<>();
      for (int c = 0; c < shapes.size(); c++) {
        all.add(Cells.of(spectra.get(c), activity, noises.get(c), shapes.get(c)));
      }
      cells = all;
    }
    return cells.get(channel);
  }

  /** Lowest bin of the range in which pauses are judged, 200 Hz. */
  static int lowBin(Framing framing) {
    return framing.binAtOrAbove(200);
  }

  /** Highest bin of that range: 8,000 Hz, at most 0.45 of the rate. */
  static int highBin(Framing framing) {
    return framing.binAtOrBelow(Math.min(8000, 0.45 * framing.sampleRate()));
  }

  private static float[] noise(Spectrogram spectrogram, Activity activity) {
    Framing framing = spectrogram.framing();
    double[] sum = new double[framing.bins()];
    int count = 0;
    for (int t = 0; t < framing.count(); t++) {
      if (activity.pause(t)) {
        float[] row = spectrogram.powers(t);
        for (int k = 0; k < sum.length; k++) {
          sum[k] += row[k];
        }
        count++;
      }
    }
    float[] mean = new float[sum.length];
    for (int k = 0; k < sum.length; k++) {
      mean[k] = (float) (sum[k] / count);
    }
    return mean;
  }

  private double measuredPower() {
    double sum = 0;
    double noise = 0;
    int count = 0;
    for (int c = 0; c < spectra.size(); c++) {
      for (int k = lowBin; k <= highBin; k++) {
        noise += noises.get(c)[k];
      }
      for (int t = 0; t < spectra.get(c).framing().count(); t++) {
        if (activity.active(t)) {
          count++;
          float[] row = spectra.get(c).powers(t);
          for (int k = lowBin; k <= highBin; k++) {
            sum += row[k];
          }
        }
      }
    }
    double active = sum / Math.max(1, count);
    return Math.max(active - noise / spectra.size(), 0.1 * active);
  }

  /**
   * Whether the noise in the pauses is not steady: in half of the third-octaves from 200 to 6,300
   * Hz it rises to eight times its mean. So do voices, music and water; hiss, hum and machines do
   * not.
   */
  public boolean notSteady() {
    return flaring >= FLARING_BANDS;
  }

  /** Where the pauses are. */
  public Activity activity() {
    return activity;
  }

  @Override
  public Optional<String> problem() {
    return activity.problem();
  }

  @Override
  public boolean active(int frame) {
    return activity.active(frame);
  }

  @Override
  public CellMask wanted(int channel) {
    return cells(channel).wanted();
  }

  @Override
  public CellMask strong(int channel) {
    return cells(channel).strong();
  }

  @Override
  public CellMask unwanted(int channel) {
    return cells(channel).unwanted();
  }

  @Override
  public Covering covering(int channel) {
    Cells own = cells(channel);
    return new Covering() {
      private final float[] row = own.noiseRow();
      private int at = -1;

      @Override
      public float[] moveTo(int frame) {
        if (at < 0 || !own.sameNoise(at, frame)) {
          own.noise(frame, row);
        }
        at = frame;
        return row;
      }
    };
  }

  /** Mean power of a bin of a channel in the pauses. */
  public float noise(int channel, int bin) {
    return noises.get(channel)[bin];
  }

  /**
   * Mean power of the wanted sound in 200–8,000 Hz over active frames and channels, the noise taken
   * off; NaN where pauses could not be found.
   */
  public double wantedPower() {
    return wantedPower;
  }

  /** Mean level of the wanted sound above the noise in the pauses, dB; NaN without pauses. */
  public double signalToNoiseDb() {
    if (noises.isEmpty()) {
      return Double.NaN;
    }
    double noise = 0;
    for (float[] channel : noises) {
      for (int k = lowBin; k <= highBin; k++) {
        noise += channel[k];
      }
    }
    return Db.ofPower(wantedPower / (noise / noises.size()));
  }
}
