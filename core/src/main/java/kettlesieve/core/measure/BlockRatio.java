package kettlesieve.core.measure;

import java.util.function.DoubleUnaryOperator;

/** Two sums gathered by bootstrap block, for their ratio under the bootstrap: a weighted mean. */
public final class BlockRatio {
  private final SourceAnalysis source;
  private final double[] parts;
  private final double[] wholes;

  /**
   * Nothing gathered yet.
   *
   * @param source whose blocks they are
   */
  public BlockRatio(SourceAnalysis source) {
    this.source = source;
    this.parts = new double[source.timeline().blocks()];
    this.wholes = new double[parts.length];
  }

  /** Adds to the sums of a block. */
  public void add(int block, double part, double whole) {
    parts[block] += part;
    wholes[block] += whole;
  }

  /** The ratio as it is shown, and its distribution; NaN where nothing was drawn. */
  public Estimate estimate(DoubleUnaryOperator shown) {
    return source
        .bootstrap()
        .estimate(
            w -> {
              double part = 0;
              double whole = 0;
              for (int b = 0; b < w.length; b++) {
                part += w[b] * parts[b];
                whole += w[b] * wholes[b];
              }
              return whole > 0 ? shown.applyAsDouble(part / whole) : Double.NaN;
            });
  }
}
