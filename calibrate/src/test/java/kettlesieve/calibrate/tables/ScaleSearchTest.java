package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.Trial;
import kettlesieve.calibrate.truth.Truth;
import org.junit.jupiter.api.Test;

/** That scales are looked for on the setting half, and are found where there are better ones. */
class ScaleSearchTest {
  /**
   * Versions that differ in nothing but what they lost, all beyond the end of the shipped scale.
   */
  private static Trial trial(Half half) {
    List<Trial.Judged> versions = new ArrayList<>();
    double[] lost = {1.8, 2.2, 2.6, 3.0, 3.4};
    for (int i = 0; i < lost.length; i++) {
      double good = 20 - 4 * i;
      Map<String, Trial.Figure> readings = new LinkedHashMap<>();
      readings.put("pause-noise", figure(-30));
      readings.put("musical-noise", figure(0));
      readings.put("detail-loss", figure(lost[i]));
      versions.add(
          new Trial.Judged(
              "maker-" + i,
              i == 0 ? Maker.Kind.UNTOUCHED : Maker.Kind.REAL,
              new Truth(good, good / 25, good, good, good, -good, good, -good),
              readings,
              Map.of(),
              Map.of(),
              null,
              0,
              0,
              List.of(),
              new float[0]));
    }
    return new Trial(
        new Scene(half.word(), half, "reader", "hiss", "hiss", true, 10, 1), List.of(), versions);
  }

  private static Trial.Figure figure(double value) {
    return new Trial.Figure(value, value, value, value, value, value);
  }

  private static String printed(List<Trial> trials) {
    StringWriter text = new StringWriter();
    new ScaleSearch(trials).print(new PrintWriter(text));
    return text.toString();
  }

  private static String row(String tables, String name) {
    return tables
        .lines()
        .filter(l -> l.startsWith("| " + name + " |"))
        .findFirst()
        .orElseThrow(() -> new AssertionError(name + " is missing"));
  }

  @Test
  void aScaleThatEndsTooEarlyIsStretchedUntilTheOrderIsRight() {
    String tables = printed(List.of(trial(Half.SETTING)));
    // Equal scores count half.
    assertThat(row(tables, "as shipped")).isEqualTo("| as shipped | 50.0 % of 10 | – |");
    assertThat(row(tables, "as found")).isEqualTo("| as found | 100.0 % of 10 | – |");
    String[] cells = row(tables, "detail-loss").split("\\|");
    assertThat(cells[2].trim()).startsWith("0.20 / 1.50");
    double zero = Double.parseDouble(cells[3].replaceAll(".*/ *([0-9.]+),.*", "$1"));
    assertThat(zero).isGreaterThan(3);
  }

  @Test
  void whatTheReportingHalfSaysChangesNothing() {
    String alone = printed(List.of(trial(Half.SETTING)));
    String both = printed(List.of(trial(Half.SETTING), trial(Half.REPORTING)));
    for (String id : List.of("detail-loss", "pause-noise", "musical-noise")) {
      assertThat(row(both, id)).isEqualTo(row(alone, id));
    }
    String nothing = printed(List.of(trial(Half.REPORTING)));
    assertThat(row(nothing, "as found")).contains("| – | 50.0 % of 10 |");
  }
}
