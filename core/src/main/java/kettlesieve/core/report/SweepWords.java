package kettlesieve.core.report;

import java.math.BigDecimal;
import java.math.MathContext;
import kettlesieve.core.score.odds.OddsWords;
import kettlesieve.core.score.odds.SweepOdds;

/** Which amounts of a tool are as good as its best, in words. */
public final class SweepWords {
  private SweepWords() {}

  /**
   * An amount as people write it: whole numbers as they are, others with three digits that count.
   */
  public static String amount(double amount) {
    if (amount == Math.rint(amount) && Math.abs(amount) < 1e9) {
      return Long.toString((long) amount);
    }
    return BigDecimal.valueOf(amount)
        .round(new MathContext(3))
        .stripTrailingZeros()
        .toPlainString();
  }

  /** The plateau in a sentence, and on which side of it the tool is probably worse. */
  public static String plateau(SweepOdds odds) {
    int last = odds.amounts().size() - 1;
    if (odds.from() == 0 && odds.to() == last) {
      return "no amount from "
          + amount(odds.amounts().get(0))
          + " to "
          + amount(odds.amounts().get(last))
          + " can be called better than the others";
    }
    StringBuilder words = new StringBuilder();
    words.append(
        odds.from() == odds.to()
            ? "best at " + amount(odds.amounts().get(odds.from()))
            : "anything from "
                + amount(odds.amounts().get(odds.from()))
                + " to "
                + amount(odds.amounts().get(odds.to()))
                + " is as good");
    if (odds.from() > 0) {
      words
          .append("; under ")
          .append(amount(odds.amounts().get(odds.from())))
          .append(" is probably worse (")
          .append(OddsWords.tenths(1 - odds.under(odds.from())))
          .append(")");
    }
    if (odds.to() < last) {
      words
          .append("; over ")
          .append(amount(odds.amounts().get(odds.to())))
          .append(" is probably worse (")
          .append(OddsWords.tenths(1 - odds.above(odds.to())))
          .append(")");
    }
    return words.toString();
  }
}
