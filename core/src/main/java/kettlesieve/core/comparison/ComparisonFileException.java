package kettlesieve.core.comparison;

import java.io.Serial;
import java.nio.file.Path;

/** A comparison file that cannot be read or written; the message names the file and the remedy. */
public class ComparisonFileException extends Exception {
  @Serial private static final long serialVersionUID = 1;

  ComparisonFileException(Path file, String message) {
    this(file, message, null);
  }

  ComparisonFileException(Path file, String message, Throwable cause) {
    super(file + ": " + message, cause);
  }
}
