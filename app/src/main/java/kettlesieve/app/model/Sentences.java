package kettlesieve.app.model;

/** Words that become sentences. */
public final class Sentences {
  private Sentences() {}

  /** With a capital at its beginning. */
  public static String begun(String text) {
    return text.isEmpty() ? text : Character.toUpperCase(text.charAt(0)) + text.substring(1);
  }
}
