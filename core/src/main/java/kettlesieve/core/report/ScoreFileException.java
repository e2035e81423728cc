package kettlesieve.core.report;

/** A file holds no scores; the message names it and says what to do. */
public final class ScoreFileException extends Exception {
  private static final long serialVersionUID = 1;

  ScoreFileException(String message, Throwable cause) {
    super(message, cause);
  }
}
