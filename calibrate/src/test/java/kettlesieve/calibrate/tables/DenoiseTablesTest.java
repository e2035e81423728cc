package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.Trial;
import kettlesieve.calibrate.truth.Truth;
import org.junit.jupiter.api.Test;

/** What the tables of denoise count, on trials whose outcome is plain. */
class DenoiseTablesTest {
  private static final Map<String, Trial.Score> NO_HARM =
      Map.of("missed", score(90), "added", score(100), "lost", score(100));

  private static Trial.Score score(double value) {
    return new Trial.Score(value, value - 1, value + 1);
  }

  private static Trial.Figure figure(double value, double half) {
    return new Trial.Figure(value, value, value - half, value + half, value - half, value + half);
  }

  /** The better the truth, the larger {@code siSdr}; the other two overall truths follow it. */
  private static Trial.Judged version(
      String maker,
      Maker.Kind kind,
      double siSdr,
      double overall,
      int rank,
      Map<String, Trial.Score> axes,
      List<Map<String, Trial.Figure>> halves) {
    Truth truth = new Truth(siSdr, 0.5 + siSdr / 100, siSdr, siSdr, siSdr, -siSdr, siSdr, -siSdr);
    Map<String, Trial.Figure> readings = new LinkedHashMap<>();
    readings.put("pause-noise", figure(-30, 1));
    readings.put("detail-loss", figure(0.1, 0.05));
    return new Trial.Judged(
        maker,
        kind,
        truth,
        readings,
        Map.of(),
        axes,
        score(overall),
        rank,
        rank,
        halves,
        new float[0]);
  }

  private static Trial trial(Half half, String kind, double mild, List<String> notices) {
    List<Map<String, Trial.Figure>> apart =
        List.of(
            Map.of("pause-noise", figure(-30, 1), "flutter", figure(0, 0)),
            Map.of("pause-noise", figure(-31, 1), "flutter", figure(0, 0)));
    List<Map<String, Trial.Figure>> farApart =
        List.of(Map.of("pause-noise", figure(-30, 1)), Map.of("pause-noise", figure(-34, 1)));
    return new Trial(
        new Scene(half.word() + kind, half, "reader", kind + "-noise", kind, true, 10, 1),
        notices,
        List.of(
            version("clean", Maker.Kind.IDEAL, 40, 95, 1, NO_HARM, apart),
            version("partial-14", Maker.Kind.IDEAL, 24, 90, 2, NO_HARM, apart),
            version("mild", Maker.Kind.REAL, 14, mild, 3, NO_HARM, farApart),
            version(
                "untouched",
                Maker.Kind.UNTOUCHED,
                10,
                60,
                4,
                Map.of("missed", score(0), "added", score(99.5), "lost", score(98)),
                apart)));
  }

  private static String printed(Trial... trials) {
    StringWriter text = new StringWriter();
    new DenoiseTables(new PrintWriter(text), List.of(trials)).print();
    return text.toString();
  }

  private static String row(String tables, String title, String name) {
    int from = tables.indexOf("### " + title);
    assertThat(from).as(title).isNotNegative();
    return tables
        .substring(from)
        .lines()
        .filter(l -> l.startsWith("| " + name + " |"))
        .findFirst()
        .orElseThrow(() -> new AssertionError(name + " is missing under " + title));
  }

  @Test
  void eachHalfIsCountedByItself() {
    String tables =
        printed(
            trial(Half.SETTING, "hiss", 80, List.of()),
            trial(Half.REPORTING, "hiss", 50, List.of()));
    // Six pairs, all clear; in the reporting half the mild version stands under the source.
    assertThat(row(tables, "Order", "all")).isEqualTo("| all | 100.0 % of 6 | 83.3 % of 6 |");
    assertThat(row(tables, "Order", "without ideal versions"))
        .isEqualTo("| without ideal versions | 100.0 % of 1 | 0.0 % of 1 |");
    assertThat(row(tables, "Order", "with mild"))
        .isEqualTo("| with mild | 100.0 % of 3 | 66.7 % of 3 |");
    assertThat(row(tables, "Order", "noise hiss")).contains("100.0 % of 6 | 83.3 % of 6");
  }

  @Test
  void whatOnlyOneHalfHasIsADashInTheOther() {
    String tables =
        printed(
            trial(Half.SETTING, "hiss", 80, List.of()),
            trial(Half.REPORTING, "wind", 80, List.of()));
    assertThat(row(tables, "Order", "noise wind")).isEqualTo("| noise wind | – | 100.0 % of 6 |");
    assertThat(row(tables, "Pauses", "wind: told of")).isEqualTo("| wind: told of | – | 0 of 1 |");
  }

  @Test
  void neutralCasesNameTheirWorst() {
    String tables =
        printed(
            trial(Half.SETTING, "hiss", 80, List.of()),
            trial(Half.REPORTING, "hiss", 80, List.of()));
    assertThat(row(tables, "Neutral", "the clean recording has first place"))
        .contains("1 of 1 | 1 of 1");
    assertThat(row(tables, "Neutral", "untouched: 99 or more on added"))
        .contains("1 of 1, least 99.50");
    assertThat(row(tables, "Neutral", "untouched: 99 or more on lost"))
        .contains("0 of 1, least 98.00");
  }

  @Test
  void sourcesThatWereWarnedOfAreCountedByKind() {
    List<String> told = List.of("pauses: the noise in the pauses is not steady");
    String tables =
        printed(
            trial(Half.SETTING, "babble", 80, told),
            trial(Half.REPORTING, "babble", 80, List.of("the file has changed")));
    assertThat(row(tables, "Pauses", "babble: told of"))
        .isEqualTo("| babble: told of | 1 of 1 | 0 of 1 |");
    assertThat(row(tables, "Pauses", "scored without marks")).contains("1 of 1 | 1 of 1");
  }

  /**
   * A difference of 1 lies within two intervals of ±1, one of 4 does not; equal ones say nothing.
   */
  @Test
  void halvesThatTheirIntervalsCoverAreCounted() {
    String tables =
        printed(
            trial(Half.SETTING, "hiss", 80, List.of()),
            trial(Half.REPORTING, "hiss", 80, List.of()));
    assertThat(row(tables, "First half", "pause-noise")).contains("75.0 % of 4");
    assertThat(row(tables, "First half", "all that are scored")).contains("75.0 % of 4");
  }
}
