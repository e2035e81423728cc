package kettlesieve.core.report;

import java.math.BigDecimal;
import java.math.MathContext;
import java.util.ArrayList;
import java.util.List;
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

  /** The plateau in a sentence, and that beyond it the tool is probably no better. */
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
    // How probably is not said: the draws of one recording are surer of it than trials bear out.
    List<String> beyond = new ArrayList<>();
    if (odds.from() > 0) {
      beyond.add("under " + amount(odds.amounts().get(odds.from())));
    }
    if (odds.to() < last) {
      beyond.add("over " + amount(odds.amounts().get(odds.to())));
    }
    words.append("; ").append(String.join(" or ", beyond)).append(" is probably no better");
    return words.toString();
  }
}
