package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.corpus.RoomScene;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.RoomTrial;
import kettlesieve.calibrate.trial.Verdict;
import org.junit.jupiter.api.Test;

/** What the tables count, on trials whose outcome is plain. */
class DereverbTablesTest {
  private static RoomTrial.Judged version(
      String maker, Maker.Kind kind, double siSdr, double left, double overall) {
    Map<String, Double> axes = Map.of("missed", overall, "added", 99.5, "lost", 98.0);
    return new RoomTrial.Judged(
        maker, kind, siSdr, left, new Verdict(Map.of(), axes, overall), Map.of());
  }

  /** All makers that the tables ask for, the untouched source at 60 points and 0 dB. */
  private static RoomTrial trial(Half half, double subtraction) {
    List<RoomTrial.Judged> all = new ArrayList<>();
    all.add(version("untouched", Maker.Kind.UNTOUCHED, 0, 0, 60));
    all.add(version("late-6", Maker.Kind.IDEAL, 6, -6, 75));
    all.add(version("late-12", Maker.Kind.IDEAL, 12, -12, 85));
    all.add(version("late-none", Maker.Kind.IDEAL, 60, -60, Double.NaN));
    all.add(version("more-room", Maker.Kind.BAD, -5, 4, 50));
    all.add(version("subtraction-30", Maker.Kind.REAL, 3, -3, subtraction));
    for (String bad : List.of("dull", "wavering", "chopped", "gate", "twice")) {
      all.add(version(bad, Maker.Kind.BAD, 0.5, -1, 60));
    }
    return new RoomTrial(new RoomScene(half.word(), half, "voice", 0.5, 0, 50, 1), List.of(), all);
  }

  private static String printed(List<RoomTrial> trials) {
    StringWriter text = new StringWriter();
    new DereverbTables(new PrintWriter(text), trials).print();
    return text.toString();
  }

  private static String row(String tables, String title, String name) {
    return tables
        .substring(tables.indexOf(title))
        .lines()
        .filter(l -> l.startsWith("| " + name + " |"))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void eachHalfHasItsColumnAndNoFigureIsNeverRight() {
    String tables = printed(List.of(trial(Half.SETTING, 70), trial(Half.REPORTING, 55)));
    // With the source one clear pair, right in the one half and wrong in the other.
    assertThat(row(tables, "Overall", "processors, and the source"))
        .isEqualTo("| processors, and the source | 100.0 % of 1 | 0.0 % of 1 |");
    // late-none has no score: every pair with it counts, and none is right.
    assertThat(row(tables, "Overall", "with late-none")).contains("| 0.0 % of 9 | 0.0 % of 9 |");
    assertThat(row(tables, "Overall", "with dull")).contains("– | –");
  }

  @Test
  void neutralCasesAndFlawsAreCounted() {
    String tables = printed(List.of(trial(Half.SETTING, 70)));
    assertThat(row(tables, "Neutral", "late-6: 99 or more on added")).contains("1 of 1");
    assertThat(row(tables, "Neutral", "late-6: 99 or more on lost")).contains("0 of 1");
    assertThat(row(tables, "Neutral", "more room ranks under the source")).contains("1 of 1");
    assertThat(row(tables, "Flaws", "chopped, lost")).contains("0 of 1");
  }
}
