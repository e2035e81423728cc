package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.function.BiFunction;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.task.Progress;

/**
 * "Tide table, a fifth shorter": a reading of the tides that must fit a shorter announcement, by
 * all stand-ins for stretching; one of them starts 80 ms late.
 */
final class TideTable {
  private static final int RATE = DemoFolder.RATE;
  private static final double RATIO = 0.8;

  private TideTable() {}

  static Path make(Path folder, Progress progress) throws IOException {
    return DemoFolder.make(folder, "tide-table.sieve", "made-1", f -> build(f, progress));
  }

  private static Comparison build(DemoFolder folder, Progress progress)
      throws IOException, MediaException {
    progress.at("reading the tide table", 0);
    float[] voice = folder.voice("tide-table-voice.flac");
    for (int i = 0; i < voice.length; i++) {
      voice[i] *= 0.6f;
    }
    Audio source = Audio.of(RATE, voice);
    Comparison comparison =
        Comparison.empty("Tide table, a fifth shorter", Job.STRETCH)
            .withRatio(RATIO)
            .withSource(DemoFolder.ref(folder.write(source, "tide-table.wav")));
    return stretched(
        comparison,
        folder,
        source,
        "tide-table-",
        (what, share) -> progress.at("shortening the tide table", share),
        (tool, made) -> tool.id().equals("locked-phase-stretch") ? later(made, 3840) : made);
  }

  /**
   * A comparison with a version by every stand-in for stretching.
   *
   * @param words what their files begin with
   * @param finished told of each result, and may change it
   */
  static Comparison stretched(
      Comparison comparison,
      DemoFolder folder,
      Audio source,
      String words,
      Progress progress,
      BiFunction<StandIn, Audio, Audio> finished)
      throws IOException {
    Comparison grown = comparison;
    List<StandIn> tools = StandIns.of(Job.STRETCH);
    for (StandIn tool : tools) {
      progress.at("stretching", (double) tools.indexOf(tool) / tools.size());
      Setup setup = Setup.of(comparison, 100);
      Audio made = tool.make(source, setup, Progress.SILENT).get(StandIn.WHOLE);
      Path file = folder.write(finished.apply(tool, made), words + tool.id() + ".wav");
      grown =
          grown.plus(
              Version.of(grown.freshId(), tool.title(), DemoFolder.ref(file))
                  .withTool(tool.title()));
    }
    return grown;
  }

  /** A recording with silence before it. */
  static Audio later(Audio audio, int samples) {
    float[] x = new float[(int) audio.frames() + samples];
    System.arraycopy(audio.wholeChannel(0), 0, x, samples, (int) audio.frames());
    return Audio.of(RATE, x);
  }
}
