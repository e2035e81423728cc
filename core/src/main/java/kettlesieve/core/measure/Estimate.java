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
    return Math.min(value, percentile(0.025));
  }

  /** Upper end of the 95 % interval, never below the value. */
  public double high() {
    return Math.max(value, percentile(0.975));
  }

  private double percentile(double share) {
    double[] finite = Arrays.stream(draws).filter(Double::isFinite).toArray();
    return finite.length == 0 ? value : Statistics.quantile(finite, share);
  }

  /** The estimate of a function of this value. */
  public Estimate map(DoubleUnaryOperator f) {
    return new Estimate(f.applyAsDouble(value), Arrays.stream(draws).map(f).toArray());
  }
}
