package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonAnyGetter;
import com.fasterxml.jackson.annotation.JsonAnySetter;
import java.nio.file.Path;
import java.util.Map;

/**
 * A recording that a comparison uses.
 *
 * @param path absolute in memory; in the file relative to the comparison, with forward slashes
 * @param sha256 checksum of the file's bytes when it was brought in; null until it has been read
 * @param extra fields that this version of the program does not know
 */
public record MediaRef(
    String path, String sha256, @JsonAnySetter @JsonAnyGetter Map<String, Object> extra) {
  public MediaRef {
    extra = extra == null ? Map.of() : Map.copyOf(extra);
  }

  /** A recording by its path alone. */
  public static MediaRef of(Path file) {
    return new MediaRef(file.toAbsolutePath().normalize().toString(), null, Map.of());
  }

  /** Its path. */
  public Path file() {
    return Path.of(path);
  }

  /** The same with another path. */
  public MediaRef withPath(String newPath) {
    return new MediaRef(newPath, sha256, extra);
  }

  /** The same with another sha256. */
  public MediaRef withSha256(String newSha256) {
    return new MediaRef(path, newSha256, extra);
  }
}
