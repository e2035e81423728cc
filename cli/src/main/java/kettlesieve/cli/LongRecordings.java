package kettlesieve.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;

/** Recordings of some minutes, mapped from files as long recordings are. */
final class LongRecordings {
  private static final float NOISE = 0.0005f;

  private final Path folder;
  private final MediaReader reader;
  private int made;

  LongRecordings(Path folder) {
    this.folder = folder;
    this.reader = new MediaReader(folder.resolve("cache"));
  }

  /** In stereo, over and over, with noise of its own each time. */
  Audio of(Audio once, int seconds) throws IOException, MediaException {
    SplittableRandom random = new SplittableRandom(made);
    float[][] samples = new float[2][seconds * once.sampleRate()];
    for (int c = 0; c < samples.length; c++) {
      float[] x = once.wholeChannel(Math.min(c, once.channels() - 1));
      for (int i = 0; i < samples[c].length; i++) {
        samples[c][i] = x[i % x.length] + NOISE * (float) random.nextGaussian();
      }
    }
    return mapped(Audio.of(once.sampleRate(), samples));
  }

  /** The same recording, mapped. */
  Audio mapped(Audio audio) throws IOException, MediaException {
    Path file = folder.resolve("long-" + made++ + ".wav");
    WavWriter.write(audio, file, WavWriter.Format.FLOAT, Progress.SILENT);
    Audio read = reader.read(file, Progress.SILENT).audio();
    Files.delete(file);
    return read;
  }
}
