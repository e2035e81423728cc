package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;

/**
 * A recording that a comparison uses.
 *
 * @param path absolute in memory; in the file relative to the comparison, with forward slashes;
 *     empty where a file names none
 * @param sha256 checksum of the file's bytes when it was brought in; null until it has been read
 * @param stream which of several audio streams is meant, counted from 1; null for the one that the
 *     file marks, or its first
 * @param channel which channel alone is compared, counted from 1; null for all
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record MediaRef(String path, String sha256, Integer stream, Integer channel) {
  /** A recording that was never named. */
  static final MediaRef NONE = new MediaRef("", null);

  public MediaRef {
    path = path == null ? "" : path;
    if (stream != null && stream < 1 || channel != null && channel < 1) {
      throw new IllegalArgumentException("streams and channels are counted from 1");
    }
  }

  /** All channels of the stream that the file marks. */
  public MediaRef(String path, String sha256) {
    this(path, sha256, null, null);
  }

  /** A recording by its path alone. */
  public static MediaRef of(Path file) {
    return new MediaRef(file.toAbsolutePath().normalize().toString(), null);
  }

  /** Its path; empty if it has none that this system knows. */
  public Path file() {
    return named() ? Path.of(path) : Path.of("");
  }

  /** Whether there is a path, and one that a file can have here. */
  @JsonIgnore
  public boolean named() {
    try {
      return !path.isEmpty() && !Path.of(path).toString().isEmpty();
    } catch (InvalidPathException e) {
      return false;
    }
  }

  /** The same with another path. */
  public MediaRef withPath(String newPath) {
    return new MediaRef(newPath, sha256, stream, channel);
  }

  /** The same with another sha256. */
  public MediaRef withSha256(String newSha256) {
    return new MediaRef(path, newSha256, stream, channel);
  }

  /** The same with another stream, and all its channels. */
  public MediaRef withStream(Integer newStream) {
    return new MediaRef(path, sha256, newStream, null);
  }

  /** The same with one channel alone; null for all. */
  public MediaRef withChannel(Integer newChannel) {
    return new MediaRef(path, sha256, stream, newChannel);
  }

  /** Tells what of the file is taken from what else could be; empty for all of what it marks. */
  public String part() {
    return (stream == null ? "" : "stream " + stream)
        + (stream != null && channel != null ? ", " : "")
        + (channel == null ? "" : "channel " + channel);
  }
}
