package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Path;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.task.Progress;

/**
 * "Harbour verse, three semitones up": a sung verse that must go into another key, with the
 * formants moving along and kept; and one that is a semitone short.
 */
final class HarbourVerse {
  private static final int RATE = DemoFolder.RATE;
  private static final double SEMITONES = 3;
  private static final double[][] VERSE = {
    {0.4, 0.7, 55, 0}, {1.15, 0.35, 57, 1}, {1.55, 0.9, 59, 3}, {2.6, 0.5, 60, 0},
    {3.15, 0.45, 59, 2}, {3.65, 1.2, 57, 4}, {5.1, 0.6, 52, 0}, {5.75, 0.4, 55, 1},
    {6.2, 0.8, 57, 3}, {7.1, 0.5, 55, 2}, {7.65, 1.5, 48, 0}
  };

  private HarbourVerse() {}

  static Path make(Path folder, Progress progress) throws IOException {
    return DemoFolder.make(folder, "harbour-verse.sieve", "made-2", f -> build(f, progress));
  }

  private static Comparison build(DemoFolder folder, Progress progress) throws IOException {
    progress.at("singing the verse", 0);
    float[] verse = new float[(int) (9.8 * RATE)];
    Singer singer = new Singer(RATE);
    for (double[] note : VERSE) {
      singer.sing(verse, note[0], note[1], Singer.hz(note[2]), (int) note[3], 0.22);
    }
    SplittableRandom random = new SplittableRandom(1899);
    for (int i = 0; i < verse.length; i++) {
      verse[i] += 0.0004f * (float) random.nextGaussian();
    }
    Audio source = Audio.of(RATE, verse);
    Comparison comparison =
        Comparison.empty("Harbour verse, three semitones up", Job.PITCH)
            .withSemitones(SEMITONES)
            .withSource(DemoFolder.ref(folder.write(source, "harbour-verse.wav")));
    for (StandIn tool : StandIns.of(Job.PITCH)) {
      progress.at("moving the verse", 0.5);
      comparison = plus(comparison, folder, source, tool, SEMITONES, "");
    }
    StandIn keeping = StandIns.of(Job.PITCH).get(1);
    comparison = plus(comparison, folder, source, keeping, SEMITONES - 1, "a semitone short");
    // As a tape would do it: the pitch is right, and the verse is over too soon.
    StandIn tape =
        StandIns.of(Job.STRETCH).stream()
            .filter(t -> t.id().equals("speed-change"))
            .findFirst()
            .orElseThrow();
    Audio faster =
        tape.make(source, new Setup(100, Math.pow(2, -SEMITONES / 12), 0), Progress.SILENT)
            .get(StandIn.WHOLE);
    Path file = folder.write(faster, "harbour-verse-speed-change.wav");
    return comparison.plus(
        Version.of(comparison.freshId(), tape.title(), DemoFolder.ref(file))
            .withTool(tape.title()));
  }

  private static Comparison plus(
      Comparison comparison,
      DemoFolder folder,
      Audio source,
      StandIn tool,
      double semitones,
      String setting)
      throws IOException {
    Audio made =
        tool.make(source, new Setup(100, 1, semitones), Progress.SILENT).get(StandIn.WHOLE);
    String word = setting.isEmpty() ? "" : "-" + setting.replace(' ', '-');
    Path file = folder.write(made, "harbour-verse-" + tool.id() + word + ".wav");
    String label = tool.title() + (setting.isEmpty() ? "" : ", " + setting);
    return comparison.plus(
        Version.of(comparison.freshId(), label, DemoFolder.ref(file))
            .withTool(tool.title())
            .withSetting(setting));
  }
}
