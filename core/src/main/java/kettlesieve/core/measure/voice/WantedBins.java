package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.pass.CellFrame;
import kettlesieve.core.measure.pass.CellPass;
import kettlesieve.core.measure.pass.Gatherer;
import kettlesieve.core.measure.pass.Gathering;
import kettlesieve.core.signal.ThirdOctaveBands;

/** Energies over the wanted cells of each bootstrap block and bin. Channels are pooled. */
public final class WantedBins implements Gatherer {
  /** What a pass over the ground of the job gathered. */
  public static final Analysis<WantedBins> OF =
      pair -> pair.shared(CellPass.OF).get(WantedBins.class);

  private final ThirdOctaveBands bands;
  private final float[][] source;
  private final float[][] version;
  private final int[] count;

  WantedBins(Pair pair) {
    int bins = pair.framing().bins();
    this.bands = pair.bands();
    this.source = new float[pair.timeline().blocks()][bins];
    this.version = new float[pair.timeline().blocks()][bins];
    this.count = new int[bins];
  }

  @Override
  public void add(CellFrame cells) {
    int block = cells.block();
    for (int k = 0; k < cells.bins(); k++) {
      if (bands.ofBin(k) >= 0 && cells.wanted(k)) {
        source[block][k] += cells.source(k);
        version[block][k] += cells.kept(k);
        count[k]++;
      }
    }
  }

  /** Energy of the source over the wanted cells of a block and bin. */
  public double source(int block, int bin) {
    return source[block][bin];
  }

  /** Energy of the version, matched, over the same cells. */
  public double version(int block, int bin) {
    return version[block][bin];
  }

  /** Number of wanted cells of a bin. */
  public int count(int bin) {
    return count[bin];
  }

  /** Gathered always. */
  @AutoService(Gathering.class)
  public static final class Kind extends Gathering {
    public Kind() {
      super(WantedBins.class, (pair, ground) -> true, WantedBins::new);
    }
  }
}
