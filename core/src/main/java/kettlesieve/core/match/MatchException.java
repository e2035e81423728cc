package kettlesieve.core.match;

import java.io.Serial;

/** A version that cannot be compared with the source; the message says why and what to do. */
public final class MatchException extends Exception {
  @Serial private static final long serialVersionUID = 1;

  /** With what is wrong and what would mend it. */
  public MatchException(String message) {
    super(message);
  }
}
