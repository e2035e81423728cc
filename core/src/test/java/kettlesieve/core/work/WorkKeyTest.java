package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import org.junit.jupiter.api.Test;

/** Results are taken for those of other work exactly if nothing that they depend on differs. */
class WorkKeyTest {
  /** The bytes of a file are what its name starts with. */
  private static final Function<MediaRef, String> BYTES =
      ref -> ref.file().getFileName().toString().substring(0, 1);

  private static final Version VERSION =
      Version.of("v1", "Mild", MediaRef.of(Path.of("/a/version.wav")));

  private static Comparison comparison() {
    return Comparison.empty("A", Job.DENOISE)
        .withSource(MediaRef.of(Path.of("/a/source.wav")))
        .withVersions(List.of(VERSION));
  }

  private static String source(Comparison c) {
    return WorkKey.ofSource(c, BYTES).sha256();
  }

  private static String version(Version v) {
    Comparison c = comparison();
    return WorkKey.ofVersion(WorkKey.ofSource(c, BYTES), c, v, BYTES).sha256();
  }

  private static void changes(UnaryOperator<Comparison> change) {
    assertThat(source(change.apply(comparison()))).isNotEqualTo(source(comparison()));
  }

  @Test
  void namesAndWordsChangeNothing() {
    String key = source(comparison());
    assertThat(source(comparison().withName("B").withNotes("well"))).isEqualTo(key);
    assertThat(source(comparison().withSource(MediaRef.of(Path.of("/b/s-moved.wav")))))
        .as("the same bytes under another name")
        .isEqualTo(key);
    assertThat(version(VERSION.withLabel("Other").withVerdict("good"))).isEqualTo(version(VERSION));
  }

  @Test
  void whatIsMeasuredChangesTheKey() {
    changes(c -> c.withSource(MediaRef.of(Path.of("/a/other.wav"))));
    changes(c -> c.withReference(MediaRef.of(Path.of("/a/clean.wav"))));
    changes(c -> c.withSource(c.source().withStream(2)));
    changes(c -> c.withSource(c.source().withChannel(3)));
    changes(c -> c.withPauses(List.of(new TimeSpan(0, 1))));
    changes(c -> c.withJob(Job.DEREVERB));
    changes(c -> c.withLevel(LevelMode.OFF));
    changes(c -> c.withRatio(0.8));
    changes(c -> c.withSemitones(2.0));
    changes(c -> c.withExcerpt(new TimeSpan(1, 2)));
    Comparison reversed =
        comparison()
            .withSource(MediaRef.of(Path.of("/a/clean.wav")))
            .withReference(MediaRef.of(Path.of("/a/source.wav")));
    assertThat(source(reversed))
        .isNotEqualTo(source(comparison().withReference(MediaRef.of(Path.of("/a/clean.wav")))));
  }

  @Test
  void theVersionsBytesAndItsMatchByHandChangeTheKey() {
    MediaRef other = MediaRef.of(Path.of("/a/again.wav"));
    assertThat(version(VERSION.withMedia(other))).isNotEqualTo(version(VERSION));
    assertThat(version(VERSION.withMedia(VERSION.media().withChannel(1))))
        .isNotEqualTo(version(VERSION))
        .isNotEqualTo(version(VERSION.withMedia(VERSION.media().withStream(1))));
    MatchOverride inverted = new MatchOverride(null, -1, null, null, null);
    assertThat(version(VERSION.withMatch(inverted))).isNotEqualTo(version(VERSION));
  }

  private static String key(Comparison c) {
    return WorkKey.ofVersion(WorkKey.ofSource(c, BYTES), c, c.versions().get(0), BYTES).sha256();
  }

