package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ComparisonFileTest {
  @TempDir Path folder;

  private Comparison sample() {
    return Comparison.empty("Fog horn", Job.DENOISE)
        .withSource(MediaRef.of(folder.resolve("takes/source.wav")).withSha256("aa"))
        .withExcerpt(new TimeSpan(1.5, 9))
        .withPauses(List.of(new TimeSpan(0, 0.8)))
        .withProfile("cinema")
        .withNotes("second pass")
        .plus(
            Version.of("v1", "Mild", MediaRef.of(folder.resolve("takes/mild.wav")))
                .withTool("Plain subtraction")
                .withAmount(30.0)
                .withMatch(new MatchOverride(12.5, -1, null, null, null))
                .withVerdict("use it"));
  }

  /** Some editors begin UTF-8 with a mark; a source without a path is none, and no error. */
  @Test
  void aByteOrderMarkAndASourceWithoutAPathAreTaken() throws Exception {
    Path file = folder.resolve("marked.sieve");
    String text =
        "{\"schema\": \"kettle-sieve/comparison/1\", \"name\": \"x\", \"job\": \"denoise\","
            + " \"source\": {}, \"versions\": []}";
    Files.writeString(file, "\uFEFF" + text);
    Comparison read = ComparisonFile.load(file);
    assertThat(read.name()).isEqualTo("x");
    assertThat(read.source()).isNull();
  }

  @Test
  void whatIsSavedIsOpenedAgain() throws Exception {
    Path file = folder.resolve("fog.sieve");
    ComparisonFile.save(sample(), file);
    assertThat(ComparisonFile.load(file)).isEqualTo(sample());
    assertThat(Files.list(folder)).containsExactly(file);
  }

  @Test
  void stemsMarksExcerptsAndCostsAreOpenedAgain() throws Exception {
    Stem.Origin first = new Stem.Origin("Median split", "mix without drums", null);
    Stem chained =
        new Stem(
            MediaRef.of(folder.resolve("stems/v.wav")),
            new Stem.Origin("Centre split", "vocals", first));
    Comparison c =
        Comparison.empty("Waltz", Job.STEMS)
            .withTrueStem("drums", MediaRef.of(folder.resolve("true/d.wav")))
            .plus(
                Version.ofStems("v1", "Two steps", Map.of("vocals", chained))
                    .withCost(new Cost(12.5, 20.0, "120 crowns", false)))
            .withRoleSums(List.of(new RoleSum("mix without drums", List.of("drums"), true)))
            .withExcerpts(List.of(new Excerpt("First line", new TimeSpan(0, 4))))
            .withTogether(true)
            .withLevel(LevelMode.PEAK)
            .withCost("Two steps", new Cost(null, null, "free", true))
            .plus(Mark.at(3.5, "v1").withBand(200.0, 800.0).withAxis("added").withNote("ring"));
    Path file = folder.resolve("waltz.sieve");
    ComparisonFile.save(c, file);
    assertThat(ComparisonFile.load(file)).isEqualTo(c);
    assertThat(Files.readString(file)).contains("\"stems/v.wav\"").contains("\"true/d.wav\"");
    assertThat(chained.origin().words())
        .isEqualTo("mix without drums of Median split → vocals of Centre split");
    Comparison pitch = Comparison.empty("p", Job.PITCH).withSemitones(-2.5);
    ComparisonFile.save(pitch, file);
    assertThat(ComparisonFile.load(file).semitones()).isEqualTo(-2.5);
  }

  @Test
  void recordingsAreFoundAfterTheFolderMoved() throws Exception {
    Path here = Files.createDirectories(folder.resolve("here"));
    Comparison c =
        Comparison.empty("x", Job.DENOISE).withSource(MediaRef.of(here.resolve("audio/a.wav")));
    ComparisonFile.save(c, here.resolve("x.sieve"));
    assertThat(Files.readString(here.resolve("x.sieve"))).contains("\"audio/a.wav\"");
    Path there = folder.resolve("there");
    Files.move(here, there);
    assertThat(ComparisonFile.load(there.resolve("x.sieve")).source().file())
        .isEqualTo(there.resolve("audio/a.wav"));
  }

  @Test
  void unknownFieldsAreKept() throws Exception {
    Path file = folder.resolve("new.sieve");
    Files.writeString(
        file,
        """
        {"schema": "kettle-sieve/comparison/1", "name": "n", "job": "denoise",
         "weather": {"wind": "north west"},
         "source": {"path": "s.wav", "microphone": 3},
         "versions": [{"id": "v1", "label": "a", "media": {"path": "a.wav"}, "mood": [1, 2]}]}
        """);
    Comparison changed = ComparisonFile.load(file).withName("other");
    ComparisonFile.save(changed, file);
    assertThat(Files.readString(file))
        .contains("north west")
        .contains("microphone")
        .contains("mood")
        .contains("\"other\"");
    assertThat(ComparisonFile.load(file)).isEqualTo(changed);
  }

  @Test
  void aFileFromANewerVersionIsRefusedPolitely() throws Exception {
    Path file = folder.resolve("newer.sieve");
    Files.writeString(file, "{\"schema\": \"kettle-sieve/comparison/2\", \"name\": 5}");
    assertThatThrownBy(() -> ComparisonFile.load(file))
        .isInstanceOf(ComparisonFileException.class)
        .hasMessageContaining("newer.sieve")
        .hasMessageContaining("newer version")
        .hasMessageContaining("Update the program");
  }

  @Test
  void otherAndDamagedFilesAreRefused() throws Exception {
    Path file = folder.resolve("bad.sieve");
    for (String text :
        List.of(
            "",
            "{",
            "[1, 2]",
            "{\"schema\": \"other\"}",
            "{\"schema\": \"kettle-sieve/comparison/1\", \"job\": \"cooking\"}",
            "{\"schema\": \"kettle-sieve/comparison/1\", \"versions\": [{\"id\": \"v1\"}]}",
            "{\"schema\": \"kettle-sieve/comparison/1\", \"excerpt\": {\"from\": 5, \"to\": 2}}")) {
      Files.writeString(file, text);
      assertThatThrownBy(() -> ComparisonFile.load(file))
          .as(text)
          .isInstanceOf(ComparisonFileException.class)
          .hasMessageContaining("bad.sieve");
    }
    Files.write(file, new byte[] {(byte) 0xff, (byte) 0xfe, 0, 1});
    assertThatThrownBy(() -> ComparisonFile.load(file)).isInstanceOf(ComparisonFileException.class);
    assertThatThrownBy(() -> ComparisonFile.load(folder.resolve("none.sieve")))
        .hasMessageContaining("no such file");
  }

  @Test
  void aFailedSaveLeavesWhatWasThere() throws Exception {
    Path file = folder.resolve("kept.sieve");
    ComparisonFile.save(sample(), file);
    String before = Files.readString(file);
    // A folder in the place of the unfinished copy stands for a disk that cannot be written.
    Files.createDirectories(folder.resolve("kept.sieve.part/x"));
    assertThatThrownBy(() -> ComparisonFile.save(sample().withName("new"), file))
        .isInstanceOf(ComparisonFileException.class)
        .hasMessageContaining("could not be saved");
    assertThat(file).hasContent(before);
  }

  @Test
  void labelsStayUnique() {
    Comparison c = sample();
    Comparison two = c.plus(Version.of(c.freshId(), "Mild", MediaRef.of(Path.of("b.wav"))));
    assertThat(two.versions()).extracting(Version::label).containsExactly("Mild", "Mild (2)");
    assertThat(two.minus("v1").versions()).hasSize(1);
    Version copy = two.versions().get(0).withLabel("Mild (2)");
    assertThatThrownBy(() -> two.withVersion(copy)).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void spansMustMakeSense() {
    assertThatThrownBy(() -> new TimeSpan(-1, 2)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new TimeSpan(2, 2)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new TimeSpan(Double.NaN, 2))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
