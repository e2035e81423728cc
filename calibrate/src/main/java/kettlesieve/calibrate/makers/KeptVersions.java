package kettlesieve.calibrate.makers;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.Checksum;

/**
 * Versions that take minutes to make, kept between runs: each by what went in and by what was done,
 * so that a change of either makes it anew.
 */
final class KeptVersions {
  private final Path folder;

  /** Makes a version. */
  interface Way {
    Audio make() throws CalibrationException;
  }

  /**
   * @param folder where they are kept, made when it is needed
   */
  KeptVersions(Path folder) {
    this.folder = folder;
  }

  /**
   * Finds a version, or makes it.
   *
   * @param in what it is made of, one channel
   * @param words what is done, in full
   */
  Audio of(Audio in, String words, Way way) throws CalibrationException {
    ByteBuffer samples = bytes(in);
    Path file =
        folder.resolve(
            Checksum.ofText(words + in.sampleRate() + Checksum.ofBytes(samples.array())) + ".f32");
    try {
      if (Files.exists(file)) {
        ByteBuffer kept = ByteBuffer.wrap(Files.readAllBytes(file));
        float[] x = new float[kept.remaining() / Float.BYTES];
        kept.asFloatBuffer().get(x);
        return Audio.of(in.sampleRate(), x);
      }
      Audio made = way.make();
      Files.createDirectories(folder);
      Path part = Files.createTempFile(folder, "part", null);
      Files.write(part, bytes(made).array());
      Files.move(part, file, StandardCopyOption.ATOMIC_MOVE);
      return made;
    } catch (IOException e) {
      throw new CalibrationException(
          "versions cannot be kept in " + folder + ": " + e.getMessage(), e);
    }
  }

  private static ByteBuffer bytes(Audio audio) {
    float[] x = audio.wholeChannel(0);
    ByteBuffer bytes = ByteBuffer.allocate(Float.BYTES * x.length);
    bytes.asFloatBuffer().put(x);
    return bytes;
  }
}
