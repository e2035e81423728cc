package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.MediaRef;
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
    changes(c -> c.withPauses(List.of(new TimeSpan(0, 1))));
    changes(c -> c.withJob(Job.DEREVERB));
  }

  @Test
  void theVersionsBytesAndItsMatchByHandChangeTheKey() {
    MediaRef other = MediaRef.of(Path.of("/a/again.wav"));
    assertThat(version(VERSION.withMedia(other))).isNotEqualTo(version(VERSION));
    MatchOverride inverted = new MatchOverride(null, -1, null, null, null);
    assertThat(version(VERSION.withMatch(inverted))).isNotEqualTo(version(VERSION));
  }

  @Test
  void theProgramsOwnCodeIsOneChecksum() {
    assertThat(CodeVersion.OWN).matches("[0-9a-f]{64}");
  }
}
