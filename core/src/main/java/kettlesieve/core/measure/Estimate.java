package kettlesieve.core.measure;

import java.util.Arrays;
import java.util.function.DoubleUnaryOperator;
import kettlesieve.core.signal.Statistics;

/**
 * A value with its bootstrap distribution.
 *
 * @param value from all the data
 * @param draws from each resampling; NaN where a draw held no data
 */
public record Estimate(double value, double[] draws) {

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
    double[] finite = Arrays.stream(draws).filter(Double::isFinite).sorted().toArray();
    return finite.length == 0
        ? finite
        : new double[] {
          Statistics.quantileOfSorted(finite, 0.025), Statistics.quantileOfSorted(finite, 0.975)
        };
  }

  /** The paired difference to another estimate from the same draws. */
  public Estimate minus(Estimate other) {
    double[] differences = new double[draws.length];
    for (int d = 0; d < differences.length; d++) {
      differences[d] = draws[d] - other.draws[d];
    }
    return new Estimate(value - other.value, differences);
  }

  /** The estimate of a function of this value. */
  public Estimate map(DoubleUnaryOperator f) {
    return new Estimate(f.applyAsDouble(value), Arrays.stream(draws).map(f).toArray());
  }
}
