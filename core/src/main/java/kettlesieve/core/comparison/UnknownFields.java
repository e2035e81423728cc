package kettlesieve.core.comparison;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * What a file holds beyond what this version of the program knows, at every level: kept with the
 * comparison and put back when it is saved. Elements of lists are told by their ids, names or
 * places, so that they keep what is theirs when others are added, moved or taken out.
 *
 * @param fields by name, null values too
 * @param below by the name of a field, or by what tells an element from the others
 * @param made whether the program would write nothing here by itself
 */
public record UnknownFields(
    Map<String, JsonNode> fields, Map<String, UnknownFields> below, boolean made) {
  public UnknownFields {
    fields = Collections.unmodifiableMap(new LinkedHashMap<>(fields));
    below = Collections.unmodifiableMap(new LinkedHashMap<>(below));
  }

  /** Nothing unknown. */
  public static final UnknownFields NONE = new UnknownFields(Map.of(), Map.of(), false);

  /**
   * What a file holds beyond what is known of it.
   *
   * @param file as it was read
   * @param known as the program would write it
   */
  static UnknownFields of(JsonNode file, JsonNode known) {
    UnknownFields found = between(file, known);
    return found == null ? NONE : found;
  }

  private static UnknownFields between(JsonNode file, JsonNode known) {
    Map<String, JsonNode> fields = new LinkedHashMap<>();
    Map<String, UnknownFields> below = new LinkedHashMap<>();
    if (file.isObject()) {
      file.properties()
          .forEach(
              field -> {
                JsonNode own = known == null ? null : known.get(field.getKey());
                if (own == null && !field.getValue().isObject()) {
                  fields.put(field.getKey(), field.getValue());
                } else {
                  put(below, field.getKey(), between(field.getValue(), own));
                }
              });
    } else if (file.isArray() && known != null) {
      Map<String, JsonNode> elements = new LinkedHashMap<>();
      for (int i = 0; i < known.size(); i++) {
        elements.put(key(known.get(i), i), known.get(i));
      }
      for (int i = 0; i < file.size(); i++) {
        JsonNode own = elements.get(key(file.get(i), i));
        if (own != null) {
          put(below, key(file.get(i), i), between(file.get(i), own));
        }
      }
    }
    boolean nothing = fields.isEmpty() && below.isEmpty();
    return nothing ? null : new UnknownFields(fields, below, known == null);
  }

  private static void put(Map<String, UnknownFields> below, String key, UnknownFields found) {
    if (found != null) {
      below.put(key, found);
    }
  }

  private static String key(JsonNode element, int index) {
    for (String name : new String[] {"id", "name"}) {
      if (element.path(name).isTextual()) {
        return element.get(name).asText();
      }
    }
    return element.has("from") && element.has("to")
        ? element.get("from").asDouble() + "–" + element.get("to").asDouble()
        : Integer.toString(index);
  }

  /** Puts everything back that still has a place. */
  void putBack(JsonNode saved) {
    if (saved instanceof ObjectNode object) {
      fields.forEach((name, value) -> object.putIfAbsent(name, value));
      below.forEach(
          (name, inner) -> {
            if (inner.made && !object.has(name)) {
              object.putObject(name);
            }
            inner.putBack(object.path(name));
          });
    } else if (saved instanceof ArrayNode array) {
      for (int i = 0; i < array.size(); i++) {
        UnknownFields inner = below.get(key(array.get(i), i));
        if (inner != null) {
          inner.putBack(array.get(i));
        }
      }
    }
  }
}
