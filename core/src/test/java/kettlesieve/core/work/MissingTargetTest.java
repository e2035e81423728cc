package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaReader;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Whoever forgets to say what was asked for is told. */
class MissingTargetTest {
  @TempDir Path folder;

  private List<String> said(Comparison comparison) throws Exception {
    float[] x = java.util.Arrays.copyOf(Sounds.speech16(), 6 * 16_000);
    Sounds.write(folder.resolve("x.wav"), 16_000, x);
    MediaRef file = MediaRef.of(folder.resolve("x.wav"));
    try (Conductor conductor =
        new Conductor(new MediaReader(folder.resolve("decoded")), ResultStore.inMemory())) {
      return conductor
          .run(comparison.withSource(file).withVersions(List.of(Version.of("a", "a", file))))
          .sheet()
          .notices()
          .stream()
          .map(n -> n.text())
          .toList();
    }
  }

  @Test
  void aStretchWithoutARatioAndAShiftWithoutSemitonesAreNamed() throws Exception {
    assertThat(said(Comparison.empty("t", Job.STRETCH)))
        .anyMatch(t -> t.startsWith("no length was asked for"));
    assertThat(said(Comparison.empty("t", Job.PITCH)))
        .anyMatch(t -> t.startsWith("no shift was asked for"));
    assertThat(said(Comparison.empty("t", Job.STRETCH).withRatio(1.0)))
        .noneMatch(t -> t.contains("asked for"));
  }
}
