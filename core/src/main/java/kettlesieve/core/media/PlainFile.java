package kettlesieve.core.media;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * Reads small files whole, and nothing else: no device that never ends, no pipe that never begins,
 * nothing larger than it may be.
 */
public final class PlainFile {
  private PlainFile() {}

  /** A file that is none to be read; its message says why, in lower case. */
  public static final class RefusedException extends IOException {
    private static final long serialVersionUID = 1;

    RefusedException(String message) {
      super(message);
    }
  }

  /**
   * The bytes of a file.
   *
   * @param most bytes it may have
   * @throws RefusedException if it is none, no regular one, or larger
   * @throws IOException if it cannot be read
   */
  public static byte[] bytes(Path file, long most) throws IOException {
    if (!Files.exists(file)) {
      throw new RefusedException("there is no such file. Check the name, or where it was moved to");
    }
    if (Files.isDirectory(file)) {
      throw new RefusedException("this is a folder. Choose a file in it");
    }
    if (!Files.isRegularFile(file)) {
      throw new RefusedException("this is no plain file but a device or a pipe. Choose a file");
    }
    try (InputStream in = Files.newInputStream(file)) {
      byte[] read = in.readNBytes((int) most + 1);
      if (read.length > most) {
        throw new RefusedException(
            "it is larger than " + (most >> 20) + " MB, far too large for what it should be");
      }
      return read;
    }
  }
}
