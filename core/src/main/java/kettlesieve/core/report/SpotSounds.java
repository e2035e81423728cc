package kettlesieve.core.report;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.FlacWriter;

/** Short sounds within a page, as FLAC in addresses, up to a size in all. */
final class SpotSounds {
  /** A page with more than this is too large to be sent or opened. */
  static final long MOST_BYTES = 12L << 20;

  private static final String HEAD = "data:audio/flac;base64,";

  private final long most;
  private long used;
  private int leftOut;

  /**
   * @param most bytes in all; 0 for no sound
   */
  SpotSounds(long most) {
    this.most = most;
  }

  /**
   * The sounds of one place, or empty texts where they do not fit any more.
   *
   * @throws IOException if there is no room on disk to make them
   */
  String[] of(Audio source, Audio version) throws IOException {
    if (most == 0) {
      return new String[] {"", ""};
    }
    String[] sounds = {encoded(source), encoded(version)};
    long bytes = (long) sounds[0].length() + sounds[1].length();
    if (used + bytes > most) {
      leftOut++;
      return new String[] {"", ""};
    }
    used += bytes;
    return sounds;
  }

  private static String encoded(Audio audio) throws IOException {
    Path file = Files.createTempFile("kettle-sound", ".flac");
    try {
      FlacWriter.write(audio.channels() > 2 ? audio.downmix() : audio, file);
      return HEAD + Base64.getEncoder().encodeToString(Files.readAllBytes(file));
    } finally {
      Files.deleteIfExists(file);
    }
  }

  /** At how many places the sounds were left out for size. */
  int leftOut() {
    return leftOut;
  }
}
