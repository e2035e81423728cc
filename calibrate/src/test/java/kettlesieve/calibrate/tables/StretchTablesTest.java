package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.BandScene;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.trial.StretchBench;
import kettlesieve.calibrate.trial.StretchTrial;
import kettlesieve.calibrate.trial.Verdict;
import kettlesieve.core.comparison.Job;
import org.junit.jupiter.api.Test;

/** What is counted, on verdicts made up for it. */
class StretchTablesTest {
  private static StretchTrial.Judged version(
      String material, String way, double amount, Map<String, Double> readings, double overall) {
    Verdict said = new Verdict(readings, Map.of("added", 100.0, "lost", 98.0), overall);
    return new StretchTrial.Judged(material, way, amount, said);
  }

  private static String printed(Job job, List<StretchTrial.Judged> versions) {
    BandScene scene = new BandScene("setting-a-b", Half.SETTING, "a", "b", 1);
    StringWriter text = new StringWriter();
    new StretchTables(new PrintWriter(text), job, List.of(new StretchTrial(scene, versions)))
        .print();
    return text.toString();
  }

  @Test
  void rightAndWrongAreCounted() {
    List<StretchTrial.Judged> versions = new ArrayList<>();
    versions.add(version("drums", "untouched", 1, Map.of(), 100));
    versions.add(
        version(
            "vocals", "speed-change", 2, Map.of("pitch-drift", -1197.0, "length-error", 0.3), 40));
    versions.add(
        version(
            "vocals",
            "waveform-overlap",
            2,
            Map.of("phasiness", 0.4, "pitch-drift", -3.0, "length-error", -0.05),
            90));
    double[] losses = {2, 5, 9, 8};
    for (int i = 0; i < losses.length; i++) {
      String way = StretchBench.free(StretchBench.WINDOWS.get(i));
      versions.add(version("drums", way, 2, Map.of("attack-loss", losses[i]), 50 - i));
    }
    assertThat(printed(Job.STRETCH, versions))
        .contains("99 or more on added | 1 of 1 | 0 of 0")
        .contains("99 or more on lost | 0 of 1 | 0 of 0")
        .contains("ratio within 0.1 %, stand-ins | 1 of 2")
        .contains("pitch kept within 10 cents, stand-ins | 1 of 1")
        .contains("change of speed within 5 cents of what it is | 1 of 1")
        .contains("phasiness of overlap in time under 1 dB, voices | 1 of 1")
        .contains("attack-loss, 1,024 to 4096 | 1 of 1 series")
        .contains("attack-loss, 1,024 to 8192 | 0 of 1 series")
        .contains("waveform-overlap | 90.0 over 1 | –");
  }

  @Test
  void formantsThatMovedAndThatStayedAreCounted() {
    List<StretchTrial.Judged> versions = new ArrayList<>();
    versions.add(version("vocals", "resampling-shift", 3, Map.of("formant-shift", 2.8), 60));
    versions.add(version("vocals", "resampling-shift", -3, Map.of("formant-shift", -2.2), 60));
    versions.add(
        version(
            "vocals",
            "formant-keeping-shift",
            3,
            Map.of("formant-shift", 0.2, "pitch-error", 12.0),
            80));
    assertThat(printed(Job.PITCH, versions))
        .contains("formants that moved: within 0.5 semitones of the shift, voices | 1 of 2")
        .contains("formants that were kept: within 0.5 semitones of none, voices | 1 of 1")
        .contains("pitch within 10 cents, vocals | 0 of 1");
  }
}
