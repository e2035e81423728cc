package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import java.util.Optional;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.task.Progress;

/** Recordings of the packages as one channel at a rate. */
final class Recordings {
  private final MediaReader reader;

  /**
   * @param cache where decoded files are kept
   */
  Recordings(Path cache) {
    this.reader = new MediaReader(cache);
  }

  /** The rate of a file; empty if it cannot be read. */
  Optional<Integer> rate(Path file) {
    try {
      return Optional.of(reader.read(file, Progress.SILENT).audio().sampleRate());
    } catch (MediaException e) {
      return Optional.empty();
    }
  }

  /** All samples; empty for a file that cannot be read, as some packages have. */
  Optional<float[]> samples(Path file, int rate) {
    try {
      Audio mono = reader.read(file, Progress.SILENT).audio().downmix();
      return Optional.of(LinearTimeAudio.resample(mono, rate).wholeChannel(0));
    } catch (MediaException e) {
      return Optional.empty();
    }
  }
}
