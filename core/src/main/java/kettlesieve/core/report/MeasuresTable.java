package kettlesieve.core.report;

import java.util.Arrays;
import java.util.Comparator;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.score.Scoring;

/** The table of all measures for the documentation: drawn from what they declare. */
public final class MeasuresTable {
  private MeasuresTable() {}

  /** The whole table in Markdown, in the order of the sheet. */
  public static String write() {
    StringBuilder text = new StringBuilder();
    text.append("| reading | question | unit | how | source |\n|---|---|---|---|---|\n");
    Measures.all().stream()
        .map(Measure::declaration)
        .sorted(
            Comparator.comparingInt((Declaration d) -> Scoring.shipped().order().indexOf(d.id())))
        .forEach(d -> text.append(row(d)).append('\n'));
    return text.toString();
  }

  /** One row of it. */
  public static String row(Declaration d) {
    return "| `"
        + d.id()
        + "` | "
        + Arrays.stream(Job.values())
            .filter(d.jobs()::contains)
            .map(j -> d.axis(j).id() + " in " + j.id())
            .collect(Collectors.joining(", "))
        + " | "
        + d.unit()
        + " | "
        + plain(d.formula())
        + " | "
        + plain(d.source())
        + " |";
  }

  private static String plain(String text) {
    return text.replace("|", "\\|");
  }
}
