package kettlesieve.cli;

import java.io.Serial;

/** The words of a command are off; the message says which. */
final class UsageException extends RuntimeException {
  @Serial private static final long serialVersionUID = 1;

  UsageException(String message) {
    super(message);
  }
}
