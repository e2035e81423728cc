package kettlesieve.core.measure.room;

import com.google.auto.service.AutoService;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.pass.CellFrame;
import kettlesieve.core.measure.pass.CellPass;
import kettlesieve.core.measure.pass.Gatherer;
import kettlesieve.core.measure.pass.Gathering;
import kettlesieve.core.signal.ThirdOctaveBands;

/** Powers of the frames in the range in which pauses are judged, summed over channels. */
public final class FrameLevels implements Gatherer {
  /** What a pass over the ground of the job gathered. */
  public static final Analysis<FrameLevels> OF =
      pair -> pair.shared(CellPass.OF).get(FrameLevels.class);

  private final ThirdOctaveBands bands;
  private final int lowBin;
  private final int highBin;
  private final float[] source;
  private final float[] version;

  FrameLevels(Pair pair) {
    this.bands = pair.bands();
    this.lowBin = pair.source().pauseLowBin();
    this.highBin = pair.source().pauseHighBin();
    this.source = new float[pair.framing().count()];
    this.version = new float[pair.framing().count()];
  }

  @Override
  public void add(CellFrame cells) {
    int t = cells.frame();
    for (int k = lowBin; k <= highBin; k++) {
      if (bands.ofBin(k) >= 0) {
        source[t] += cells.source(k);
        version[t] += cells.version(k);
      }
    }
  }

  /** Power of the source in a frame. */
  public double source(int frame) {
    return source[frame];
  }

  /** The same of the version, matched. */
  public double version(int frame) {
    return version[frame];
  }

  /** Gathered always. */
  @AutoService(Gathering.class)
  public static final class Kind extends Gathering {
    public Kind() {
      super(FrameLevels.class, (pair, ground) -> true, FrameLevels::new);
    }
  }
}
