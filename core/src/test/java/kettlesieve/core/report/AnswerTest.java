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

  private ScoreSheet sheet(String... names) throws Exception {
    Comparison comparison =
        Comparison.empty("t", Job.DENOISE).withSource(MediaRef.of(folder.resolve("source.wav")));
    List<Version> versions =
        java.util.Arrays.stream(names)
            .map(n -> Version.of(n, n, MediaRef.of(folder.resolve(n + ".wav"))))
            .toList();
    try (Conductor conductor =
        new Conductor(new MediaReader(folder.resolve("decoded")), ResultStore.inMemory())) {
      return conductor.run(comparison.withVersions(versions)).sheet();
    }
  }

  @Test
  void theSourceItselfIsNamedAndIsNotTheChoice() throws Exception {
    ScoreSheet sheet = sheet("same", "ruined");
    assertThat(sheet.entry(Part.ALL, "same").orElseThrow().version().sourceItself()).isTrue();
    assertThat(sheet.ranked(Part.ALL).get(0).version().id()).isEqualTo("same");
    List<String> lines = new Answer(sheet).lines();
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
  void aBetterVersionIsTheChoiceAsBefore() throws Exception {
    List<String> lines = new Answer(sheet("same", "cleaned")).lines();
    assertThat(lines.get(0)).startsWith("“cleaned” ").doesNotContain("source itself");
    assertThat(new Answer(sheet("same")).lines())
        .containsExactly("Nothing was done to any version: each is the source itself.");
  }
}
