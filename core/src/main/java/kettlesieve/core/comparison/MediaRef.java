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
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record MediaRef(String path, String sha256) {
  /** A recording that was never named. */
  static final MediaRef NONE = new MediaRef("", null);

  public MediaRef {
    path = path == null ? "" : path;
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
    return new MediaRef(newPath, sha256);
  }

  /** The same with another sha256. */
  public MediaRef withSha256(String newSha256) {
    return new MediaRef(path, newSha256);
  }
}
