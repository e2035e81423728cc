package kettlesieve.core.measure.room;

import com.google.auto.service.AutoService;
import kettlesieve.core.ground.DirectGround;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.pass.CellFrame;
import kettlesieve.core.measure.pass.CellPass;
import kettlesieve.core.measure.pass.Gatherer;
import kettlesieve.core.measure.pass.Gathering;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * What became of cells that stand 2 to 16 times over room and noise together: too little to be
 * called wanted, too much to be nothing but room. Taking the room away exactly costs them some 1 to
 * 4 dB; turning them down with the room costs far more.
 */
public final class RoomLosses implements Gatherer {
  /** What a pass over the ground of the job gathered. */
  public static final Analysis<RoomLosses> OF =
      pair -> pair.shared(CellPass.OF).get(RoomLosses.class);

  private static final double[] EDGES = {2, 4, 8, 16};
  private static final double LOW_HZ = 200;
  private static final double HIGH_HZ = 8000;

  private final ThirdOctaveBands bands;
  private final int lowBin;
  private final int highBin;
  private final double[][] before;
  private final double[][] after;
  private final PlaceGrid places;
  private int count;

  RoomLosses(Pair pair) {
    int blocks = pair.timeline().blocks();
    this.bands = pair.bands();
    this.lowBin = pair.framing().binAtOrAbove(LOW_HZ);
    this.highBin =
        pair.framing().binAtOrBelow(Math.min(HIGH_HZ, 0.45 * pair.framing().sampleRate()));
    this.before = new double[EDGES.length - 1][blocks];
    this.after = new double[EDGES.length - 1][blocks];
    this.places = new PlaceGrid(pair.timeline(), bands.count());
  }

  @Override
  public void add(CellFrame cells) {
    CellFrame.Smoothed smoothed = cells.smoothed();
    for (int k = lowBin; k <= highBin; k++) {
      double over = smoothed.source()[k] / cells.noise(k);
      if (over < EDGES[0] || over >= EDGES[EDGES.length - 1]) {
        continue;
      }
      int step = over < EDGES[1] ? 0 : over < EDGES[2] ? 1 : 2;
      before[step][cells.block()] += cells.source(k);
      after[step][cells.block()] += cells.version(k);
      count++;
      if (bands.ofBin(k) >= 0) {
        places.add(cells.frame(), bands.ofBin(k), -smoothed.gainDb(k), 1);
      }
    }
  }

  /** Number of cells. */
  public int count() {
    return count;
  }

  /** Mean over the three steps of what their energy sank by, dB, not below 0. */
  public double lossDb(int[] weights) {
    double sum = 0;
    for (int s = 0; s < before.length; s++) {
      double was = 0;
      double is = 0;
      for (int b = 0; b < weights.length; b++) {
        was += weights[b] * before[s][b];
        is += weights[b] * after[s][b];
      }
      sum += was > 0 ? -Db.ofPower(Math.max(is / was, 1e-6)) : Double.NaN;
    }
    return Math.max(0, sum / before.length);
  }

  /** Mean losses by time and band, dB. */
  public PlaceGrid places() {
    return places;
  }

  /** Gathered in a room only. */
  @AutoService(Gathering.class)
  public static final class Kind extends Gathering {
    public Kind() {
      super(RoomLosses.class, (pair, ground) -> ground instanceof DirectGround, RoomLosses::new);
    }
  }
}
