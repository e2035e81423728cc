package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Path;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.rig.SmoothedWiener;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.task.Progress;

/**
 * The demo comparison "The keeper's log": a made-up lighthouse log, read by a synthesised voice,
 * over motor hum, tape hiss and a few clicks. Six versions by the two stand-in denoisers at three
 * amounts; one of them is late, one is quieter and one inverted, so that Match has something to do.
 */
public final class KeepersLog {
  /** File name of the comparison. */
  public static final String FILE = "keepers-log.sieve";

  private static final int RATE = DemoFolder.RATE;

  private KeepersLog() {}

  /**
   * Makes the demo in a folder, or finds it there.
   *
   * @return the comparison's file
   * @throws IOException if it cannot be written
   */
  public static Path make(Path folder, Progress progress) throws IOException {
    return DemoFolder.make(folder, FILE, "made-4", f -> build(f, progress));
  }

  private static Comparison build(DemoFolder folder, Progress progress)
      throws IOException, MediaException {
    progress.at("making the demo recordings", 0);
    Path voiceFile = folder.copy("keepers-log-voice.flac", "keepers-log-clean.flac");
    float[] voice = folder.samples(voiceFile);
    float[] noisy = withNoise(voice);
    Audio source = Audio.of(RATE, noisy);
    Path sourceFile = folder.write(source, "keepers-log-tape.wav");
    Comparison comparison =
        Comparison.empty("The keeper's log", Job.DENOISE)
            .withSource(DemoFolder.ref(sourceFile))
            .withReference(DemoFolder.ref(voiceFile));
    StandIn[] tools = {new PlainSubtraction(), new SmoothedWiener()};
    int done = 0;
    for (StandIn tool : tools) {
      for (int amount : new int[] {30, 60, 90}) {
        progress.at("making the demo versions", done++ / 6.0);
        Audio version = spoiled(tool.process(source, amount, Progress.SILENT), tool, amount);
        Path written = folder.write(version, "keepers-log-" + tool.id() + "-" + amount + ".wav");
        comparison =
            comparison.plus(
                Version.of(
                        comparison.freshId(), tool.title() + " " + amount, DemoFolder.ref(written))
                    .withTool(tool.title())
                    .withAmount((double) amount));
      }
    }
    return comparison;
  }

  /** What happens to files on their way: one late, one quieter, one inverted. */
  private static Audio spoiled(Audio version, StandIn tool, int amount) {
    if (tool instanceof PlainSubtraction && amount == 60) {
      float[] x = version.wholeChannel(0);
      float[] late = new float[x.length + 1152];
      System.arraycopy(x, 0, late, 1152, x.length);
      return Audio.of(RATE, late);
    }
    if (tool instanceof SmoothedWiener && amount == 30) {
      return Audio.of(RATE, version.times(0.5).wholeChannel(0));
    }
    if (tool instanceof SmoothedWiener && amount == 90) {
      return Audio.of(RATE, version.times(-1).wholeChannel(0));
    }
    return version;
  }

  private static float[] withNoise(float[] voice) {
    SplittableRandom random = new SplittableRandom(1894);
    float[] noisy = new float[voice.length];
    double pink = 0;
    double last = 0;
    for (int i = 0; i < voice.length; i++) {
      double t = (double) i / RATE;
      double white = random.nextGaussian();
      pink = 0.96 * pink + 0.28 * white;
      // Tape hiss: a little brighter than white, over a soft low part.
      double hiss = 0.0045 * (white - 0.4 * last) + 0.0028 * pink;
      last = white;
      double speed = 1 + 0.0008 * Math.sin(2 * Math.PI * 0.6 * t);
      double hum = 0;
      for (int h = 1; h <= 6; h++) {
        hum += Math.sin(2 * Math.PI * 49.6 * h * t * speed + h) * (h % 2 == 0 ? 0.5 : 1) / h;
      }
      noisy[i] = (float) (0.55 * voice[i] + hiss + 0.008 * hum);
    }
    for (int c = 0; c < 14; c++) {
      int at = random.nextInt(noisy.length - 200);
      double size = 0.12 + 0.25 * random.nextDouble();
      double pitch = 2500 + 3000 * random.nextDouble();
      for (int i = 0; i < 60; i++) {
        noisy[at + i] +=
            (float) (size * Math.exp(-i / 9.0) * Math.cos(2 * Math.PI * pitch * i / RATE));
      }
    }
    return noisy;
  }
}
