package kettlesieve.core.measure;

/**
 * A part of what is measured: a role, an excerpt, or both.
 *
 * @param role the stem that is judged; empty for the version as a whole
 * @param excerpt name of the excerpt; empty for all that is measured together
 */
public record Part(String role, String excerpt) {
  /** All of it. */
  public static final Part ALL = new Part("", "");

  /** One of several excerpts. */
  public static Part ofExcerpt(String name) {
    return new Part("", name);
  }

  /** One role over all excerpts. */
  public static Part ofRole(String role) {
    return new Part(role, "");
  }
}
