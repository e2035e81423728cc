package kettlesieve.core.pins;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.score.Scale;
import kettlesieve.core.score.Scoring;
import org.junit.jupiter.api.Test;

/**
 * The scales stand in {@code scores.json} alone: the table that people read is written from it by
 * {@code ./kettle pins}, and compared here.
 */
class ScaleTableTest {
  private static final Path PAGE = Path.of("../docs/scores.md");
  private static final String FROM =
      "<!-- scales: written by ./kettle pins, compared by a test -->\n";
  private static final String TO = "<!-- end of scales -->";

  @Test
  void theTableIsThatOfTheScales() throws Exception {
    String page = Files.readString(PAGE, StandardCharsets.UTF_8);
    int from = page.indexOf(FROM) + FROM.length();
    int to = page.indexOf(TO);
    assertThat(from).isGreaterThan(FROM.length());
    assertThat(to).isGreaterThanOrEqualTo(from);
    if (Boolean.getBoolean("pins.remake")) {
      Files.writeString(PAGE, page.substring(0, from) + table() + page.substring(to));
    } else {
      assertThat(page.substring(from, to)).isEqualTo(table());
    }
  }

  private static String table() {
    StringBuilder text =
        new StringBuilder("\n| measure | 100 at | 0 at | weight |\n|---|---|---|---|\n");
    Scoring scoring = Scoring.shipped();
    for (String id : scoring.order()) {
      Scoring.ScaleByJob scales = scoring.scales().get(id);
      if (scales == null) {
        continue;
      }
      row(text, "`" + id + "`", id, scales.usual());
      for (Job job : Job.values()) {
        Scale own = scales.in() == null ? null : scales.in().get(job.id());
        if (own != null) {
          row(text, "`" + id + "` in " + job.id(), id, own);
        }
      }
    }
    return text.append('\n').toString();
  }

  private static void row(StringBuilder text, String name, String id, Scale scale) {
    String unit = Measures.scoredUnit(id);
    text.append("| ").append(name).append(" | ").append(number(scale.full(), unit));
    text.append(" | ").append(number(scale.zero(), unit)).append(" | ");
    text.append(number(scale.weight(), "")).append(" |\n");
  }

  private static String number(double value, String unit) {
    String digits =
        value == Math.rint(value)
            ? String.format(Locale.ROOT, "%.0f", value)
            : String.valueOf(value);
    return digits.replace('-', '−') + (unit.isEmpty() ? "" : " " + unit);
  }
}
