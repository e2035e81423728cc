package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Part;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Settling;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.ResultStore;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is said of a version that nothing was done to. */
class AnswerTest {
  private static final int RATE = 16_000;
  @TempDir Path folder;
  private float[] noisy;

  @BeforeEach
  void write() throws Exception {
    float[] speech = Sounds.speech16();
    float[] noise = Sounds.white(speech.length, 4);
    noisy = Sounds.mix(speech, noise, Sounds.noiseFactor(speech, noise, 15));
    Sounds.write(folder.resolve("source.wav"), RATE, noisy);
    Sounds.write(folder.resolve("same.wav"), RATE, noisy);
    float[] cut = Sounds.mix(speech, noise, 0.2 * Sounds.noiseFactor(speech, noise, 15));
    Sounds.write(folder.resolve("cleaned.wav"), RATE, cut);
    float[] chopped = cut.clone();
    for (int i = 0; i < chopped.length; i++) {
      chopped[i] = i / 800 % 2 == 0 ? 0 : (float) (Math.signum(chopped[i]) * 0.02);
    }
    Sounds.write(folder.resolve("ruined.wav"), RATE, chopped);
  }

  private Comparison comparison;

  private ScoreSheet sheet(String... names) throws Exception {
    comparison =
        Comparison.empty("t", Job.DENOISE).withSource(MediaRef.of(folder.resolve("source.wav")));
    List<Version> versions =
        java.util.Arrays.stream(names)
            .map(n -> Version.of(n, n, MediaRef.of(folder.resolve(n + ".wav"))))
            .toList();
    comparison = comparison.withVersions(versions);
    try (Conductor conductor =
        new Conductor(new MediaReader(folder.resolve("decoded")), ResultStore.inMemory())) {
      return conductor.run(comparison).sheet();
    }
  }

  private List<String> answer(String... names) throws Exception {
    ScoreSheet sheet = sheet(names);
    return new Answer(sheet, comparison).lines();
  }

  @Test
  void theSourceItselfIsNamedAndIsNotTheChoice() throws Exception {
    ScoreSheet sheet = sheet("same", "ruined");
    assertThat(sheet.entry(Part.ALL, "same").orElseThrow().version().sourceItself()).isTrue();
    assertThat(sheet.ranked(Part.ALL).get(0).version().id()).isEqualTo("same");
    List<String> lines = new Answer(sheet, comparison).lines();
    assertThat(lines.get(0)).startsWith("“same” is the source itself").contains("doing nothing");
    assertThat(lines.get(1)).startsWith("“ruined” ");
    JsonNode versions =
        new ObjectMapper().readTree(ScoresJson.write(sheet, folder)).get("versions");
    assertThat(versions).hasSize(2);
    for (JsonNode v : versions) {
      assertThat(v.path("sourceItself").asBoolean())
          .isEqualTo(v.get("label").asText().equals("same"));
    }
  }

  @Test
  void theLeadIsSaidWithItsOddsAndWithWhatWouldSettleIt() throws Exception {
    ScoreSheet sheet = sheet("same", "cleaned", "ruined");
    Settling settling = Settling.of(sheet, comparison).orElseThrow();
    // The source itself is no result: the second is the worse of what was made.
    assertThat(settling.first().version().id()).isEqualTo("cleaned");
    assertThat(settling.second().version().id()).isEqualTo("ruined");
    assertThat(settling.chance()).isGreaterThan(0.75);
    assertThat(settling.seconds()).isEqualTo((double) noisy.length / RATE);
    assertThat(settling.settled()).isEqualTo(settling.told() && settling.chance() >= 0.95);
    assertThat(settling.reading()).isPresent();
    // What tells two apart best has a place to hear, and stands out of its own uncertainty.
    assertThat(settling.place()).isPresent();
    assertThat(Math.abs(settling.reading().get().points()))
        .isGreaterThanOrEqualTo(1)
        .isGreaterThan((settling.reading().get().high() - settling.reading().get().low()) / 2);
    assertThat(settling.excerpt()).isEmpty();
    assertThat(new Answer(sheet, comparison).lines().get(0))
        .startsWith("“cleaned” leads with ")
        .contains("ahead of “ruined”: ")
        .contains(" in 10)");
    JsonNode versions =
        new ObjectMapper().readTree(ScoresJson.write(sheet, folder)).get("versions");
    double sum = 0;
    for (JsonNode v : versions) {
      if (v.get("label").asText().equals("same")) {
        assertThat(v.has("odds")).isFalse();
      } else {
        sum += v.get("odds").get("best").asDouble();
      }
    }
    assertThat(sum).isCloseTo(1, org.assertj.core.api.Assertions.within(0.002));
    JsonNode cleaned = versions.get(1).get("odds").get("better");
    assertThat(cleaned.fieldNames()).toIterable().containsExactly("ruined");
    assertThat(cleaned.get("ruined").asDouble())
        .isCloseTo(settling.chance(), org.assertj.core.api.Assertions.within(5e-4));
    assertThat(ScoresCsv.write(sheet))
        .contains("cleaned,1,better than,ruined,chance,")
        .contains(",limit,best");
  }

  @Test
  void aBetterVersionIsTheChoiceAsBefore() throws Exception {
    List<String> lines = answer("same", "cleaned");
    assertThat(lines.get(0)).startsWith("“cleaned” ").doesNotContain("source itself");
    assertThat(answer("same"))
        .containsExactly("Nothing was done to any version: each is the source itself.");
  }
}
