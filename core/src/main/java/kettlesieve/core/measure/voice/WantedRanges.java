package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.VoiceRange;
import kettlesieve.core.measure.pass.CellFrame;
import kettlesieve.core.measure.pass.CellPass;
import kettlesieve.core.measure.pass.Gatherer;
import kettlesieve.core.measure.pass.Gathering;
import kettlesieve.core.signal.ThirdOctaveBands;

/** Energies over the wanted cells of each frame and range of the voice. Channels are pooled. */
public final class WantedRanges implements Gatherer {
  /** What a pass over the ground of the job gathered. */
  public static final Analysis<WantedRanges> OF =
      pair -> pair.shared(CellPass.OF).get(WantedRanges.class);

  private final ThirdOctaveBands bands;
  private final int[] rangeOfBin;
  private final float[][] source;
  private final float[][] version;
  private final int[] count;

  WantedRanges(Pair pair) {
    this.bands = pair.bands();
    this.rangeOfBin = new int[pair.framing().bins()];
    for (int k = 0; k < rangeOfBin.length; k++) {
      VoiceRange range = VoiceRange.at(k * pair.framing().binHz());
      rangeOfBin[k] = range == null ? -1 : range.ordinal();
    }
    this.source = new float[pair.framing().count()][];
    this.version = new float[pair.framing().count()][];
    this.count = new int[VoiceRange.values().length];
  }

  @Override
  public void add(CellFrame cells) {
    int t = cells.frame();
    for (int k = cells.nextWanted(0); k >= 0; k = cells.nextWanted(k + 1)) {
      int range = rangeOfBin[k];
      if (range < 0 || bands.ofBin(k) < 0) {
        continue;
      }
      if (source[t] == null) {
        source[t] = new float[count.length];
        version[t] = new float[count.length];
      }
      source[t][range] += cells.source(k);
      version[t][range] += cells.kept(k);
      count[range]++;
    }
  }

  /** Energy of the source over the wanted cells of a frame and range. */
  public double source(int frame, VoiceRange range) {
    return source[frame] == null ? 0 : source[frame][range.ordinal()];
  }

  /** Energy of the version, matched, over the same cells. */
  public double version(int frame, VoiceRange range) {
    return version[frame] == null ? 0 : version[frame][range.ordinal()];
  }

  /** Number of wanted cells of a range. */
  public int count(VoiceRange range) {
    return count[range.ordinal()];
  }

  /** Gathered always. */
  @AutoService(Gathering.class)
  public static final class Kind extends Gathering {
    public Kind() {
      super(WantedRanges.class, (pair, ground) -> true, WantedRanges::new);
    }
  }
}
