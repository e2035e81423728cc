package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonInclude;

/**
 * One stem of a version.
 *
 * @param media its file
 * @param origin what it was taken from; null for the mix itself
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Stem(MediaRef media, Origin origin) {
  public Stem {
    media = media == null ? MediaRef.NONE : media;
  }

  /** A stem taken from the mix. */
  public static Stem of(MediaRef media) {
    return new Stem(media, null);
  }

  /** The same with another media. */
  public Stem withMedia(MediaRef value) {
    return new Stem(value, origin);
  }

  /**
   * An earlier step of a chain: a part of another version that a tool was run on.
   *
   * @param version label of that version
   * @param part its role, or name of its sum or remainder
   * @param before what that part was itself taken from; null for the mix
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  public record Origin(String version, String part, Origin before) {
    /** The steps in words, the first one first. */
    public String words() {
      String own = part + " of " + version;
      return before == null ? own : before.words() + " → " + own;
    }
  }
}
