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
 * How far the amplitudes of a version lie under and over an estimate of the wanted sound, cell by
 * cell, against how far the estimate itself may be off. The squared distance to the truth is, but
 * for a constant, that to its best estimate, for whatever was made of the source alone; attenuation
 * and amplification are kept apart (Loizou &amp; Kim, IEEE Trans. Audio Speech Lang. Process. 19,
 * 2011). Frames with clicks of the source are left out.
 */
public final class SuppressionErrors implements Gatherer {
  /** What a pass over the ground of the job gathered. */
  public static final Analysis<SuppressionErrors> OF =
      pair -> pair.shared(CellPass.OF).get(SuppressionErrors.class);

  /** So far off the estimate may well be: what lies within is no error. */
  private static final float DEVIATIONS = 2;

  /** What lies under it is nothing. */
  private static final double LEAST_DB = -15;

  private static final int UNDER = 0;
  private static final int OVER = 1;
  private static final int EXPECTED = 2;

  private final Pair pair;
  private final ThirdOctaveBands bands;
  private final SourceClicks clicks;
  private final VoiceGains gains;
  private final double[][] byBlock;
  private final double[][][] bySlot;
  private final int[] frameOfSlot;
  private final float[] offs;

  SuppressionErrors(Pair pair) throws NotMeasurableException {
    this.pair = pair;
    this.bands = pair.bands();
    this.clicks = pair.source().clicks();
    this.gains = new VoiceGains(pair.framing().bins());
    this.byBlock = new double[pair.timeline().blocks()][3];
    this.bySlot = new double[pair.timeline().slots()][bands.count()][3];
    this.frameOfSlot = new int[bySlot.length];
    this.offs = new float[pair.framing().bins()];
  }

  @Override
  public void add(CellFrame cells) {
    gains.moveTo(cells);
    if (clicks.in(cells.frame())) {
      return;
    }
    int slot = pair.timeline().slot(cells.frame());
    frameOfSlot[slot] = cells.frame();
    distances(cells.source(), gains.amplitudes(), cells.version(), cells.gain());
    float[] shares = gains.uncertainties();
    float[] noise = cells.noise();
    double[] block = byBlock[cells.block()];
    for (int b = 0; b < bands.count(); b++) {
      double under = 0;
      double over = 0;
      double allowed = 0;
      for (int k = bands.firstBin(b); k < bands.endBin(b); k++) {
        float off = offs[k];
        float expected = shares[k] * noise[k];
        allowed += expected;
        // Roots are slow, and most cells lie within.
        if (off * off > DEVIATIONS * DEVIATIONS * expected) {
          double beyond = Math.abs(off) - DEVIATIONS * Math.sqrt(expected);
          if (off < 0) {
            under += cells.lost(b) * beyond * beyond;
          } else {
            over += beyond * beyond;
          }
        }
      }
      double[] sums = bySlot[slot][b];
      sums[UNDER] += under;
      sums[OVER] += over;
      sums[EXPECTED] += allowed;
      block[UNDER] += under;
      block[OVER] += over;
      block[EXPECTED] += allowed;
    }
  }

  /** How far each amplitude lies over its estimate. */
  private void distances(float[] source, float[] gain, float[] version, float matched) {
    for (int k = 0; k < offs.length; k++) {
      float own = (float) Math.sqrt(matched * version[k]);
      offs[k] = own - gain[k] * (float) Math.sqrt(source[k]);
    }
  }

  /** What was taken beyond the estimate, over what the estimate is expected to be off by, dB. */
  public double underDb(int[] weights) {
    return db(weights, UNDER);
  }

  /** What was left beyond the estimate, over what the estimate is expected to be off by, dB. */
  public double overDb(int[] weights) {
    return db(weights, OVER);
  }

  private double db(int[] weights, int which) {
    double sum = 0;
    double expected = 0;
    for (int b = 0; b < weights.length; b++) {
      sum += weights[b] * byBlock[b][which];
      expected += weights[b] * byBlock[b][EXPECTED];
    }
    return db(sum, expected);
  }

  private static double db(double sum, double expected) {
    return expected > 0
        ? Math.max(LEAST_DB, Db.ofPower(Math.max(sum / expected, 1e-9)))
        : Double.NaN;
  }

  /** Where too much was taken. */
  public PlaceGrid underPlaces() {
    return places(UNDER);
  }

  /** Where too much was left. */
  public PlaceGrid overPlaces() {
    return places(OVER);
  }

  private PlaceGrid places(int which) {
    PlaceGrid places = new PlaceGrid(pair.timeline(), bands.count());
    for (int s = 0; s < bySlot.length; s++) {
      for (int b = 0; b < bySlot[s].length; b++) {
        double db = db(bySlot[s][b][which], bySlot[s][b][EXPECTED]);
        if (Double.isFinite(db)) {
          places.add(frameOfSlot[s], b, db, bySlot[s][b][EXPECTED]);
        }
      }
    }
    return places;
  }

  /** Gathered in denoise. */
  @AutoService(Gathering.class)
  public static final class Kind extends Gathering {
    public Kind() {
      super(
          SuppressionErrors.class,
          (pair, ground) -> pair.job() == Job.DENOISE,
          SuppressionErrors::new);
    }
  }
}
