package kettlesieve.core.score;

/** A place in the ranking in words. */
public final class Places {
  private Places() {}

  /** {@code 1}, {@code 1–3}, or a dash for a version without a score. */
  public static String words(Ranked ranked) {
    return ranked.rank() == 0 ? "–" : words(ranked.rank(), ranked.rankTo());
  }

  /** {@code 1} or {@code 1–3}. */
  static String words(int from, int to) {
    return from == to ? Integer.toString(from) : from + "–" + to;
  }
}
