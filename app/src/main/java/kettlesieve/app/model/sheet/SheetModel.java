package kettlesieve.app.model.sheet;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.app.model.Numbers;
import kettlesieve.core.measure.Address;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Places;
import kettlesieve.core.score.Ranked;
import kettlesieve.core.score.ReferenceOrder;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.odds.OddsWords;

/**
 * What the sheet shows: rows of versions (and of their excerpts), columns of scores and readings,
 * and what stands in each cell. Knows nothing of windows.
 */
public final class SheetModel {
  /** The word of the column of overall scores. */
  public static final String OVERALL = "overall";

  /**
   * A column.
   *
   * @param group what it stands in
   * @param measure what is read; null for the score of the question, or for the place
   */
  public record Column(Group group, Declaration measure) {
    /** The word that it is sorted by. */
    public String id() {
      return measure != null ? measure.id() : group.id();
    }

    /** Its head. */
    public String title() {
      return measure != null ? measure.title() : group == Group.AGAINST ? "Place" : "Score";
    }

    /** What its figures are in. */
    public String unit() {
      return measure != null ? measure.unit() : group == Group.AGAINST ? "" : "of 100";
    }
  }

  /**
   * A row.
   *
   * @param entry what it shows
   * @param index number of the version in the comparison, from 0
   * @param excerpt name of the excerpt it is of; empty for the version itself
   */
  public record Row(Entry entry, int index, String excerpt) {
    /** Whether it is a version's own row. */
    public boolean main() {
      return excerpt.isEmpty();
    }
  }

  /**
   * What stands in a cell.
   *
   * @param text a figure, or a dash
   * @param score 0 to 100; NaN where there is none
   * @param hint all that a tool tip says
   * @param spoken for a screen reader
   */
  public record Cell(String text, double score, String hint, String spoken) {}

  private final List<Column> columns;
  private final List<Row> rows;
  private final ScoreSheet sheet;
  private final Optional<ReferenceOrder> against;
  private final Map<Part, SheetOdds> odds = new HashMap<>();

  private SheetModel(
      ScoreSheet sheet, Optional<ReferenceOrder> against, List<Column> columns, List<Row> rows) {
    this.sheet = sheet;
    this.against = against;
    this.columns = List.copyOf(columns);
    this.rows = List.copyOf(rows);
  }

  /**
   * Lays out a sheet.
   *
   * @param part what is shown of every version
   * @param beside further parts whose rows stand under each version's own
   * @param ids of the versions in the comparison's order
   */
  public static SheetModel of(
      ScoreSheet sheet, Part part, List<Part> beside, SheetLayout layout, List<String> ids) {
    List<Column> columns = columns(sheet, layout);
    Optional<ReferenceOrder> against = ReferenceOrder.of(sheet, part);
    SheetModel order = new SheetModel(sheet, against, columns, List.of());
    List<Entry> entries = new ArrayList<>(sheet.entries(part));
    entries.sort(Comparator.comparingInt(e -> ids.indexOf(e.version().id())));
    if (!layout.sortedBy().isEmpty()) {
      String by = layout.sortedBy();
      Comparator<Entry> best = Comparator.comparingDouble(e -> -order.merit(e, by));
      // What has no figure in this column comes last either way.
      entries.sort(
          Comparator.comparing((Entry e) -> Double.isNaN(order.merit(e, by)))
              .thenComparing(layout.worstFirst() ? best.reversed() : best));
    }
    List<Row> rows = new ArrayList<>();
    for (Entry entry : entries) {
      int index = ids.indexOf(entry.version().id());
      rows.add(new Row(entry, index, ""));
      for (Part more : beside) {
        sheet
            .entry(more, entry.version().id())
            .ifPresent(e -> rows.add(new Row(e, index, more.excerpt())));
      }
    }
    return new SheetModel(sheet, against, columns, rows);
  }

