package kettlesieve.core.testpiece;

/** A test piece that cannot be made; its message says why and what would mend it. */
public final class PieceException extends Exception {
  private static final long serialVersionUID = 1;

  /**
   * @param message a sentence for people, that names the file where there is one
   */
  public PieceException(String message) {
    super(message);
  }
}
