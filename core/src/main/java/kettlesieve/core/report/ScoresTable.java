package kettlesieve.core.report;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.ShortLabels;
import kettlesieve.core.fairness.Fairness;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Places;
import kettlesieve.core.score.ReferenceOrder;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.odds.OddsWords;

/**
 * Writes a score sheet as a table for people, versions from the best to the worst: places, scores
 * and the two readings that cost most, within the width of the terminal; or every reading.
 */
public final class ScoresTable {
  /** Width where none is known, characters. */
  public static final int USUAL_WIDTH = 100;

  private static final List<Axis> AXES = List.of(Axis.MISSED, Axis.ADDED, Axis.LOST);
  private static final int SHORTEST_LABEL = 12;
  private static final int MOST_COSTLY = 2;

  private ScoresTable() {}

  /**
   * The sheet as plain text.
   *
   * @param width no line of the table is longer, down to 60 characters
   * @param all whether every reading is shown, however wide that gets
   */
  public static String write(ScoreSheet sheet, int width, boolean all) {
    StringBuilder text = new StringBuilder();
    text.append(sheet.job().title())
        .append(", profile ")
        .append(sheet.profile().title())
        .append(" (scores 0 to 100; a range of places: not told apart for sure)\n\n");
    append(text, all ? every(sheet) : brief(sheet, Math.max(60, width)));
    for (Failure f : sheet.failed()) {
      text.append("\nfailed: " + f.label() + " (" + f.file() + "): " + f.reason());
    }
    ReferenceOrder.of(sheet, Part.ALL).ifPresent(order -> against(sheet, order, text));
    sheet.allNotices().forEach(n -> text.append("\nwarning: ").append(n.line()));
    unfair(sheet, text);
    return text.append('\n').toString();
  }

  /** The order against the clean recording, the best first. */
  private static void against(ScoreSheet sheet, ReferenceOrder order, StringBuilder text) {
    text.append("\nagainst the clean recording: ")
        .append(
            sheet.entries().stream()
                .filter(e -> order.places().containsKey(e.version().id()))
                .sorted(Comparator.comparingInt(e -> order.places().get(e.version().id()).from()))
                .map(e -> order.places().get(e.version().id()).words() + " " + e.version().label())
                .collect(Collectors.joining(", ")));
    order.disagreements().forEach(d -> text.append("\n  ").append(d.line()));
  }

  private static List<List<String>> brief(ScoreSheet sheet, int width) {
    boolean costs = costs(sheet);
    SheetOdds odds = SheetOdds.of(sheet, Part.ALL);
    List<String> head = new ArrayList<>(List.of("place", "version", "overall", "best in"));
    AXES.forEach(a -> head.add(a.id()));
    if (costs) {
      head.add("cost");
    }
    head.add("costs most");
    List<List<String>> rows = new ArrayList<>(List.of(head));
    for (Entry entry : sheet.ranked(Part.ALL)) {
      List<String> row = new ArrayList<>(scores(entry, odds));
      if (costs) {
        row.add(cost(entry.version().cost()));
      }
      row.add(costliest(sheet, entry));
      rows.add(row);
    }
    int last = head.size() - 1;
    int fixed = 0;
    for (int c = 0; c < head.size(); c++) {
      fixed += c == 1 || c == last ? 2 : width(rows, c) + 2;
    }
    int left = Math.max(2 * SHORTEST_LABEL, width - fixed);
    int label = Math.min(width(rows, 1), Math.max(SHORTEST_LABEL, left - width(rows, last)));
    List<String> labels =
        ShortLabels.of(rows.subList(1, rows.size()).stream().map(r -> r.get(1)).toList(), label);
    for (int i = 0; i < labels.size(); i++) {
      rows.get(i + 1).set(1, labels.get(i));
    }
    rows.forEach(row -> row.set(last, cut(row.get(last), left - label)));
    return rows;
  }

