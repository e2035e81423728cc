package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.SourceClicks;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.pass.CellFrame;
import kettlesieve.core.measure.pass.CellPass;
import kettlesieve.core.measure.pass.Gatherer;
import kettlesieve.core.measure.pass.Gathering;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * What single wanted cells lost, band by band: their power without the noise over what is left.
 * Cells weigh by their power to the power 0.25, about as they are heard. Frames with clicks of the
 * source are left out.
 */
public final class CellLosses implements Gatherer {
  /** What a pass over the ground of the job gathered. */
  public static final Analysis<CellLosses> OF =
      pair -> pair.shared(CellPass.OF).get(CellLosses.class);

  private static final double LOUDNESS = 0.25;
  private static final double LEAST_LEFT = 0.5;
  private static final double LOW_DB = -10;
  private static final double HIGH_DB = 30;
  private static final double STEP_DB = 0.5;
  private static final int STEPS = (int) ((HIGH_DB - LOW_DB) / STEP_DB) + 1;

  private final ThirdOctaveBands bands;
  private final SourceClicks clicks;
  private final float[][][] weights;
  private final double[][] before;
  private final PlaceGrid places;
  private long count;

  CellLosses(Pair pair) throws NotMeasurableException {
    this.bands = pair.bands();
    this.clicks = pair.source().clicks();
    this.weights = new float[bands.count()][pair.timeline().blocks()][];
    this.before = new double[bands.count()][2];
    this.places = new PlaceGrid(pair.timeline(), bands.count());
  }

  @Override
  public void add(CellFrame cells) {
    if (clicks.in(cells.frame())) {
      return;
    }
    for (int k = cells.nextWanted(0); k >= 0; k = cells.nextWanted(k + 1)) {
      int band = bands.ofBin(k);
      if (band < 0) {
        continue;
      }
      double source = cells.source(k);
      double own = Math.max(LEAST_LEFT * source, source - cells.noise(k));
      double after = cells.kept(k);
      before[band][0] += own;
      before[band][1] += after;
      double loss =
          Math.max(
              LOW_DB, Math.min(HIGH_DB, -Db.nearlyOfPower((float) (Math.max(after, 1e-30) / own))));
      double weight = Math.pow(source, LOUDNESS);
      float[] steps = weights[band][cells.block()];
      if (steps == null) {
        steps = new float[STEPS];
        weights[band][cells.block()] = steps;
      }
      steps[(int) Math.round((loss - LOW_DB) / STEP_DB)] += (float) weight;
      places.add(cells.frame(), band, loss, weight);
      count++;
    }
  }

  /** Number of cells. */
  public long count() {
    return count;
  }

  /** Loss of a band as a whole, dB, not below 0; NaN for a band without cells. */
  public double usualDb(int band) {
    return before[band][0] > 0
        ? Math.max(0, -Db.ofPower(Math.max(before[band][1] / before[band][0], 1e-6)))
        : Double.NaN;
  }

  /** Weight of the cells of a band and block. */
  public double weight(int band, int block) {
    double sum = 0;
    float[] steps = weights[band][block];
    for (int i = 0; steps != null && i < STEPS; i++) {
      sum += steps[i];
    }
    return sum;
  }

  /** Weighted sum of what the losses of a band and block exceed, dB. */
  public double over(int band, int block, double db) {
    double sum = 0;
    float[] steps = weights[band][block];
    for (int i = 0; steps != null && i < STEPS; i++) {
      sum += steps[i] * Math.max(0, LOW_DB + i * STEP_DB - db);
    }
    return sum;
  }

  /** Mean losses by time and band, dB. */
  public PlaceGrid places() {
    return places;
  }

  /**
   * Gathered but in a room and in declip: a version that was brought back from another time is
   * judged as after denoising.
   */
  @AutoService(Gathering.class)
  public static final class Kind extends Gathering {
    public Kind() {
      super(
          CellLosses.class,
          (pair, ground) -> !pair.job().inARoom() && pair.job() != Job.DECLIP,
          CellLosses::new);
    }
  }
}
