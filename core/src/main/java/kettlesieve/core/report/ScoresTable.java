package kettlesieve.core.report;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.match.Fairness;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;

/** Writes a score sheet as a table for people, versions from the best to the worst. */
public final class ScoresTable {
  private ScoresTable() {}

  /** The sheet as plain text. */
  public static String write(ScoreSheet sheet) {
    List<List<String>> rows = new ArrayList<>();
    List<String> head = new ArrayList<>(List.of("rank", "version", "overall"));
    List<Axis> axes = List.of(Axis.MISSED, Axis.ADDED, Axis.LOST);
    axes.forEach(a -> head.add(a.id()));
    List<Declaration> measures =
        Measures.of(sheet.job()).stream()
            .map(m -> m.declaration())
            .filter(d -> sheet.entries().stream().anyMatch(e -> e.reading(d.id()).isPresent()))
            .toList();
    measures.forEach(d -> head.add(d.unit().isEmpty() ? d.id() : d.id() + " [" + d.unit() + "]"));
    boolean costs = sheet.entries().stream().anyMatch(e -> !e.measured().cost().none());
    if (costs) {
      head.add("cost");
    }
    rows.add(head);
    for (Entry entry : sheet.ranked()) {
      List<String> row = new ArrayList<>();
      row.add(rank(entry));
      row.add(entry.measured().label());
      row.add(entry.card().overall().map(e -> number(e.value(), 0)).orElse("–"));
      for (Axis axis : axes) {
        var score = entry.card().axes().get(axis);
        row.add(score == null ? "–" : number(score.value(), 0));
      }
      for (Declaration d : measures) {
        int decimals = d.unit().equals("Hz") ? 0 : 1;
        row.add(entry.reading(d.id()).map(r -> number(r.value(), decimals)).orElse("–"));
      }
      if (costs) {
        row.add(cost(entry.measured().cost()));
      }
      rows.add(row);
    }
    StringBuilder text = new StringBuilder();
    text.append(sheet.job().title())
        .append(", profile ")
        .append(sheet.profile().title())
        .append(" (scores 0 to 100; = marks ties)\n\n");
    append(text, rows);
    sheet
        .failed()
        .forEach(f -> text.append("\nfailed: " + f.label() + " (" + f.file() + "): " + f.reason()));
    sheet.warnings().forEach(w -> text.append("\nwarning: ").append(w));
    for (Fairness.Item item : sheet.allFairness()) {
      text.append("\nunfair: ")
          .append(item.version().isEmpty() ? "" : item.version() + ": ")
          .append(item.found() + " – " + item.done());
    }
    return text.append('\n').toString();
  }

  private static String cost(Cost cost) {
    List<String> parts = new ArrayList<>();
    if (cost.seconds() != null) {
      parts.add(number(cost.seconds(), 1) + " s");
    }
    if (cost.price() != null) {
      parts.add(cost.price());
    }
    if (cost.realTime() != null) {
      parts.add(cost.realTime() ? "real time" : "offline");
    }
    return parts.isEmpty() ? "–" : String.join(", ", parts);
  }

  private static String rank(Entry entry) {
    if (entry.rank() == 0) {
      return "–";
    }
    return entry.rank() + (entry.tiedWith().isEmpty() ? "" : "=");
  }

  private static void append(StringBuilder text, List<List<String>> rows) {
    int columns = rows.get(0).size();
    int[] widths = new int[columns];
    for (List<String> row : rows) {
      for (int c = 0; c < columns; c++) {
        widths[c] = Math.max(widths[c], row.get(c).length());
      }
    }
    for (List<String> row : rows) {
      for (int c = 0; c < columns; c++) {
        String pad = " ".repeat(widths[c] - row.get(c).length());
        text.append(c == 1 ? row.get(c) + pad : pad + row.get(c))
            .append(c + 1 < columns ? "  " : "\n");
      }
    }
  }

  private static String number(double value, int decimals) {
    return String.format(Locale.ROOT, "%." + decimals + "f", value + 0.0).replace('-', '−');
  }
}