  private static List<Column> columns(ScoreSheet sheet, SheetLayout layout) {
    List<Column> columns = new ArrayList<>();
    for (Group group : Group.values()) {
      List<Declaration> own =
          sheet.columns().stream().filter(d -> Group.of(d, sheet.job()) == group).toList();
      if (own.isEmpty()) {
        continue;
      }
      columns.add(new Column(group, null));
      if (!layout.folded(group)) {
        own.stream()
            .filter(d -> layout.shown(d.id()))
            .forEach(d -> columns.add(new Column(group, d)));
      }
    }
    return columns;
  }

  /** The columns after that of the overall score: of each question its score, then its readings. */
  public List<Column> columns() {
    return columns;
  }

  /** The rows, in their order. */
  public List<Row> rows() {
    return rows;
  }

  /** How good a version is in a column; NaN without a figure. */
  private double merit(Entry entry, String column) {
    if (column.equals(OVERALL)) {
      return entry.card().overall().map(Estimate::value).orElse(Double.NaN);
    }
    if (column.equals(Group.AGAINST.id())) {
      return against
          .map(o -> o.places().get(entry.version().id()))
          .map(p -> -(p.from() + p.to()) / 2.0)
          .orElse(Double.NaN);
    }
    for (Axis axis : Axis.values()) {
      if (axis.id().equals(column)) {
        Estimate score = entry.card().axes().get(axis);
        return score == null ? Double.NaN : score.value();
      }
    }
    Optional<Reading> reading = entry.reading(column);
    Declaration declaration = Measures.declaration(column);
    if (reading.isEmpty() || declaration == null) {
      return Double.NaN;
    }
    double value = reading.get().scored().value();
    // Beyond both ends of the scale the values still have an order.
    return sheet
        .scoring()
        .scale(declaration, sheet.job())
        .map(s -> s.full() > s.zero() ? value : -value)
        .orElse(value);
  }

  private SheetOdds oddsOf(Part part) {
    return odds.computeIfAbsent(part, p -> SheetOdds.of(sheet, p));
  }

  /** The overall score of a row, with its place. */
  public Cell overall(Row row) {
    Ranked ranked = row.entry().ranked();
    String text = ranked.card().overall().map(o -> Numbers.fixed(o.value(), 0)).orElse("–");
    String place = Places.words(ranked);
    SheetOdds chances = oddsOf(row.entry().part());
    String ties =
        ranked.tiedWith().isEmpty()
            ? ""
            : "\nnot told apart from " + String.join(", ", ranked.tiedWith());
    String hint =
        ranked
            .card()
            .overall()
            .map(
                o ->
                    "Overall "
                        + Numbers.fixed(o.value(), 1)
                        + ", 95 % interval "
                        + Numbers.fixed(o.low(), 1)
                        + " to "
                        + Numbers.fixed(o.high(), 1)
                        + "\nplace "
                        + place
                        + chances
                            .of(row.entry().version().id())
                            .map(x -> "\ntruly the best in " + OddsWords.tenths(x.best()))
                            .orElse("")
                        + ties)
            .orElse("No score: there is no reading to make one of");
    return new Cell(text, Double.NaN, hint, "overall " + text + ", place " + place);
  }

  /** A cell of a row. */
  public Cell cell(Row row, Column column) {
    if (column.measure() != null) {
      return reading(row, column);
    }
    return column.group() == Group.AGAINST ? place(row) : axisScore(row, column.group().axis());
  }

  /** The place against the clean recording, and where the scores say otherwise. */
  private Cell place(Row row) {
    String id = row.entry().version().id();
    if (!row.main() || against.isEmpty() || !against.get().places().containsKey(id)) {
      return new Cell("", Double.NaN, "", "");
    }
    String label = row.entry().version().label();
    String place = against.get().places().get(id).words();
    List<String> otherwise =
        against.get().disagreements().stream()
            .filter(d -> d.byScore().equals(label) || d.byReference().equals(label))
            .map(ReferenceOrder.Disagreement::line)
            .toList();
    String hint =
        "Place "
            + place
            + " against the clean recording"
            + (otherwise.isEmpty() ? "" : "\n" + String.join("\n", otherwise));
    return new Cell(
        otherwise.isEmpty() ? place : place + " ≠",
        Double.NaN,
        hint,
        "place " + place + " against the clean recording");
  }

