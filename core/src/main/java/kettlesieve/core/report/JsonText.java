package kettlesieve.core.report;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.util.DefaultIndenter;
import com.fasterxml.jackson.core.util.DefaultPrettyPrinter;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.ObjectWriter;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.List;

/** How JSON is written: six decimals, indented, no digits without meaning. */
final class JsonText {
  private JsonText() {}

  /** Indented, with a line feed at the end. */
  static String indented(JsonNode root) {
    return text(indenting(), root) + "\n";
  }

  /** The same to a stream, which stays open. */
  static void indented(JsonNode root, OutputStream out) throws IOException {
    indenting().without(JsonGenerator.Feature.AUTO_CLOSE_TARGET).writeValue(out, root);
    out.write('\n');
  }

  private static ObjectWriter indenting() {
    DefaultIndenter indenter = new DefaultIndenter("  ", "\n");
    return new ObjectMapper()
        .writer(
            new DefaultPrettyPrinter().withObjectIndenter(indenter).withArrayIndenter(indenter));
  }

  /** On one line, without a line feed. */
  static String line(JsonNode root) {
    return text(new ObjectMapper().writer(), root);
  }

  private static String text(ObjectWriter writer, JsonNode root) {
    try {
      return writer.writeValueAsString(root);
    } catch (IOException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
  }

  /** What is no number is left out. */
  static void number(ObjectNode node, String key, double value) {
    if (Double.isFinite(value)) {
      node.put(key, Math.round(value * 1e6) / 1e6 + 0.0);
    }
  }

  /** Tenths of a percent, which is more than any trial tells. */
  static double chance(double value) {
    return Math.round(1e3 * value) / 1e3;
  }

  static void strings(ArrayNode array, List<String> values) {
    values.forEach(array::add);
  }
}
