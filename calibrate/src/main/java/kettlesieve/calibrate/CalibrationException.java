package kettlesieve.calibrate;

/** Why the bench cannot go on, with what to do about it. */
public final class CalibrationException extends Exception {
  private static final long serialVersionUID = 1;

  /**
   * @param message for people: what is missing and how to bring it
   */
  public CalibrationException(String message) {
    super(message);
  }

  /**
   * @param message for people: what is missing and how to bring it
   */
  public CalibrationException(String message, Throwable cause) {
    super(message, cause);
  }
}
