package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.pass.CellFrame;
import kettlesieve.core.measure.pass.CellPass;
import kettlesieve.core.measure.pass.Gatherer;
import kettlesieve.core.measure.pass.Gathering;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * Energies over the wanted cells of each frame and third-octave band, of source and version.
 * Channels are pooled.
 */
public final class WantedBands implements Gatherer {
  /** What a pass over the ground of the job gathered. */
  public static final Analysis<WantedBands> OF =
      pair -> pair.shared(CellPass.OF).get(WantedBands.class);

  private final Pair pair;
  private final ThirdOctaveBands bands;
  private final float[][] source;
  private final float[][] version;
  private final float[][] noise;
  private final char[][] count;
  private final double[] longTerm;

  WantedBands(Pair pair) {
    this.pair = pair;
    this.bands = pair.bands();
    int frames = pair.framing().count();
    // Rows come with the first wanted cell of a frame: pauses take no room.
    this.source = new float[frames][];
    this.version = new float[frames][];
    this.noise = new float[frames][];
    this.count = new char[frames][];
    this.longTerm = new double[bands.count()];
  }

  @Override
  public void add(CellFrame cells) {
    int t = cells.frame();
    for (int k = cells.nextWanted(0); k >= 0; k = cells.nextWanted(k + 1)) {
      int band = bands.ofBin(k);
      if (band < 0) {
        continue;
      }
      if (source[t] == null) {
        source[t] = new float[bands.count()];
        version[t] = new float[bands.count()];
        noise[t] = new float[bands.count()];
        count[t] = new char[bands.count()];
      }
      source[t][band] += cells.source(k);
      version[t][band] += cells.kept(k);
      noise[t][band] += cells.noise(k);
      count[t][band]++;
    }
  }

  @Override
  public void finish() {
    for (int b = 0; b < longTerm.length; b++) {
      double before = 0;
      double after = 0;
      for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
        before += source(t, b);
        after += version(t, b);
      }
      longTerm[b] = before > 0 ? after / before : 0;
    }
  }

  /** Energy of the source over the wanted cells of a frame and band. */
  public double source(int frame, int band) {
    return source[frame] == null ? 0 : source[frame][band];
  }

  /** Energy of the version, matched, over the same cells. */
  public double version(int frame, int band) {
    return version[frame] == null ? 0 : version[frame][band];
  }

  /** Energy that what is not wanted has in the same cells. */
  public double noise(int frame, int band) {
    return noise[frame] == null ? 0 : noise[frame][band];
  }

  /** Number of wanted cells of a frame and band. */
  public int count(int frame, int band) {
    return count[frame] == null ? 0 : count[frame][band];
  }

  /** Power gain over all wanted cells of a band; 0 where there are none. */
  public double longTermGain(int band) {
    return longTerm[band];
  }

  /** Gain over the wanted cells of a frame and band, dB. */
  public double gainDb(int frame, int band) {
    return Pair.gainDb(source(frame, band), version(frame, band));
  }

  /** Gain in dB of every frame and band with wanted cells, weighted by their number. */
  public PlaceGrid gains() {
    PlaceGrid places = new PlaceGrid(pair.timeline(), bands.count());
    for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
      for (int b = 0; b < bands.count(); b++) {
        if (count(t, b) > 0) {
          places.add(t, b, gainDb(t, b), count(t, b));
        }
      }
    }
    return places;
  }

  /** Gathered always. */
  @AutoService(Gathering.class)
  public static final class Kind extends Gathering {
    public Kind() {
      super(WantedBands.class, (pair, ground) -> true, WantedBands::new);
    }
  }
}
