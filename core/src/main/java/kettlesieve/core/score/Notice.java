package kettlesieve.core.score;

/**
 * What the person should know.
 *
 * @param version label of the version it is about; empty for the comparison as a whole
 * @param text in plain words
 */
public record Notice(String version, String text) {
  /** Of the comparison as a whole. */
  public static Notice of(String text) {
    return new Notice("", text);
  }

  /** In one line, the version first. */
  public String line() {
    return version.isEmpty() ? text : version + ": " + text;
  }
}
