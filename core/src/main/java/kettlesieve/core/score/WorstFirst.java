package kettlesieve.core.score;

/**
 * The one formula of all scores: what is missing to 100, joined as the root of the weighted mean of
 * squares, so that the worst flaw weighs most. A question joins its readings by it, the overall
 * score its questions; passages, ears and "what if" ask for the same.
 */
public final class WorstFirst {
  private double squares;
  private double weights;

  /** Takes in one shortfall, 0 to 100 points. */
  public void add(double shortfall, double weight) {
    squares += cost(shortfall, weight);
    weights += weight;
  }

  /** The score, 0 to 100; NaN if nothing with a weight was taken in. */
  public double score() {
    return weights > 0 ? 100 - Math.sqrt(squares / weights) : Double.NaN;
  }

  /** What a shortfall counts for among others. */
  static double cost(double shortfall, double weight) {
    return weight * shortfall * shortfall;
  }
}
