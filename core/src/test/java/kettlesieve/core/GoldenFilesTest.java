package kettlesieve.core;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.Mark;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.ResultStore;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Files as the first program wrote them, kept in {@code golden/}. They are never made anew: what
 * today's program, and the next, cannot read or no longer writes is a broken promise to whoever has
 * such files or a script that reads them.
 */
class GoldenFilesTest {
  @TempDir Path folder;

  private static Comparison harbour(Path folder) {
    Stem first =
        new Stem(
            MediaRef.of(folder.resolve("stems/v.wav")).withSha256("ab12"),
            new Stem.Origin(
                "Median split", "mix without drums", new Stem.Origin("Centre", "vocals", null)));
    return Comparison.empty("Harbour verse", Job.STEMS)
        .withSource(MediaRef.of(folder.resolve("takes/mix.wav")).withSha256("aa"))
        .withTrueStem("drums", MediaRef.of(folder.resolve("true/d.wav")))
        .withExcerpts(
            List.of(
                new Excerpt("First line", new TimeSpan(0, 4)),
                new Excerpt("Bell", new TimeSpan(6.25, 9))))
        .withTogether(true)
        .withPauses(List.of(new TimeSpan(0, 0.8)))
        .withLevel(LevelMode.PEAK)
        .withProfile("cinema")
        .withNotes("second pass, \"loud\" monitor\nthen quiet")
        .withRoleSums(List.of(new RoleSum("mix without drums", List.of("drums"), true)))
        .withCost("Centre", new Cost(null, null, "free", true))
        .plus(
            Version.ofStems("v1", "Two steps", new LinkedHashMap<>(Map.of("vocals", first)))
                .withTool("Centre")
                .withAmount(30.0)
                .withMatch(new MatchOverride(12.5, -1, 3.0, -0.5, null))
                .withVerdict("use it")
                .withCost(new Cost(12.5, 20.0, "120 crowns", false)))
        .plus(Version.of("v2", "One file", MediaRef.of(folder.resolve("takes/one.wav"))))
        .plus(Mark.at(3.5, "v1").withBand(200.0, 800.0).withAxis("added").withNote("ring"));
  }

  @Test
  void aComparisonOfTheFirstSchemaIsReadWhole() throws Exception {
    Path file = folder.resolve("harbour.sieve");
    Files.copy(Sounds.resource("golden/comparison-1.sieve"), file);
    Comparison read = ComparisonFile.load(file);
    assertThat(read).isEqualTo(harbour(folder));
    ComparisonFile.save(read, file);
    ObjectMapper mapper = new ObjectMapper();
    assertThat(mapper.readTree(file.toFile()))
        .isEqualTo(mapper.readTree(Sounds.resource("golden/comparison-1.sieve").toFile()));
  }

  /** Whatever a field of scores held once it still holds, by name and kind. */
  @Test
  void scoresHaveAllFieldsOfTheFirstSchema() throws Exception {
    ObjectMapper mapper = new ObjectMapper();
    JsonNode first = mapper.readTree(Sounds.resource("golden/scores-1.json").toFile());
    assertThat(first.path("schema").asText()).isEqualTo("kettle-sieve/scores/1");
    JsonNode today = mapper.readTree(scores());
    assertThat(today.path("schema")).isEqualTo(first.path("schema"));
    List<String> missing = new ArrayList<>(fields("", first));
    missing.removeAll(fields("", today));
    assertThat(missing).isEmpty();
  }

  private String scores() throws Exception {
    Comparison c = Comparison.empty("Golden", Job.DENOISE);
    float[] speech = Sounds.speech16();
    float[] noise = Sounds.white(speech.length, 21);
    double factor = Sounds.noiseFactor(speech, noise, 12);
    c = c.withSource(wav("source", Sounds.mix(speech, noise, factor)));
    c = c.withReference(wav("clean", speech));
    MediaRef mild = wav("mild", Sounds.mix(speech, noise, 0.5 * factor));
    MediaRef strong = wav("strong", Sounds.mix(speech, noise, 0.1 * factor));
    c = c.plus(Version.of("v1", "mild", mild)).plus(Version.of("v2", "strong", strong));
    Files.write(folder.resolve("broken.wav"), new byte[40]);
    c = c.plus(Version.of("v3", "broken", MediaRef.of(folder.resolve("broken.wav"))));
    try (Conductor conductor =
        new Conductor(new MediaReader(folder.resolve("cache")), ResultStore.inMemory())) {
      return ScoresJson.write(conductor.run(c).sheet(), folder);
    }
  }

  private MediaRef wav(String name, float[] samples) throws Exception {
    Path file = folder.resolve(name + ".wav");
    Audio audio = Audio.of(16_000, samples);
    WavWriter.write(audio, file, WavWriter.Format.FLOAT, Progress.SILENT);
    return MediaRef.of(file);
  }

  /** Paths of all fields with the kind of their values; entries of a list are one. */
  private static TreeSet<String> fields(String path, JsonNode node) {
    TreeSet<String> all = new TreeSet<>();
    if (node.isArray()) {
      node.forEach(n -> all.addAll(fields(path + "[]", n)));
    } else if (node.isObject()) {
      // Details are named by measures; that they are there is enough.
      node.properties()
          .forEach(
              e -> {
                boolean named = path.endsWith("details") || path.endsWith("detailLimits");
                all.addAll(fields(path + "/" + (named ? "*" : e.getKey()), e.getValue()));
              });
    } else if (!node.isNull()) {
      all.add(path + " " + node.getNodeType());
    }
    return all;
  }
}
