package kettlesieve.core.report;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Passages;
import kettlesieve.core.score.ScoreSheet;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/** Who leads where, in words, as CSV and as cues. */
public final class PassageWords {
  private PassageWords() {}

  private static String label(ScoreSheet sheet, Passages.Passage p) {
    return sheet.entries().stream()
        .filter(e -> e.version().id().equals(p.leader()))
        .map((Entry e) -> e.version().label())
        .findFirst()
        .orElse("nothing measured");
  }

  /** One stretch in a line. */
  public static String of(ScoreSheet sheet, Passages.Passage p, Clock clock) {
    String where = clock.text(p.from()) + "–" + clock.text(p.to()) + "  " + label(sheet, p);
    if (p.leader().isEmpty()) {
      return where;
    }
    String reason = Passages.title(p.reason());
    String lead =
        p.sure()
            ? String.format(Locale.ROOT, ", %.0f points ahead", p.margin())
                + (reason.isEmpty() ? "" : ": " + reason.toLowerCase(Locale.ROOT))
            : ", not surely ahead";
    return where + lead + (p.mastered() ? "" : "; nobody masters it");
  }

  /**
   * All stretches as CSV with the columns from, to, leader, score, margin, sure, reason, at; from
   * and to are seconds, at is the begin as the comparison tells times.
   */
  public static String csv(ScoreSheet sheet, Passages passages, Clock clock) {
    StringBuilder text = new StringBuilder();
    try (CSVPrinter csv = new CSVPrinter(text, CSVFormat.RFC4180)) {
      csv.printRecord("from", "to", "leader", "score", "margin", "sure", "reason", "at");
      for (Passages.Passage p : passages.stretches()) {
        csv.printRecord(
            String.format(Locale.ROOT, "%.3f", p.from()),
            String.format(Locale.ROOT, "%.3f", p.to()),
            ScoresCsv.cell(label(sheet, p)),
            String.format(Locale.ROOT, "%.1f", p.score()),
            String.format(Locale.ROOT, "%.1f", p.margin()),
            p.sure() ? "yes" : "no",
            p.reason(),
            clock.text(p.from()));
      }
    } catch (IOException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
    return text.toString();
  }

  /** A cue where the leader changes. */
  public static List<WavWriter.Cue> cues(ScoreSheet sheet, Passages passages, int rate) {
    List<WavWriter.Cue> cues = new ArrayList<>();
    for (Passages.Passage p : passages.stretches()) {
      cues.add(new WavWriter.Cue(Math.round(p.from() * rate), label(sheet, p)));
    }
    return cues;
  }
}