  /** Names may hold whatever a text of all parts is joined by. */
  @Test
  void excerptsWithCommasInTheirNamesAreNotTakenForOthers() {
    Comparison two =
        comparison()
            .withExcerpts(
                List.of(
                    new Excerpt("door, wind", new TimeSpan(0, 1)),
                    new Excerpt("lamp", new TimeSpan(2, 3))))
            .withTogether(true);
    Comparison renamed =
        two.withExcerpts(
            List.of(
                new Excerpt("door", new TimeSpan(0, 1)),
                new Excerpt("wind, lamp", new TimeSpan(2, 3))));
    assertThat(key(renamed)).isNotEqualTo(key(two));
    for (String odd : List.of("door\", \"wind", "door]", "[door", "door\\")) {
      Comparison other =
          two.withExcerpts(List.of(new Excerpt(odd, new TimeSpan(0, 1)), two.excerpts().get(1)));
      assertThat(key(other)).as(odd).isNotEqualTo(key(two));
    }
  }

  private static Version stems(String id, String label, String... rolesAndFiles) {
    Map<String, Stem> stems = new LinkedHashMap<>();
    for (int i = 0; i < rolesAndFiles.length; i += 2) {
      stems.put(
          rolesAndFiles[i], Stem.of(MediaRef.of(Path.of("/a/" + rolesAndFiles[i + 1] + ".wav"))));
    }
    return Version.of(id, label, null).withStems(stems);
  }

  private static Comparison inStems() {
    return Comparison.empty("A", Job.STEMS)
        .withSource(MediaRef.of(Path.of("/a/source.wav")))
        .withVersions(
            List.of(
                stems("v1", "Mild", "drums", "1", "bass", "2"),
                stems("v2", "Strong", "drums", "3", "bass", "4")));
  }

  private static Version taken(Version from, String version, String part, Stem.Origin before) {
    Map<String, Stem> stems = new LinkedHashMap<>(from.stems());
    stems.put(
        "drums", new Stem(stems.get("drums").media(), new Stem.Origin(version, part, before)));
    return from.withStems(stems);
  }

  private static Comparison change(Comparison c, UnaryOperator<Version> change, int version) {
    List<Version> all = new ArrayList<>(c.versions());
    all.set(version, change.apply(all.get(version)));
    return c.withVersions(all);
  }

  /** Every part that a result of stems depends on, changed alone: none has the key of another. */
  @Test
  void eachPartOfStemsChangesTheKey() {
    Comparison c = inStems();
    MediaRef truth = MediaRef.of(Path.of("/a/truth.wav"));
    MatchOverride louder = new MatchOverride(null, null, 1.0, null, null);
    Comparison chain = change(c, v -> taken(v, "Strong", "bass", null), 0);
    Map<String, Comparison> all = new LinkedHashMap<>();
    all.put("as it is", c);
    all.put("source", c.withSource(MediaRef.of(Path.of("/a/other.wav"))));
    all.put("level", c.withLevel(LevelMode.OFF));
    all.put("excerpt", c.withExcerpt(new TimeSpan(1, 2)));
    all.put("another excerpt", c.withExcerpt(new TimeSpan(1, 2.5)));
    all.put("own stem", change(c, v -> stems("v1", "Mild", "drums", "5", "bass", "2"), 0));
    all.put("own role", change(c, v -> stems("v1", "Mild", "kit", "1", "bass", "2"), 0));
    all.put("swapped", change(c, v -> stems("v1", "Mild", "drums", "2", "bass", "1"), 0));
    all.put("another's stem", change(c, v -> stems("v2", "S", "drums", "3", "bass", "5"), 1));
    all.put("another's role", change(c, v -> stems("v2", "S", "drums", "3", "tuba", "4"), 1));
    all.put("own match", change(c, v -> v.withMatch(louder), 0));
    all.put("another's match", change(c, v -> v.withMatch(louder), 1));
    all.put("back", change(c, v -> v.withBack(true), 0));
    all.put("ratio", change(c, v -> v.withRatio(0.8), 0));
    all.put("semitones", change(c, v -> v.withSemitones(2.0), 0));
    all.put("one less", c.withVersions(c.versions().subList(0, 1)));
    all.put("true stem", c.withTrueStem("drums", truth));
    all.put("of another role", c.withTrueStem("bass", truth));
    all.put("sum", c.withRoleSums(List.of(new RoleSum("beat", List.of("drums"), false))));
    all.put("its roles", c.withRoleSums(List.of(new RoleSum("beat", List.of("bass"), false))));
    all.put("remainder", c.withRoleSums(List.of(new RoleSum("beat", List.of("drums"), true))));
    all.put("its name", c.withRoleSums(List.of(new RoleSum("kit", List.of("drums"), false))));
    all.put("chain", chain);
    all.put("its part", change(c, v -> taken(v, "Strong", "drums", null), 0));
    all.put("its version", change(c, v -> taken(v, "Gone", "bass", null), 0));
    all.put(
        "its beginning",
        change(c, v -> taken(v, "Strong", "bass", new Stem.Origin("Strong", "drums", null)), 0));
    all.put("the version it names is another", change(chain, v -> v.withLabel("Other"), 1));
    Map<String, String> keys = new LinkedHashMap<>();
    all.forEach((what, one) -> keys.put(what, key(one)));
    keys.forEach(
        (what, key) ->
            keys.forEach(
                (other, its) -> {
                  if (!what.equals(other)) {
                    assertThat(its).as(what + " against " + other).isNotEqualTo(key);
                  }
                }));
    // A name that nothing refers to is a name.
    assertThat(key(change(c, v -> v.withLabel("Other"), 1))).isEqualTo(key(c));
  }