  private static List<List<String>> every(ScoreSheet sheet) {
    List<Declaration> measures =
        sheet.scoring().declarations(sheet.job()).stream()
            .filter(d -> sheet.entries().stream().anyMatch(e -> e.reading(d.id()).isPresent()))
            .toList();
    boolean costs = costs(sheet);
    SheetOdds odds = SheetOdds.of(sheet, Part.ALL);
    List<String> head = new ArrayList<>(List.of("place", "version", "overall", "best in"));
    AXES.forEach(a -> head.add(a.id()));
    measures.forEach(d -> head.add(d.unit().isEmpty() ? d.id() : d.id() + " [" + d.unit() + "]"));
    if (costs) {
      head.add("cost");
    }
    List<List<String>> rows = new ArrayList<>(List.of(head));
    for (Entry entry : sheet.ranked(Part.ALL)) {
      List<String> row = new ArrayList<>(scores(entry, odds));
      for (Declaration d : measures) {
        row.add(entry.reading(d.id()).map(r -> value(d, r)).orElse("–"));
      }
      if (costs) {
        row.add(cost(entry.version().cost()));
      }
      rows.add(row);
    }
    return rows;
  }

  private static List<String> scores(Entry entry, SheetOdds odds) {
    List<String> row = new ArrayList<>();
    row.add(Places.words(entry.ranked()));
    row.add(entry.version().label());
    row.add(entry.card().overall().map(e -> number(e.value(), 0)).orElse("–"));
    row.add(odds.of(entry.version().id()).map(o -> OddsWords.ofTen(o.best())).orElse("–"));
    for (Axis axis : AXES) {
      Estimate score = entry.card().axes().get(axis);
      row.add(score == null ? "–" : number(score.value(), 0));
    }
    return row;
  }

  /** The readings that cost a version most, with their values. */
  private static String costliest(ScoreSheet sheet, Entry entry) {
    List<Card.Part> parts = new ArrayList<>();
    entry.card().parts().values().forEach(parts::addAll);
    return parts.stream()
        .filter(p -> p.score() < 99)
        .sorted(Comparator.comparingDouble(p -> -p.weight() * Math.pow(100 - p.score(), 2)))
        .limit(MOST_COSTLY)
        .map(
            p -> {
              Declaration d = Measures.declaration(p.measure());
              Reading r = entry.reading(p.measure()).orElseThrow();
              return d.id() + " " + value(d, r) + (d.unit().isEmpty() ? "" : " " + d.unit());
            })
        .collect(Collectors.joining(", "));
  }

  private static String value(Declaration d, Reading r) {
    return r.limit().sign() + number(r.value(), d.unit().equals("Hz") ? 0 : 1);
  }

  /** What was unfair, the findings of a version together. */
  private static void unfair(ScoreSheet sheet, StringBuilder text) {
    Map<String, List<Fairness.Item>> byVersion = new LinkedHashMap<>();
    for (Fairness.Item item : sheet.allFairness()) {
      byVersion.computeIfAbsent(item.version(), v -> new ArrayList<>()).add(item);
    }
    if (byVersion.isEmpty()) {
      return;
    }
    text.append("\n\nWhat would have been unfair:");
    byVersion.forEach(
        (version, items) -> {
          text.append("\n  ").append(version.isEmpty() ? "between the versions" : version);
          items.forEach(i -> text.append("\n    ").append(i.found() + " – " + i.done()));
        });
  }

  private static boolean costs(ScoreSheet sheet) {
    return sheet.entries().stream().anyMatch(e -> !e.version().cost().none());
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

  private static int width(List<List<String>> rows, int column) {
    return rows.stream().mapToInt(row -> row.get(column).length()).max().orElse(0);
  }

  private static String cut(String text, int most) {
    return text.length() <= most ? text : text.substring(0, Math.max(1, most - 1)) + "…";
  }

  private static void append(StringBuilder text, List<List<String>> rows) {
    int columns = rows.get(0).size();
    boolean words = rows.get(0).get(columns - 1).equals("costs most");
    for (List<String> row : rows) {
      StringBuilder line = new StringBuilder();
      for (int c = 0; c < columns; c++) {
        String pad = " ".repeat(width(rows, c) - row.get(c).length());
        boolean left = c == 1 || words && c == columns - 1;
        line.append(left ? row.get(c) + pad : pad + row.get(c)).append("  ");
      }
      text.append(line.toString().stripTrailing()).append('\n');
    }
  }

  private static String number(double value, int decimals) {
    return String.format(Locale.ROOT, "%." + decimals + "f", value + 0.0).replace('-', '−');
  }
}
