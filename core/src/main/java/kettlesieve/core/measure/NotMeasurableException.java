package kettlesieve.core.measure;

import java.io.Serial;

/** A reading cannot be taken; the message is the reason in plain words. That is a result, too. */
public final class NotMeasurableException extends Exception {
  @Serial private static final long serialVersionUID = 1;

  /** With the reason in plain words. */
  public NotMeasurableException(String reason) {
    super(reason, null, false, false);
  }
}