  private static Cell axisScore(Row row, Axis axis) {
    Estimate score = row.entry().card().axes().get(axis);
    if (axis == Axis.INFO || score == null) {
      String why =
          axis == Axis.INFO ? "" : "No reading of " + axis.title() + " could be taken here";
      return new Cell(axis == Axis.INFO ? "" : "–", Double.NaN, why, why);
    }
    StringBuilder made = new StringBuilder();
    made.append(axis.title()).append(' ').append(Numbers.fixed(score.value(), 1));
    made.append(", 95 % interval ")
        .append(Numbers.fixed(score.low(), 1))
        .append(" to ")
        .append(Numbers.fixed(score.high(), 1));
    for (Card.Part part : row.entry().card().parts().getOrDefault(axis, List.of())) {
      made.append('\n')
          .append(Measures.declaration(part.measure()).title())
          .append(": score ")
          .append(Numbers.fixed(part.score(), 0))
          .append(", weight ")
          .append(Numbers.fixed(part.weight(), 1))
          .append(", makes ")
          .append(Numbers.fixed(100 * part.share(), 0))
          .append(" % of the shortfall");
    }
    String text = Numbers.fixed(score.value(), 0);
    return new Cell(text, Double.NaN, made.toString(), axis.title() + " " + text);
  }

  private Cell reading(Row row, Column column) {
    Declaration d = column.measure();
    String who = d.title() + " of " + row.entry().version().label();
    Optional<Reading> found = row.entry().reading(d.id());
    if (found.isEmpty()) {
      String reason = row.entry().reasonNotMeasured(d.id()).orElse("not measured");
      return new Cell(
          "–", Double.NaN, "Not measured: " + reason, who + ": not measured, " + reason);
    }
    Reading r = found.get();
    String value = Numbers.reading(r);
    double score =
        sheet
            .scoring()
            .scale(d, sheet.job())
            .map(s -> s.score(r.scored().value()))
            .orElse(Double.NaN);
    String hint =
        value
            + " "
            + d.unit()
            + ", 95 % interval "
            + Numbers.reading(r.estimate().low(), d.unit())
            + " to "
            + Numbers.reading(r.estimate().high(), d.unit());
    return new Cell(value, score, hint, who + ": " + value + " " + d.unit());
  }

  /** The address of a cell's reading. */
  public static Address address(Row row, Column column) {
    return new Address(row.entry().version().id(), row.entry().part(), column.measure().id(), "");
  }

  /** The reading that costs a version most in points of its own scale; the first if none does. */
  public static String costliest(ScoreSheet sheet, Entry entry) {
    String worst = sheet.columns().get(0).id();
    double lowest = 101;
    for (Declaration d : sheet.columns()) {
      var scale = sheet.scoring().scale(d, sheet.job());
      var reading = entry.reading(d.id());
      if (scale.isPresent() && reading.isPresent()) {
        double score = scale.get().score(reading.get().scored().value());
        if (score < lowest) {
          lowest = score;
          worst = d.id();
        }
      }
    }
    return worst;
  }

  /** A version's row as text, a tab between columns: heads with their units, then figures. */
  public String text(String versionId) {
    StringBuilder heads = new StringBuilder("Version\tOverall");
    StringBuilder figures = new StringBuilder();
    for (Row row : rows()) {
      if (!row.main() || !row.entry().version().id().equals(versionId)) {
        continue;
      }
      figures.append(row.entry().version().label()).append('\t').append(overall(row).text());
      for (Column column : columns()) {
        String unit = column.unit().isEmpty() ? "" : " (" + column.unit() + ")";
        heads.append('\t').append(column.title()).append(unit);
        figures.append('\t').append(cell(row, column).text());
      }
    }
    return figures.isEmpty() ? "" : heads + "\n" + figures + "\n";
  }
}
