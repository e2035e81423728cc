package kettlesieve.cli;

import java.nio.file.Path;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;

/**
 * Small recordings: a tone that comes and goes twice a second, over noise that is always the same.
 */
final class Tapes {
  private static final int RATE = 16_000;

  private Tapes() {}

  /** Makes a recording of so many seconds; its path as it is typed. */
  static String make(Path file, int seconds, double noise) throws Exception {
    SplittableRandom random = new SplittableRandom(5);
    float[] x = new float[seconds * RATE];
    for (int i = 0; i < x.length; i++) {
      double loud = i % RATE < RATE / 2 ? 0.2 : 0;
      x[i] = (float) (loud * Math.sin(i * 0.09) + noise * random.nextGaussian());
    }
    WavWriter.write(Audio.of(RATE, x), file, WavWriter.Format.PCM_24, Progress.SILENT);
    return file.toString();
  }
}
