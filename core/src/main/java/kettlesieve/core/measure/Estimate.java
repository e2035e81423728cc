package kettlesieve.core.measure;

import java.util.Arrays;
import java.util.SplittableRandom;
import java.util.function.DoubleUnaryOperator;
import kettlesieve.core.signal.Statistics;

/**
 * A value with its bootstrap distribution.
 *
 * @param value from all the data
 * @param draws from each resampling; NaN where a draw held no data
 */
public record Estimate(double value, double[] draws) {
  /** Half of a normal distribution's 95 % interval in standard deviations. */
  static final double NORMAL = 1.959964;

  /** A value that no resampling changes: it is of the whole. */
  public static Estimate sure(double value) {
    double[] draws = new double[Bootstrap.DRAWS];
    Arrays.fill(draws, value);
    return new Estimate(value, draws);
  }

  /** Lower end of the 95 % interval, never above the value. */
  public double low() {
    double[] interval = interval();
    return interval.length == 0 ? value : Math.min(value, interval[0]);
  }

  /** Upper end of the 95 % interval, never below the value. */
  public double high() {
    double[] interval = interval();
    return interval.length == 0 ? value : Math.max(value, interval[1]);
  }

  /** Both ends of the 95 % interval of the draws that are numbers; empty if none is. */
  public double[] interval() {
    double[] finite = new double[draws.length];
    int n = 0;
    for (double draw : draws) {
      if (Double.isFinite(draw)) {
        finite[n++] = draw;
      }
    }
    return n == 0
        ? new double[0]
        : Statistics.quantiles(n < finite.length ? Arrays.copyOf(finite, n) : finite, 0.025, 0.975);
  }

  /**
   * The same for estimates that are alike in value and in every draw, and for hardly any others.
   */
  public long signature() {
    return 31L * 31 * Arrays.hashCode(draws) + 0x9E3779B97F4A7C15L * Double.hashCode(value);
  }

  /** The paired difference to another estimate from the same draws. */
  public Estimate minus(Estimate other) {
    double[] differences = new double[draws.length];
    for (int d = 0; d < differences.length; d++) {
      differences[d] = draws[d] - other.draws[d];
    }
    return new Estimate(value - other.value, differences);
  }

  /**
   * With a variation that the data themselves do not show. It is the same in every draw of the same
   * kind, whatever the version: between versions of one recording it cancels. A distribution that
   * is never below 0 stays so.
   *
   * @param half half of its 95 % interval
   * @param kind what varies
   */
  public Estimate varied(double half, String kind) {
    if (!(half > 0)) {
      return this;
    }
    SplittableRandom random = new SplittableRandom(kind.hashCode());
    boolean negative = value < 0 || Arrays.stream(draws).anyMatch(x -> x < 0);
    double[] varied = new double[draws.length];
    for (int d = 0; d < draws.length; d++) {
      double moved = draws[d] + half / NORMAL * random.nextGaussian();
      varied[d] = negative || !(moved < 0) ? moved : 0;
    }
    return new Estimate(value, varied);
  }

  /** The estimate of a function of this value. */
  public Estimate map(DoubleUnaryOperator f) {
    double[] mapped = new double[draws.length];
    for (int d = 0; d < mapped.length; d++) {
      mapped[d] = f.applyAsDouble(draws[d]);
    }
    return new Estimate(f.applyAsDouble(value), mapped);
  }
}
