package kettlesieve.core.report;

import java.util.Locale;
import kettlesieve.core.score.RankTests;

/** Rank tests as text for people. */
public final class RankTable {
  private RankTable() {}

  /** A few lines, with a line feed at the end of each. */
  public static String write(RankTests tests) {
    StringBuilder text = new StringBuilder();
    text.append(
        String.format(
            Locale.ROOT,
            "By rank over %d excerpts or comparisons: Friedman chi-square %.2f, p = %.4f%n",
            tests.occasions(),
            tests.chiSquare(),
            tests.p()));
    for (int i = 0; i < tests.labels().size(); i++) {
      text.append(
          String.format(
              Locale.ROOT, "  mean rank %.2f  %s%n", tests.meanRanks()[i], tests.labels().get(i)));
    }
    for (RankTests.Pairing pair : tests.pairs()) {
      text.append(
          String.format(
              Locale.ROOT,
              "  %s against %s: Wilcoxon p = %.4f%n",
              tests.labels().get(pair.first()),
              tests.labels().get(pair.second()),
              pair.p()));
    }
    return text.toString();
  }
}
