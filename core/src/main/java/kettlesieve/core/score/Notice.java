package kettlesieve.core.score;

/**
 * What the person should know.
 *
 * @param version label of the version it is about; empty for the comparison as a whole
 * @param text in plain words
 * @param doubt whether scores are less certain by it
 */
public record Notice(String version, String text, boolean doubt) {
  /** What leaves the scores as certain as they are. */
  public Notice(String version, String text) {
    this(version, text, false);
  }

  /** Of the comparison as a whole. */
  public static Notice of(String text) {
    return new Notice("", text);
  }

  /** Of the source, which makes scores less certain. */
  public static Notice doubting(String text) {
    return new Notice("", text, true);
  }

  /** In one line, the version first. */
  public String line() {
    return version.isEmpty() ? text : version + ": " + text;
  }
}
