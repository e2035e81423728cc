package kettlesieve.core.report;

import java.io.IOException;
import java.io.OutputStream;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import kettlesieve.core.roundup.Agreement;
import kettlesieve.core.roundup.Difficulties;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.roundup.RoundupMaker;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.score.odds.OddsWords;

/** A round-up as one HTML page that needs nothing else, or as PDF. */
public final class RoundupPage {
  private static final int MOST_COLUMNS = 12;

  private RoundupPage() {}

  /** What the template shows. */
  public record Page(
      String title,
      String date,
      String profile,
      String rows,
      String what,
      String aspect,
      List<String> answer,
      List<Line> entries,
      List<String> tests,
      List<String> tags,
      List<String> difficulties,
      String plot,
      List<String> agreement,
      List<CellTable> cellTables,
      List<String> failed,
      String program) {}

  /** A row of the ranking. */
  public record Line(
      int number,
      String name,
      String missing,
      String mean,
      double bar,
      String best,
      String worst,
      String wins,
      String cost) {}

  /** Recordings down, some of the tools across. */
  public record CellTable(List<Integer> numbers, List<CellLine> lines) {}

  /** A recording. */
  public record CellLine(String name, String tags, List<CellValue> cells) {}

  /** One on one recording. */
  public record CellValue(String value, boolean best) {}

  /** The page. */
  public static String html(Roundup roundup, int cores, LocalDate day, String program) {
    return ReportPage.filled("roundup.ftlh", page(roundup, cores, day, program), false);
  }

  /**
   * The same as PDF; the same round-up gives the same bytes.
   *
   * @throws IOException if it cannot be written
   */
  public static void pdf(
      Roundup roundup, int cores, LocalDate day, String program, OutputStream out)
      throws IOException {
    Page page = page(roundup, cores, day, program);
    ReportPage.printed(ReportPage.filled("roundup.ftlh", page, true), page.date(), out);
  }

  private static Page page(Roundup roundup, int cores, LocalDate day, String program) {
    boolean tools = roundup.by() == Roundup.By.TOOL;
    Optional<Difficulties> difficulties = Difficulties.of(roundup);
    return new Page(
        "Round-up of "
            + roundup.job().title().toLowerCase(Locale.ROOT)
            + " over "
            + RoundupWords.recordings(roundup.all().recordings()),
        day.toString(),
        roundup.profile(),
        tools
            ? "Each tool stands there with the best of its versions on each recording."
            : "Each version stands for itself.",
        tools ? "Tool" : "Version",
        roundup.aspect().title()
            + (roundup.aspect().unit().isEmpty() ? "" : ", " + roundup.aspect().unit()),
        RoundupWords.answer(roundup, roundup.all()),
        lines(roundup, cores),
        RoundupWords.tests(roundup.all()),
        RoundupWords.tags(roundup),
        difficulties.map(RoundupWords::difficulties).orElse(List.of()),
        difficulties.map(DifficultySvg::of).orElse(""),
        Agreement.of(roundup).map(RoundupWords::agreement).orElse(List.of()),
        cells(roundup),
        roundup.failed().stream()
            .map(f -> f.file() + (f.label().isEmpty() ? "" : ", " + f.label()) + ": " + f.reason())
            .toList(),
        program);
  }

  private static List<Line> lines(Roundup roundup, int cores) {
    List<Line> lines = new ArrayList<>();
    for (Roundup.Row e : roundup.all().entries()) {
      boolean interval = Double.isFinite(e.low());
      int missing = roundup.all().recordings() - e.measured();
      lines.add(
          new Line(
              lines.size() + 1,
              e.name(),
              missing == 0 ? "" : "not tried on " + missing,
              RoundupWords.value(roundup, e.mean())
                  + (interval
                      ? " ("
                          + RoundupWords.value(roundup, e.low())
                          + " to "
                          + RoundupWords.value(roundup, e.high())
                          + ")"
                      : ""),
              roundup.aspect().score() ? Math.round(e.mean()) : -1,
              Double.isFinite(e.best()) ? OddsWords.ofTen(e.best()) : "–",
              e.worst(roundup.direction())
                  .map(w -> RoundupWords.value(roundup, w.getValue().value()))
                  .orElse("–"),
              e.wins() + ", " + e.ties(),
              RoundupWords.shortCost(e.cost(), cores)));
    }
    return lines;
  }

  private static List<CellTable> cells(Roundup roundup) {
    List<CellTable> tables = new ArrayList<>();
    List<Roundup.Row> entries = roundup.all().entries();
    for (int from = 0; from < entries.size(); from += MOST_COLUMNS) {
      int to = Math.min(entries.size(), from + MOST_COLUMNS);
      List<Integer> numbers = new ArrayList<>();
      for (int i = from; i < to; i++) {
        numbers.add(i + 1);
      }
      List<CellLine> lines = new ArrayList<>();
      for (int c = 0; c < roundup.comparisons().size(); c++) {
        ScoredComparison comparison = roundup.comparisons().get(c);
        double best = RoundupMaker.best(roundup, c);
        List<CellValue> values = new ArrayList<>();
        for (Roundup.Row e : entries.subList(from, to)) {
          Roundup.Cell cell = e.cells().get(c);
          values.add(
              cell == null
                  ? new CellValue("–", false)
                  : new CellValue(RoundupWords.value(roundup, cell.value()), cell.value() == best));
        }
        lines.add(new CellLine(comparison.title(), String.join(", ", comparison.tags()), values));
      }
      tables.add(new CellTable(numbers, lines));
    }
    return tables;
  }
}
