package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.core.Faults;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Comparison files broken in every way: each is opened or refused with its name, nothing else is
 * thrown, and what was opened is saved and opened again as it was.
 */
class FaultyComparisonsTest {
  @TempDir Path folder;

  private byte[] sample() throws Exception {
    Comparison c =
        Comparison.empty("Harbour, fog", Job.STEMS)
            .withSource(MediaRef.of(folder.resolve("mix.wav")).withSha256("ab12"))
            .withTrueStem("drums", MediaRef.of(folder.resolve("true.wav")))
            .withExcerpts(List.of(new Excerpt("First", new TimeSpan(0, 4))))
            .withPauses(List.of(new TimeSpan(0, 0.5), new TimeSpan(3, 4)))
            .withCost("Median split", new Cost(1.5, 2.5, "free", true))
            .withNotes("two\nlines")
            .plus(
                Version.ofStems(
                        "v1",
                        "Median split 50",
                        Map.of("drums", Stem.of(MediaRef.of(folder.resolve("d.wav")))))
                    .withAmount(50.0)
                    .withMatch(new MatchOverride(2.0, 1, -3.0, null, null)))
            .plus(Mark.at(2, "v1").withBand(200.0, 900.0).withNote("rings"));
    Path file = folder.resolve("sample.sieve");
    ComparisonFile.save(c, file);
    return Files.readAllBytes(file);
  }

  @Test
  void brokenComparisonsAreOpenedOrRefusedAndNothingElse() throws Exception {
    int count = Faults.count(200, 1200);
    byte[] whole = sample();
    ObjectMapper json = new ObjectMapper();
    List<String> wrong = new ArrayList<>();
    int refused = 0;
    for (int i = 0; i < count; i++) {
      Path file = folder.resolve("broken.sieve");
      boolean bytes = i % 2 == 0;
      Faults.Kind kind = Faults.Kind.values()[i / 2 % Faults.Kind.values().length];
      Files.write(
          file,
          bytes
              ? Faults.broken(whole, kind, i)
              : json.writeValueAsBytes(otherwise(json.readTree(whole), i)));
      String before = Files.readString(file, StandardCharsets.ISO_8859_1);
      try {
        Comparison read = ComparisonFile.load(file);
        Path again = folder.resolve("again.sieve");
        ComparisonFile.save(read, again);
        if (!ComparisonFile.load(again).equals(read)) {
          wrong.add(i + " comes back as another: " + before);
        }
      } catch (ComparisonFileException e) {
        refused++;
        if (!e.getMessage().contains("broken.sieve") || !e.getMessage().endsWith(".")) {
          wrong.add(i + " is refused with: " + e.getMessage());
        }
      } catch (RuntimeException | Error e) {
        wrong.add(i + " throws " + e + ": " + before);
      }
      if (!Files.readString(file, StandardCharsets.ISO_8859_1).equals(before)) {
        wrong.add(i + " was changed by opening it");
      }
    }
    System.out.printf(
        "%d broken comparisons: %d refused, %d wrong%n", count, refused, wrong.size());
    assertThat(wrong).isEmpty();
    assertThat(refused).isBetween(count / 4, count);
  }

  private static final List<String> VALUES =
      List.of(
          "null",
          "{}",
          "[]",
          "\"\"",
          "\"\\u0000\"",
          "-1",
          "1e308",
          "true",
          "\"../../etc/passwd\"",
          "[null]",
          "[[]]",
          "{\"path\": null}",
          "\"denoise\"",
          "9007199254740993");

  /** The same with one value somewhere replaced by one that does not belong there. */
  private static JsonNode otherwise(JsonNode tree, long seed) throws Exception {
    SplittableRandom random = new SplittableRandom(seed);
    List<Runnable> changes = new ArrayList<>();
    JsonNode value = new ObjectMapper().readTree(VALUES.get(random.nextInt(VALUES.size())));
    gather(tree, value, changes);
    changes.get(random.nextInt(changes.size())).run();
    return tree;
  }

  private static void gather(JsonNode node, JsonNode value, List<Runnable> changes) {
    if (node instanceof ObjectNode object) {
      for (Map.Entry<String, JsonNode> field : object.properties()) {
        if (!field.getKey().equals("schema")) {
          changes.add(() -> object.set(field.getKey(), value));
          gather(field.getValue(), value, changes);
        }
      }
    }
    if (node instanceof ArrayNode array) {
      for (int i = 0; i < array.size(); i++) {
        int at = i;
        changes.add(() -> array.set(at, value));
        gather(array.get(i), value, changes);
      }
    }
  }
}
