package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.Heard;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.score.Heading;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.Passages;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.score.VersionFacts;
import org.junit.jupiter.api.Test;

/** Who leads where, in words, as a list, as cues and as one signal. */
class PassageWordsTest {
  private static final int RATE = 1000;
  private static final Passages PASSAGES =
      new Passages(
          List.of(
              new Passages.Passage(0, 2, "a", 80, 12, true, true, "musical-noise"),
              new Passages.Passage(2, 4, "a", 70, 4, false, true, ""),
              new Passages.Passage(4, 6, "b", 40, 9, true, false, "voice-loss"),
              new Passages.Passage(6, 8, "", 0, 0, false, true, "")));

  private static ScoreSheet sheet() {
    MediaFacts facts = new MediaFacts("00", 1, "wav", "pcm", 16, false, RATE, 1, 8 * RATE);
    Match match = new Match(0, 0, 1, 0, 0, 1, 1, RATE, 1, "", 0, 8, List.of(), List.of());
    Scoring scoring = Scoring.shipped();
    return ScoreSheet.of(
        new Heading(Job.DENOISE, scoring.profileOrDefault(null), scoring, Path.of("s.wav"), facts),
        List.of(version("a", "=Mild", facts, match), version("b", "Strong", facts, match)),
        List.of(),
        List.of(),
        List.of());
  }

  private static Measured version(String id, String label, MediaFacts facts, Match match) {
    return Measured.of(
        VersionFacts.of(id, label, Path.of(id + ".wav"), facts, match),
        new Readings(List.of(), List.of()));
  }

  @Test
  void neighboursOfOneLeaderAreOneStretch() {
    List<Passages.Passage> stretches = PASSAGES.stretches();
    assertThat(stretches).extracting(Passages.Passage::leader).containsExactly("a", "b", "");
    assertThat(stretches.get(0).to()).isEqualTo(4);
    assertThat(stretches.get(0).score()).isCloseTo(75, within(1e-9));
    assertThat(stretches.get(0).margin()).isCloseTo(8, within(1e-9));
    assertThat(stretches.get(0).reason()).isEqualTo("musical-noise");
  }

  @Test
  void wordsSayWhoByHowMuchAndWhy() {
    List<String> lines =
        PASSAGES.stretches().stream().map(p -> PassageWords.of(sheet(), p, Clock.PLAIN)).toList();
    assertThat(lines)
        .containsExactly(
            "0:00.0–0:04.0  =Mild, 8 points ahead: musical noise",
            "0:04.0–0:06.0  Strong, 9 points ahead: voice loss; nobody masters it",
            "0:06.0–0:08.0  nothing measured");
    Passages.Passage close = new Passages.Passage(0, 2, "b", 80, 1, false, true, "");
    assertThat(PassageWords.of(sheet(), close, Clock.PLAIN))
        .isEqualTo("0:00.0–0:02.0  Strong, not surely ahead");
  }

  @Test
  void theListIsCsvAndItsLabelsAreNoFormulas() {
    assertThat(PassageWords.csv(sheet(), PASSAGES, Clock.PLAIN).lines())
        .hasSize(4)
        .startsWith("from,to,leader,score,margin,sure,reason,at")
        .noneMatch(line -> line.contains(",=Mild"));
    List<WavWriter.Cue> cues = PassageWords.cues(sheet(), PASSAGES, RATE);
    assertThat(cues).extracting(WavWriter.Cue::frame).containsExactly(0L, 4000L, 6000L);
    assertThat(cues.get(1).label()).isEqualTo("Strong");
  }

  @Test
  void theLeadersAreHeardOneAfterAnotherAtTheirLevel() {
    Map<String, Heard> heard = new LinkedHashMap<>();
    heard.put("a", constant(0.5f));
    heard.put("b", constant(-0.25f));
    LeadersAudio leaders = new LeadersAudio(PASSAGES, heard, RATE, 8 * RATE);
    float[] x = leaders.wholeChannel(0);
    assertThat(x).hasSize(8 * RATE);
    assertThat(x[0]).isEqualTo(0.5f);
    assertThat(x[3990]).isEqualTo(0.5f);
    assertThat(x[4010]).isEqualTo(-0.25f);
    // Where nothing was measured the last leader goes on.
    assertThat(x[7999]).isEqualTo(-0.25f);
    for (int i = 3994; i < 4006; i++) {
      assertThat(Math.abs(x[i] - x[i - 1])).isLessThan(0.1f);
    }
    // Read in pieces it is the same.
    float[] piece = leaders.samples(0, 3998, 7);
    for (int i = 0; i < piece.length; i++) {
      assertThat(piece[i]).isEqualTo(x[3998 + i]);
    }
  }

  private static Heard constant(float value) {
    float[] x = new float[8 * RATE];
    java.util.Arrays.fill(x, value);
    return new Heard(Audio.of(RATE, x), TimeMap.IDENTITY, Map.of());
  }
}