  /**
   * Two versions of one comparison with the same files, taken from different parts: which of the
   * two was measured first must not decide what is said of the other.
   */
  @Test
  void equalStemsOfDifferentOriginHaveKeysOfTheirOwn() {
    Comparison c = inStems();
    Version early = taken(stems("v3", "Early", "drums", "5"), "Mild", "bass", null);
    Version late = taken(stems("v4", "Late", "drums", "5"), "Strong", "bass", null);
    Version again = stems("v5", "Again", "drums", "5");
    List<Version> all = new ArrayList<>(c.versions());
    all.addAll(List.of(early, late, again));
    Comparison five = c.withVersions(all);
    WorkKey source = WorkKey.ofSource(five, BYTES);
    assertThat(all.stream().map(v -> WorkKey.ofVersion(source, five, v, BYTES)).distinct())
        .hasSize(5);
  }

  /** Where a version was found depends on its bytes and what was asked, not on what is by hand. */
  @Test
  void placementsChangeWithWhatWasAskedAndNotWithWhatIsByHand() {
    Comparison c = comparison().withJob(Job.STRETCH);
    WorkKey source = WorkKey.ofSource(c, BYTES);
    String key = WorkKey.ofPlacement(source, VERSION, BYTES).sha256();
    MatchOverride louder = new MatchOverride(null, null, 1.0, null, null);
    assertThat(WorkKey.ofPlacement(source, VERSION.withMatch(louder), BYTES).sha256())
        .isEqualTo(key);
    for (Version other :
        List.of(
            VERSION.withRatio(0.8),
            VERSION.withSemitones(1.0),
            VERSION.withBack(true),
            VERSION.withMedia(MediaRef.of(Path.of("/a/again.wav"))))) {
      assertThat(WorkKey.ofPlacement(source, other, BYTES).sha256()).isNotEqualTo(key);
    }
    assertThat(WorkKey.ofPlacement(new WorkKey("00"), VERSION, BYTES).sha256()).isNotEqualTo(key);
    // The same parts of another kind of result are another key.
    assertThat(WorkKey.ofVersion(source, c, VERSION, BYTES).sha256()).isNotEqualTo(key);
  }

  @Test
  void theProgramsOwnCodeIsOneChecksum() {
    assertThat(CodeVersion.OWN).matches("[0-9a-f]{64}");
  }
}
