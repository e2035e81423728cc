package kettlesieve.core;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.UncheckedIOException;

/** Results of other people's software, made by src/test/fixtures/make_outside.py. */
public final class Outside {
  private Outside() {}

  public static JsonNode read() {
    return read("outside.json");
  }

  /** The results in a file of the test resources. */
  public static JsonNode read(String name) {
    try {
      return new ObjectMapper().readTree(Sounds.resource(name).toFile());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
