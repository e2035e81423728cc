package kettlesieve.core.comparison;

/**
 * A place in the source that is kept under a name.
 *
 * @param name unique in its comparison
 * @param span where it is
 */
public record Excerpt(String name, TimeSpan span) {
  public Excerpt {
    if (name == null || name.isBlank() || span == null) {
      throw new IllegalArgumentException("an excerpt needs a name and a place");
    }
  }
}
