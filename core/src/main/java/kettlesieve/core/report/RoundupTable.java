package kettlesieve.core.report;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import kettlesieve.core.roundup.Agreement;
import kettlesieve.core.roundup.Difficulties;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.score.odds.OddsWords;

/** A round-up as text for people. */
public final class RoundupTable {
  private static final int LONGEST_NAME = 40;

  private RoundupTable() {}

  /** Lines with a line feed at the end of each. */
  public static String write(Roundup roundup, int cores) {
    StringBuilder text = new StringBuilder();
    text.append(roundup.aspect().title())
        .append(" of ")
        .append(roundup.job().title().toLowerCase(Locale.ROOT))
        .append(" over ")
        .append(RoundupWords.recordings(roundup.all().recordings()))
        .append(", profile ")
        .append(roundup.profile())
        .append("\n\n");
    rows(text, roundup, roundup.all(), cores);
    text.append('\n');
    RoundupWords.answer(roundup, roundup.all()).forEach(l -> text.append(l).append('\n'));
    RoundupWords.tests(roundup.all()).forEach(l -> text.append(l).append('\n'));
    List<String> tags = RoundupWords.tags(roundup);
    if (!tags.isEmpty()) {
      text.append("\nBy tag\n");
      tags.forEach(l -> text.append("  ").append(l).append('\n'));
    }
    Difficulties.of(roundup)
        .ifPresent(
            d -> {
              text.append("\nBy difficulty (").append(d.title().toLowerCase(Locale.ROOT));
              text.append(", ").append(d.unit()).append(")\n");
              RoundupWords.difficulties(d).forEach(l -> text.append("  ").append(l).append('\n'));
            });
    Agreement.of(roundup)
        .ifPresent(
            a -> {
              text.append("\nAgainst the clean recordings\n");
              RoundupWords.agreement(a).forEach(l -> text.append("  ").append(l).append('\n'));
            });
    if (!roundup.failed().isEmpty()) {
      text.append("\nLeft out\n");
      roundup
          .failed()
          .forEach(
              f ->
                  text.append("  ")
                      .append(f.file())
                      .append(f.label().isEmpty() ? "" : ": " + f.label())
                      .append(": ")
                      .append(f.reason())
                      .append('\n'));
    }
    return text.toString();
  }

  private static void rows(StringBuilder text, Roundup roundup, Roundup.Table table, int cores) {
    List<String[]> rows = new ArrayList<>();
    rows.add(
        new String[] {
          roundup.by() == Roundup.By.TOOL ? "Tool" : "Version",
          "Mean",
          "95 %",
          "Wins",
          "Ties",
          "Tried",
          "Worst",
          "Best in",
          "Takes"
        });
    for (Roundup.Row e : table.entries()) {
      rows.add(
          new String[] {
            shortened(e.name()),
            RoundupWords.value(roundup, e.mean()),
            Double.isFinite(e.low())
                ? RoundupWords.value(roundup, e.low())
                    + " to "
                    + RoundupWords.value(roundup, e.high())
                : "–",
            String.valueOf(e.wins()),
            String.valueOf(e.ties()),
            e.measured() + " of " + table.recordings(),
            e.worst(roundup.direction())
                .map(w -> RoundupWords.value(roundup, w.getValue().value()))
                .orElse("–"),
            Double.isFinite(e.best()) ? OddsWords.ofTen(e.best()) : "–",
            RoundupWords.shortCost(e.cost(), cores)
          });
    }
    int[] widths = new int[rows.get(0).length];
    rows.forEach(
        r -> {
          for (int i = 0; i < r.length; i++) {
            widths[i] = Math.max(widths[i], r[i].codePointCount(0, r[i].length()));
          }
        });
    for (String[] r : rows) {
      StringBuilder line = new StringBuilder();
      for (int i = 0; i < r.length; i++) {
        String pad = " ".repeat(widths[i] - r[i].codePointCount(0, r[i].length()));
        boolean left = i == 0 || i == r.length - 1;
        line.append(left ? r[i] + pad : pad + r[i]).append("  ");
      }
      text.append(line.toString().stripTrailing()).append('\n');
    }
  }

  private static String shortened(String name) {
    return name.length() <= LONGEST_NAME ? name : name.substring(0, LONGEST_NAME - 1) + "…";
  }
}
