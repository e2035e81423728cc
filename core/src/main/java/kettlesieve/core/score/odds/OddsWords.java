package kettlesieve.core.score.odds;

/** Odds in words: tenths and no finer, for no trial tells more. */
public final class OddsWords {
  private OddsWords() {}

  /** As "8 in 10"; what is nearer to all or nothing than half a tenth is "over 9" or "under 1". */
  public static String tenths(double chance) {
    String of = chance > 0.95 ? "over " : chance < 0.05 ? "under " : "";
    return of + Math.round(10 * Math.min(0.94, Math.max(0.06, chance))) + " in 10";
  }

  /** The same for a column: "8 of 10", "> 9 of 10", "< 1 of 10". */
  public static String ofTen(double chance) {
    return tenths(chance).replace(" in ", " of ").replace("over", ">").replace("under", "<");
  }

  /**
   * Whether one is better than another.
   *
   * @param chance that it is
   * @param told whether the recording itself tells them apart
   */
  public static String better(double chance, boolean told) {
    if (told && chance >= Validity.SURE) {
      return "surely";
    }
    return chance >= Validity.PROBABLE ? "probably (" + tenths(chance) + ")" : "open";
  }
}
