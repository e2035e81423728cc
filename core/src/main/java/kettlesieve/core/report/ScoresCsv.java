package kettlesieve.core.report;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.fairness.Fairness;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.odds.Odds;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/**
 * Writes a score sheet as CSV (RFC 4180): one row a reading, then one row for each axis and for the
 * overall score of each version with its chance to be the best, the chance to be better than each
 * other, then what was unfair and what was done about it.
 */
public final class ScoresCsv {
  private ScoresCsv() {}

  /** The sheet as CSV text. */
  public static String write(ScoreSheet sheet) {
    StringBuilder text = new StringBuilder();
    try (CSVPrinter csv = new CSVPrinter(text, CSVFormat.RFC4180)) {
      csv.printRecord(
          "version", "rank", "measure", "axis", "unit", "value", "low", "high", "score", "note",
          "rankTo", "limit", "best");
      SheetOdds whole = SheetOdds.of(sheet, Part.ALL);
      Map<String, SheetOdds> odds = new HashMap<>();
      for (Entry entry : sheet.entries()) {
        rows(csv, sheet, entry, whole);
        for (String role : entry.version().stems().keySet()) {
          Optional<Entry> stem = sheet.entry(Part.ofRole(role), entry.version().id());
          if (stem.isPresent()) {
            rows(
                csv,
                sheet,
                stem.get(),
                odds.computeIfAbsent(role, r -> SheetOdds.of(sheet, Part.ofRole(r))));
          }
        }
      }
      for (Failure f : sheet.failed()) {
        csv.printRecord(
            cell(f.label()), "", "", "", "", "", "", "", "", "failed: " + f.reason(), "", "", "");
      }
      for (Fairness.Item item : sheet.allFairness()) {
        csv.printRecord(
            cell(item.version()),
            "",
            "fairness",
            item.matter(),
            "",
            "",
            "",
            "",
            "",
            item.found() + ": " + item.done(),
            "",
            "",
            "");
      }
    } catch (IOException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
    return text.toString();
  }

  private static void rows(CSVPrinter csv, ScoreSheet sheet, Entry entry, SheetOdds odds)
      throws IOException {
    // A stem is named as on the command line.
    String role = entry.part().role();
    String label = cell(entry.version().label() + (role.isEmpty() ? "" : "/" + role));
    String rank = place(entry.rank());
    String rankTo = place(entry.rankTo());
    for (Reading r : entry.taken().readings()) {
      Declaration d = Measures.declaration(r.measure());
      String score =
          sheet
              .scoring()
              .scale(d, sheet.job())
              .map(s -> number(s.score(r.scored().value())))
              .orElse("");
      csv.printRecord(
          label,
          rank,
          r.measure(),
          d.axis(sheet.job()).id(),
          d.unit(),
          number(r.value()),
          number(r.estimate().low()),
          number(r.estimate().high()),
          score,
          String.join("; ", r.notes()),
          rankTo,
          r.limit().words(),
          "");
    }
    for (NotMeasured n : entry.taken().notMeasured()) {
      csv.printRecord(label, rank, n.measure(), "", "", "", "", "", "", n.reason(), rankTo, "", "");
    }
    for (var axis : entry.card().axes().entrySet()) {
      score(csv, label, rank, axis.getKey().id(), axis.getValue(), rankTo, "");
    }
    if (entry.card().overall().isPresent()) {
      Optional<Odds> own = odds.of(entry.version().id());
      String best = own.map(o -> chance(o.best())).orElse("");
      score(csv, label, rank, "overall", entry.card().overall().get(), rankTo, best);
      if (own.isPresent()) {
        better(csv, sheet, label, rank, rankTo, own.get());
      }
    }
  }

  /** A row for each other version: the chance to be truly better. */
  private static void better(
      CSVPrinter csv, ScoreSheet sheet, String label, String rank, String rankTo, Odds odds)
      throws IOException {
    for (Measured other : sheet.versions()) {
      Double chance = odds.better().get(other.version().id());
      if (chance != null) {
        csv.printRecord(
            label,
            rank,
            "better than",
            cell(other.version().label()),
            "chance",
            chance(chance),
            "",
            "",
            "",
            "",
            rankTo,
            "",
            "");
      }
    }
  }

  private static String chance(double chance) {
    return String.format(Locale.ROOT, "%.3f", chance);
  }

  private static String place(int place) {
    return place == 0 ? "" : Integer.toString(place);
  }

  private static void score(
      CSVPrinter csv,
      String label,
      String rank,
      String axis,
      Estimate score,
      String rankTo,
      String best)
      throws IOException {
    csv.printRecord(
        label,
        rank,
        "score",
        axis,
        "points",
        number(score.value()),
        number(score.low()),
        number(score.high()),
        number(score.value()),
        "",
        rankTo,
        "",
        best);
  }

  /** A label that a spreadsheet cannot take for a formula. */
  static String cell(String label) {
    return !label.isEmpty() && "=+-@".indexOf(label.charAt(0)) >= 0 ? "'" + label : label;
  }

  private static String number(double value) {
    return String.format(Locale.ROOT, "%.4f", value + 0.0);
  }
}
