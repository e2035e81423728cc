package kettlesieve.core.ground;

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
  private final PauseFacts known;
  private volatile Noise noise;
  private List<Cells> cells;
  private final int lowBin;
  private final int highBin;

  /** What goes through all spectra: by channel, and of all together. */
  private record Noise(
      List<float[]> means, List<PauseShape> shapes, double wantedPower, double flaring) {}

  /**
   * @param spectra of the source, one a channel
   * @param activity where its pauses are
   * @param known what was found before; null to find it when it is asked for
   */
  PauseGround(List<Spectrogram> spectra, Activity activity, PauseFacts known) {
    this.activity = activity;
    this.spectra = spectra;
    this.known = known;
    Framing framing = spectra.get(0).framing();
    this.lowBin = lowBin(framing);
    this.highBin = highBin(framing);
  }

  /** Made when first asked for: who opens what was measured before never does. */
  private Noise noise() {
    Noise ready = noise;
    if (ready == null) {
      synchronized (this) {
        ready = noise;
        if (ready == null) {
          ready = activity.problem().isPresent() ? none() : found();
          noise = ready;
        }
      }
    }
    return ready;
  }

  private static Noise none() {
    return new Noise(List.of(), List.of(), Double.NaN, 0);
  }

  private Noise found() {
    Framing framing = spectra.get(0).framing();
    List<float[]> means = new ArrayList<>();
    List<PauseShape> shapes = new ArrayList<>();
    double flaring = 0;
    spectra.forEach(s -> means.add(noise(s, activity)));
    double power = measuredPower(means);
    int bins = highBin - lowBin + 1;
    float floor = (float) Math.max(1e-25, power * Db.toPower(FLOOR_DB) / bins);
    for (int c = 0; c < spectra.size(); c++) {
      float[] mean = means.get(c);
      for (int k = 0; k < mean.length; k++) {
        mean[k] = Math.max(mean[k], floor);
      }
      PauseShape shape = new PauseShape(spectra.get(c), activity, mean);
      flaring = Math.max(flaring, shape.shareOver(FLARES_FROM, framing));
      shapes.add(shape);
    }
    return new Noise(means, shapes, power, flaring);
  }

  /** What is kept for the next time. */
  PauseFacts facts() {
    return known != null ? known : activity.facts(notSteady(), floorDb());
  }

  private synchronized Cells cells(int channel) {
    if (cells == null) {
      Noise own = noise();
      List<Cells> all = new ArrayList<>();
      for (int c = 0; c < own.shapes().size(); c++) {
        all.add(Cells.of(spectra.get(c), activity, own.means().get(c), own.shapes().get(c)));
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

  private double measuredPower(List<float[]> noises) {
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
    return known != null ? known.notSteady() : noise().flaring() >= FLARING_BANDS;
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
  public NoiseEstimate covering(int channel) {
    Cells own = cells(channel);
    return new NoiseEstimate() {
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
    return noise().means().get(channel)[bin];
  }

  /**
   * Mean power of the wanted sound in 200–8,000 Hz over active frames and channels, the noise taken
   * off; NaN where pauses could not be found.
   */
  public double wantedPower() {
    return noise().wantedPower();
  }

  /** Mean level of the first channel in the pauses, dBFS; NaN without pauses. */
  public double floorDb() {
    if (known != null) {
      return known.floorDb();
    }
    if (noise().means().isEmpty()) {
      return Double.NaN;
    }
    double power = 0;
    for (float mean : noise().means().get(0)) {
      power += mean;
    }
    return Db.ofPower(power);
  }

  /** Mean level of the wanted sound above the noise in the pauses, dB; NaN without pauses. */
  public double signalToNoiseDb() {
    List<float[]> means = noise().means();
    if (means.isEmpty()) {
      return Double.NaN;
    }
    double power = 0;
    for (float[] channel : means) {
      for (int k = lowBin; k <= highBin; k++) {
        power += channel[k];
      }
    }
    return Db.ofPower(wantedPower() / (power / means.size()));
  }
}
