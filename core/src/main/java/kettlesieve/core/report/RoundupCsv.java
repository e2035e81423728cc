package kettlesieve.core.report;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.roundup.RoundupTests;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/**
 * Writes a round-up as CSV (RFC 4180): a row of kind {@code entry} each tool, {@code cell} each
 * tool on each recording, {@code pair} every two tools; the tag says over which recordings, empty
 * for all.
 */
public final class RoundupCsv {
  private static final List<String> COLUMNS =
      List.of(
          "tag",
          "kind",
          "name",
          "other",
          "comparison",
          "version",
          "value",
          "overall",
          "missed",
          "added",
          "lost",
          "rank",
          "rankTo",
          "mean",
          "low",
          "high",
          "wins",
          "ties",
          "measured",
          "better",
          "worse",
          "equal",
          "p",
          "pHolm",
          "best");

  private RoundupCsv() {}

  /** The round-up as CSV text. */
  public static String write(Roundup roundup) {
    StringBuilder text = new StringBuilder();
    try (CSVPrinter csv = new CSVPrinter(text, CSVFormat.RFC4180)) {
      csv.printRecord(COLUMNS);
      table(csv, "", roundup, roundup.all());
      for (var tagged : roundup.byTag().entrySet()) {
        table(csv, tagged.getKey(), roundup, tagged.getValue());
      }
    } catch (IOException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
    return text.toString();
  }

  private static void table(CSVPrinter csv, String tag, Roundup roundup, Roundup.Table table)
      throws IOException {
    for (Roundup.Row e : table.entries()) {
      Map<String, Object> row = row(tag, "entry", e.name());
      row.put("mean", number(e.mean()));
      row.put("low", number(e.low()));
      row.put("high", number(e.high()));
      row.put("wins", e.wins());
      row.put("ties", e.ties());
      row.put("measured", e.measured());
      row.put("best", number(e.best()));
      print(csv, row);
      if (tag.isEmpty()) {
        for (var cell : e.cells().entrySet()) {
          print(csv, cell(roundup, e.name(), cell.getKey(), cell.getValue()));
        }
      }
    }
    if (table.tests().isPresent()) {
      for (RoundupTests.Pair p : table.tests().get().pairs()) {
        Map<String, Object> row = row(tag, "pair", p.a());
        row.put("other", ScoresCsv.cell(p.b()));
        row.put("better", p.better());
        row.put("worse", p.worse());
        row.put("equal", p.equal());
        row.put("p", p.p());
        row.put("pHolm", p.corrected());
        print(csv, row);
      }
    }
  }

  private static Map<String, Object> cell(
      Roundup roundup, String name, int comparison, Roundup.Cell cell) {
    Map<String, Object> row = row("", "cell", name);
    row.put("comparison", ScoresCsv.cell(roundup.comparisons().get(comparison).file()));
    row.put("version", ScoresCsv.cell(cell.label()));
    row.put("value", number(cell.value()));
    if (cell.scores().overall() != null) {
      row.put("overall", number(cell.scores().overall()));
    }
    cell.scores().axes().forEach((axis, score) -> row.put(axis, number(score)));
    if (cell.scores().rank() > 0) {
      row.put("rank", cell.scores().rank());
      row.put("rankTo", cell.scores().rankTo());
    }
    return row;
  }

  private static Map<String, Object> row(String tag, String kind, String name) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("tag", ScoresCsv.cell(tag));
    row.put("kind", kind);
    row.put("name", ScoresCsv.cell(name));
    return row;
  }

  private static void print(CSVPrinter csv, Map<String, Object> row) throws IOException {
    csv.printRecord(COLUMNS.stream().map(c -> row.getOrDefault(c, "")));
  }

  private static Object number(double value) {
    return Double.isFinite(value) ? Math.round(value * 1e6) / 1e6 + 0.0 : "";
  }
}
