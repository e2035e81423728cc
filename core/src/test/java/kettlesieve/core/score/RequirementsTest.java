package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.Requirement;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The hard limits of a delivery, kept and not kept. */
class RequirementsTest {
  private static final int RATE = 16_000;

  @TempDir private Path folder;

  @Test
  void wordsAreReadAndWrittenAndNonsenseIsAnswered() {
    Requirement one = Requirement.parse(" pause-noise.dBFS ≤ −60 ");
    assertThat(one).isEqualTo(new Requirement("pause-noise", "dBFS", "<=", -60));
    assertThat(Requirement.parse("bandwidth >= 12000").words()).isEqualTo("bandwidth >= 12000");
    assertThat(one.metBy(-60)).isTrue();
    assertThat(one.metBy(-59.99)).isFalse();
    for (String words : List.of("", "bandwidth", "bandwidth < 3", "a b <= 3", "x <= many")) {
      assertThatThrownBy(() -> Requirement.parse(words))
          .as(words)
          .isInstanceOf(IllegalArgumentException.class);
    }
  }

  /**
   * Limits of spoken books, common practice: pauses at −60 dBFS RMS or less, peaks at −3 dBFS or
   * less. Files lie half a decibel on either side of each.
   */
  @Test
  void limitsOfSpokenBooksPassAndFailHalfADecibelOnEitherSide() throws Exception {
    float[] speech = Arrays.copyOf(Sounds.speech16(), 8 * RATE);
    float[] noise = Sounds.white(speech.length, 3);
    double rms = Sounds.rms(noise);
    double loudest = 0;
    for (float v : speech) {
      loudest = Math.max(loudest, Math.abs(v));
    }
    float[] source = new float[speech.length];
    float[] clean = new float[speech.length];
    for (int i = 0; i < source.length; i++) {
      boolean pause = i % (3 * RATE) < RATE;
      clean[i] = pause ? 0 : (float) (speech[i] / loudest * 0.5);
      source[i] = clean[i] + 0.003f * noise[i] / (float) rms;
    }
    List<TimeSpan> marked =
        List.of(new TimeSpan(0.1, 0.9), new TimeSpan(3.1, 3.9), new TimeSpan(6.1, 6.9));
    PreparedExcerpt preparedExcerpt =
        PreparedExcerpt.of(Audio.of(RATE, source), null, null, marked);
    MediaFacts facts = new MediaFacts("00", 1, "wav", "pcm", 16, false, RATE, 1, source.length);
    List<Measured> measured = new ArrayList<>();
    double[] pauses = {-60.5, -59.5, -60.5};
    double[] peaks = {-3.5, -3.5, -2.5};
    for (int v = 0; v < pauses.length; v++) {
      double level = Math.pow(10, pauses[v] / 20) / rms;
      float[] version = new float[source.length];
      double most = 0;
      for (int i = 0; i < version.length; i++) {
        version[i] = (float) (clean[i] + level * noise[i]);
        most = Math.max(most, Math.abs(version[i]));
      }
      // The level of the whole is matched: a single sample makes the peak, and no more.
      int at = 2 * RATE;
      version[at] = (float) Math.pow(10, peaks[v] / 20);
      assertThat(most).isLessThan(version[at]);
      MatchedVersion matched = preparedExcerpt.match(Audio.of(RATE, version), MatchOverride.NONE);
      measured.add(
          Measured.of(
              VersionFacts.of("v" + v, "v" + v, Path.of("v" + v + ".wav"), facts, matched.match()),
              preparedExcerpt.measure(matched, Set.of("pause-noise", "level-change"))));
    }
    Scoring scoring = Scoring.shipped();
    ScoreSheet sheet =
        ScoreSheet.of(
            new Heading(
                Job.DENOISE, scoring.profileOrDefault("book"), scoring, Path.of("s.wav"), facts),
            measured,
            List.of(),
            List.of(),
            List.of());
    JsonNode versions = new ObjectMapper().readTree(ScoresJson.write(sheet, null)).path("versions");
    boolean[][] kept = {{true, true}, {false, true}, {true, false}};
    for (int v = 0; v < kept.length; v++) {
      JsonNode limits = versions.get(v).path("requirements");
      assertThat(limits).hasSize(2);
      for (int i = 0; i < 2; i++) {
        assertThat(limits.get(i).path("meets").asBoolean())
            .as("version " + v + " " + limits.get(i))
            .isEqualTo(kept[v][i]);
      }
      assertThat(limits.get(0).path("value").asDouble()).isCloseTo(pauses[v], within(0.3));
      assertThat(limits.get(1).path("value").asDouble()).isCloseTo(peaks[v], within(0.01));
    }
    List<Requirements.Outcome> second = Requirements.of(sheet.entries().get(1), sheet.profile());
    assertThat(second.get(0).by()).isCloseTo(0.5, within(0.3));
    assertThat(Requirements.word(second)).contains("1 limit not kept");
  }

  @Test
  void whatCannotBeToldIsSaidAndOnesOwnAreKeptInTheFile() throws Exception {
    var own = Scoring.shipped().profileOrDefault("book").named("harbour", "Harbour museum");
    Comparison comparison =
        Comparison.empty("own", Job.DENOISE).withOwnProfile(own).withProfile("harbour");
    Path file = folder.resolve("own.sieve");
    ComparisonFile.save(comparison, file);
    assertThat(ComparisonFile.load(file).profiles()).containsExactly(own);
    assertThat(own.requirements()).hasSize(2);
    Requirements.Outcome untold =
        new Requirements.Outcome(
            own.requirements().get(0),
            java.util.Optional.empty(),
            kettlesieve.core.measure.Limit.NONE,
            java.util.Optional.empty());
    assertThat(untold.by()).isZero();
    assertThat(Requirements.word(List.of(untold))).contains("not all limits can be told");
    assertThat(Requirements.word(List.of())).isEmpty();
  }
}
