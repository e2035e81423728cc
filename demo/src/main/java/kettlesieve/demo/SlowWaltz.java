package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Path;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Progress;

/**
 * The first lines of the boathouse waltz slowed down, to learn it by ear: 1.3 times as long, by all
 * stand-ins.
 */
final class SlowWaltz {
  private static final double RATIO = 1.3;

  private SlowWaltz() {}

  static Path make(Path folder, Progress progress) throws IOException {
    return DemoFolder.make(folder, "slow-waltz.sieve", "made-1", f -> build(f, progress));
  }

  private static Comparison build(DemoFolder folder, Progress progress) throws IOException {
    progress.at("playing the waltz", 0);
    Audio source = BoathouseWaltz.beginning();
    Comparison comparison =
        Comparison.empty("Boathouse waltz, slowed down", Job.STRETCH)
            .withRatio(RATIO)
            .withSource(DemoFolder.ref(folder.write(source, "slow-waltz-source.wav")));
    return TideTable.stretched(
        comparison,
        folder,
        source,
        "slow-waltz-",
        (what, share) -> progress.at("slowing the waltz down", share),
        (tool, made) -> made);
  }
}
