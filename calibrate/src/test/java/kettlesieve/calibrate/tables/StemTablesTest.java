package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.BandScene;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.trial.StemTrial;
import kettlesieve.calibrate.trial.Verdict;
import kettlesieve.calibrate.truth.StemTruth;
import org.junit.jupiter.api.Test;

/** What the tables of stems count, on trials whose outcome is plain. */
class StemTablesTest {
  private static StemTrial.Judged stem(
      String maker, double sdr, double sir, double bleed, double overall) {
    Map<String, Double> readings = Map.of("bleed", bleed);
    return new StemTrial.Judged(
        maker, "drums", new StemTruth(sdr, sir), new Verdict(readings, Map.of(), overall));
  }

  /** Four separators, each 2 dB better than the next; the last one's score is given. */
  private static StemTrial trial(Half half, double last) {
    List<StemTrial.Leak> leaks = new ArrayList<>();
    for (double db : new double[] {-60, -40, -30, -20, -10}) {
      Verdict said = new Verdict(Map.of(), Map.of("missed", -db * 2, "lost", 98.0), 90);
      leaks.add(new StemTrial.Leak(db, "drums", Math.max(-30, db), -30, said));
    }
    return new StemTrial(
        new BandScene("b", half, "band", "voice", 1),
        List.of(
            stem("good", 10, 20, -30, 95),
            stem("soft", 8, 15, -20, 90),
            stem("hard", 6, 18, -25, 85),
            stem("leaky", 4, 9, -12, last)),
        leaks);
  }

  private static String row(List<StemTrial> trials, String name) {
    StringWriter text = new StringWriter();
    new StemTables(new PrintWriter(text), trials).print();
    return text.toString()
        .lines()
        .filter(l -> l.startsWith("| " + name + " |"))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void orderAndBleedAreSetAgainstTheTruth() {
    List<StemTrial> trials = List.of(trial(Half.SETTING, 70), trial(Half.REPORTING, 99));
    assertThat(row(trials, "all, overall")).contains("100.0 % of 6 | 50.0 % of 6");
    assertThat(row(trials, "drums")).contains("100.0 % of 6 | 50.0 % of 6");
    assertThat(row(trials, "with leaky")).contains("100.0 % of 3 | 0.0 % of 3");
    assertThat(row(trials, "rank correlation of bleed with SIR, mean")).contains("1.00 over 1");
    assertThat(row(trials, "stems with an overall score")).contains("4 of 4");
  }

  @Test
  void leaksAreMeansAndNeutralStemsNeedNinetyNine() {
    List<StemTrial> trials = List.of(trial(Half.SETTING, 70));
    assertThat(row(trials, "−60 dB: mean bleed".replace('−', '-'))).contains("-30.00 dB");
    assertThat(row(trials, "-20 dB: mean bleed")).contains("-20.00 dB");
    assertThat(row(trials, "floor, mean")).contains("-30.00 dB");
    assertThat(row(trials, "−60 dB: 99 or more on missed")).contains("1 of 1");
    assertThat(row(trials, "−60 dB: 99 or more on lost")).contains("0 of 1");
    assertThat(row(trials, "−60 dB: 99 or more on added")).contains("0 of 0");
  }
}
