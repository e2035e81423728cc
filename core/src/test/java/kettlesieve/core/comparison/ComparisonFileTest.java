package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
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
    // A folder in the place of the lock stands for a folder that cannot be written.
    Files.createDirectories(folder.resolve(".kept.sieve.lock/x"));
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

  private static final String HEAD = "{\"schema\": \"kettle-sieve/comparison/1\", ";

  private Path written(String body) throws Exception {
    Path file = folder.resolve("by-hand.sieve");
    Files.writeString(file, HEAD + body + "}");
    return file;
  }

  @Test
  void unknownFieldsOfEveryLevelAreKeptNullOnesToo() throws Exception {
    String body =
        """
        "job": "stems", "mood": null,
        "excerpt": {"from": 1, "to": 2, "why": "loud"},
        "excerpts": [{"name": "one", "span": {"from": 0, "to": 1, "tag": 7}, "colour": null}],
        "pauses": [{"from": 0, "to": 1, "by": "ear"}, {"from": 3, "to": 4, "by": "eye"}],
        "marks": [{"id": "m1", "from": 2, "to": 2, "seen": true}],
        "costs": {"Tool": {"seconds": 3, "currency": "crowns"}, "None": null},
        "profiles": [{"name": "own", "weights": {"missed": 1, "added": 1, "lost": 1}, "who": "me"}],
        "versions": [
          {"id": "v1", "label": "a", "media": {"path": "a.wav", "disk": 3},
           "match": {"gainDb": 2, "hand": "left"}, "cost": {"vendor": "x"}},
          {"id": "v2", "label": "b",
           "stems": {"drums": {"media": {"path": "d.wav", "take": 2}, "spill": {"deep": [1, null]}}}}]
        """;
    Path file = written(body);
    Comparison read = ComparisonFile.load(file);
    // Other parts change, move and are taken out; what is unknown stays where it belongs.
    Comparison changed =
        read.withName("changed")
            .withPauses(List.of(new TimeSpan(3, 4), new TimeSpan(6, 7)))
            .withVersions(
                List.of(
                    read.versions().get(1),
                    read.versions()
                        .get(0)
                        .withVerdict("good")
                        .withCost(new Cost(1.0, null, null, null))));
    ComparisonFile.save(changed, file);
    String text = Files.readString(file);
    assertThat(text)
        .contains("\"mood\" : null", "\"why\" : \"loud\"", "\"tag\" : 7", "\"colour\" : null")
        .contains("\"by\" : \"eye\"", "\"seen\" : true", "\"currency\" : \"crowns\"")
        .contains("\"None\" : null", "\"who\" : \"me\"", "\"disk\" : 3", "\"hand\" : \"left\"")
        .contains("\"vendor\" : \"x\"", "\"take\" : 2", "\"deep\" : [ 1, null ]")
        .doesNotContain("\"by\" : \"ear\"");
    assertThat(ComparisonFile.load(file).withUnknown(null)).isEqualTo(changed.withUnknown(null));
    ComparisonFile.save(changed.minus("v1"), file);
    assertThat(Files.readString(file)).doesNotContain("vendor").contains("\"take\" : 2");
  }

  @Test
  void whatIsWrongIsNamedWithItsPlace() throws Exception {
    String[][] cases = {
      {
        "\"versions\": [{\"id\": \"v1\", \"label\": \"a\", \"cost\": {\"seconds\": 1e999}}]",
        "versions 1.cost.seconds"
      },
      {
        "\"versions\": [{\"id\": \"v1\", \"label\": \"a\", \"cost\": {\"seconds\": -1}}]",
        "versions 1.cost"
      },
      {"\"excerpt\": {\"from\": 5, \"to\": 2}", "excerpt"},
      {"\"marks\": [{\"from\": \"soon\"}]", "marks 1.from"},
      {
        "\"versions\": [{\"id\": \"v\", \"label\": \"a\"}, {\"id\": \"v\", \"label\": \"a\"}]",
        "both called a"
      },
      {"\n\n\"ratio\": NaN", "line 3"},
    };
    for (String[] one : cases) {
      Path file = written(one[0]);
      assertThatThrownBy(() -> ComparisonFile.load(file))
          .as(one[0])
          .isInstanceOf(ComparisonFileException.class)
          .hasMessageContaining("by-hand.sieve")
          .hasMessageContaining(one[1]);
    }
  }

  @Test
  void oneBadVersionDoesNotStopTheFile() throws Exception {
    Comparison read =
        ComparisonFile.load(
            written(
                """
                "costs": {"T": null}, "source": {"path": "s.wav"},
                "versions": [{"id": "v1", "label": "none"},
                  {"id": "v2", "label": "null", "media": {"path": null}},
                  {"id": "v3", "label": "odd", "media": {"path": "a\\u0000b"}},
                  {"id": "v4", "label": "good", "media": {"path": "g.wav"}}]
                """));
    assertThat(read.versions()).hasSize(4);
    assertThat(read.versions().stream().filter(v -> v.files().get(0).named()))
        .extracting(Version::label)
        .containsExactly("good");
    Path file = folder.resolve("again.sieve");
    ComparisonFile.save(read, file);
    assertThat(ComparisonFile.load(file)).isEqualTo(read);
  }

  @Test
  void onlyPlainFilesOfASensibleSizeAreRead() throws Exception {
    Path deep = folder.resolve("deep.sieve");
    Files.writeString(deep, HEAD + "\"x\": " + "[".repeat(2_000_000));
    assertThatThrownBy(() -> ComparisonFile.load(deep)).hasMessageContaining("nested");
    Path large = folder.resolve("large.sieve");
    Files.writeString(large, HEAD + "\"x\": [" + "[],".repeat(8_000_000) + "1]}");
    assertThatThrownBy(() -> ComparisonFile.load(large)).hasMessageContaining("larger than 16 MB");
    assertThatThrownBy(() -> ComparisonFile.load(folder)).hasMessageContaining("a folder");
    assertThatThrownBy(() -> ComparisonFile.load(Path.of("/dev/zero")))
        .hasMessageContaining("device or a pipe");
    Path pipe = folder.resolve("pipe.sieve");
    assertThat(new ProcessBuilder("mkfifo", pipe.toString()).start().waitFor()).isZero();
    assertThatThrownBy(() -> ComparisonFile.load(pipe)).hasMessageContaining("device or a pipe");
  }

  @Test
  void savingFollowsLinksAndKeepsPermissions() throws Exception {
    Path real = Files.createDirectories(folder.resolve("deep")).resolve("real.sieve");
    ComparisonFile.save(sample(), real);
    Files.setPosixFilePermissions(real, PosixFilePermissions.fromString("rw-rw-r--"));
    Path link = Files.createSymbolicLink(folder.resolve("link.sieve"), real);
    ComparisonFile.save(sample().withName("through the link"), link);
    assertThat(Files.isSymbolicLink(link)).isTrue();
    assertThat(Files.readString(real)).contains("through the link");
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(real)))
        .isEqualTo("rw-rw-r--");
  }

  @Test
  void aLinkThatWasPlantedIsNotWrittenThrough() throws Exception {
    Path precious = Files.writeString(folder.resolve("precious.txt"), "years of work");
    Path file = folder.resolve("x.sieve");
    for (String name : List.of("x.sieve.part", ".x.sieve.lock")) {
      Files.createSymbolicLink(folder.resolve(name), precious);
    }
    try {
      ComparisonFile.save(sample(), file);
    } catch (ComparisonFileException e) {
      // Refusing is as good; the file behind the link is what counts.
      assertThat(e).hasMessageContaining("could not be saved");
    }
    assertThat(precious).hasContent("years of work");
  }

  @Test
  void versionsThatAnotherAddedAreKept() throws Exception {
    Path file = folder.resolve("shared.sieve");
    ComparisonFile.Stored mine = ComparisonFile.save(sample(), file);
    ComparisonFile.update(
        file, c -> c.plus(Version.of("v2", "Theirs", MediaRef.of(folder.resolve("t.wav")))));
    Comparison own =
        mine.comparison()
            .withNotes("mine")
            .plus(Version.of("v2", "Mine", MediaRef.of(folder.resolve("m.wav"))));
    ComparisonFile.Stored saved = ComparisonFile.save(own, file, mine);
    assertThat(saved.comparison().versions())
        .extracting(Version::label)
        .containsExactly("Mild", "Mine", "Theirs");
    assertThat(saved.comparison().versions()).extracting(Version::id).doesNotHaveDuplicates();
    assertThat(ComparisonFile.load(file)).isEqualTo(saved.comparison());
    assertThat(saved.comparison().notes()).isEqualTo("mine");
    // Saved again, nothing comes in twice.
    assertThat(ComparisonFile.save(saved.comparison(), file, saved).comparison())
        .isEqualTo(saved.comparison());
  }

  @Test
  void anyOtherChangeIsAskedAbout() throws Exception {
    Path file = folder.resolve("shared.sieve");
    ComparisonFile.Stored mine = ComparisonFile.save(sample(), file);
    ComparisonFile.update(file, c -> c.withNotes("theirs"));
    String theirs = Files.readString(file);
    assertThatThrownBy(() -> ComparisonFile.save(mine.comparison().withNotes("mine"), file, mine))
        .isInstanceOf(ChangedElsewhereException.class)
        .hasMessageContaining("shared.sieve");
    assertThat(file).hasContent(theirs);
    Files.writeString(file, "{");
    assertThatThrownBy(() -> ComparisonFile.save(mine.comparison(), file, mine))
        .isInstanceOf(ChangedElsewhereException.class);
    Files.delete(file);
    ComparisonFile.save(mine.comparison(), file, mine);
    assertThat(ComparisonFile.load(file)).isEqualTo(sample());
  }

  @Test
  void manyWritersLoseNothing() throws Exception {
    Path file = folder.resolve("busy.sieve");
    ComparisonFile.save(Comparison.empty("busy", Job.DENOISE), file);
    ExecutorService pool = Executors.newFixedThreadPool(4);
    try {
      List<Future<Comparison>> all = new ArrayList<>();
      for (int i = 0; i < 40; i++) {
        String label = "version " + i;
        MediaRef media = MediaRef.of(folder.resolve(i + ".wav"));
        all.add(
            pool.submit(
                () ->
                    ComparisonFile.update(
                        file, c -> c.plus(Version.of(c.freshId(), label, media)))));
      }
      for (Future<Comparison> one : all) {
        one.get();
      }
    } finally {
      pool.shutdownNow();
    }
    assertThat(ComparisonFile.load(file).versions()).hasSize(40);
    assertThat(Files.list(folder)).containsExactly(file);
  }
}
