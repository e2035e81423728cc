package kettlesieve.core.measure.room;

import com.google.auto.service.AutoService;
import kettlesieve.core.ground.DirectGround;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.VoiceRange;
import kettlesieve.core.measure.pass.CellFrame;
import kettlesieve.core.measure.pass.CellPass;
import kettlesieve.core.measure.pass.Gatherer;
import kettlesieve.core.measure.pass.Gathering;

/** Gains of single wanted cells by range of the voice, for medians over them. */
public final class RangeGains implements Gatherer {
  /** What a pass over the ground of the job gathered. */
  public static final Analysis<RangeGains> OF =
      pair -> pair.shared(CellPass.OF).get(RangeGains.class);

  private final int[] rangeOfBin;
  private final BlockHistograms[] gains;
  private final int[] count;

  RangeGains(Pair pair) {
    VoiceRange[] ranges = VoiceRange.values();
    this.rangeOfBin = new int[pair.framing().bins()];
    for (int k = 0; k < rangeOfBin.length; k++) {
      VoiceRange range = VoiceRange.at(k * pair.framing().binHz());
      rangeOfBin[k] = range == null ? -1 : range.ordinal();
    }
    this.gains = new BlockHistograms[ranges.length];
    for (int r = 0; r < ranges.length; r++) {
      gains[r] = new BlockHistograms(pair.timeline(), Pair.GAIN_FLOOR_DB, 20, 0.05);
    }
    this.count = new int[ranges.length];
  }

  @Override
  public void add(CellFrame cells) {
    for (int k = 0; k < cells.bins(); k++) {
      int range = rangeOfBin[k];
      if (range >= 0 && cells.wanted(k)) {
        gains[range].add(cells.block(), Pair.gainDb(cells.source(k), cells.version(k)), 1);
        count[range]++;
      }
    }
  }

  /** Number of wanted cells of a range. */
  public int count(VoiceRange range) {
    return count[range.ordinal()];
  }

  /** Median gain of a range, dB, blocks weighted; NaN if there are no cells. */
  public double medianDb(VoiceRange range, int[] blockWeights) {
    return gains[range.ordinal()].median(blockWeights);
  }

  /** Gathered in a room only. */
  @AutoService(Gathering.class)
  public static final class Kind extends Gathering {
    public Kind() {
      super(RangeGains.class, (pair, ground) -> ground instanceof DirectGround, RangeGains::new);
    }
  }
}
