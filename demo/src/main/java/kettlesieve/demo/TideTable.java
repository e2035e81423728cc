package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Progress;

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
    List<StandIn> tools = StandIns.of(Job.STRETCH);
    for (StandIn tool : tools) {
      progress.at("shortening the tide table", (double) tools.indexOf(tool) / tools.size());
      Audio made = tool.make(source, new Setup(100, RATIO, 0), Progress.SILENT).get(StandIn.WHOLE);
      if (tool.id().equals("locked-phase-stretch")) {
        made = later(made, 3840);
      }
      Path file = folder.write(made, "tide-table-" + tool.id() + ".wav");
      comparison =
          comparison.plus(
              Version.of(comparison.freshId(), tool.title(), DemoFolder.ref(file))
                  .withTool(tool.title()));
    }
    return comparison;
  }

  /** A recording with silence before it. */
  static Audio later(Audio audio, int samples) {
    float[] x = new float[(int) audio.frames() + samples];
    System.arraycopy(audio.wholeChannel(0), 0, x, samples, (int) audio.frames());
    return Audio.of(RATE, x);
  }
}
