package kettlesieve.core.score;

/** A place in the ranking in words. */
public final class Places {
  private Places() {}

  /** {@code 1}, {@code 1–3}, or a dash for a version without a score. */
  public static String words(Ranked ranked) {
    if (ranked.rank() == 0) {
      return "–";
    }
    return ranked.rank() == ranked.rankTo()
        ? Integer.toString(ranked.rank())
        : ranked.rank() + "–" + ranked.rankTo();
  }
}
