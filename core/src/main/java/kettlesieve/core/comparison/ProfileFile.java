package kettlesieve.core.comparison;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import kettlesieve.core.media.PlainFile;
import kettlesieve.core.media.WholeFile;

/**
 * A delivery profile in a file of its own, as JSON: a house's specification goes from desk to desk.
 */
public final class ProfileFile {
  /** The form of file that this program writes. */
  public static final String SCHEMA = "kettle-sieve/profile/1";

  private static final long LARGEST = 1L << 20;
  private static final ObjectMapper JSON =
      JsonMapper.builder()
          .enable(SerializationFeature.INDENT_OUTPUT)
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          .build();

  private ProfileFile() {}

  /** The profile as the text of its file. */
  public static String text(Profile profile) {
    ObjectNode tree = JSON.createObjectNode().put("schema", SCHEMA);
    tree.setAll((ObjectNode) JSON.valueToTree(profile));
    return tree.toPrettyString() + "\n";
  }

  /**
   * Writes a profile, whole or not at all.
   *
   * @throws IOException if it cannot be written
   */
  public static void write(Profile profile, Path file) throws IOException {
    WholeFile.write(file, text(profile));
  }

  /**
   * Reads a profile.
   *
   * @throws IOException if the file is missing, damaged, of another kind, or asks for what no
   *     profile can; the message is for people and names the file
   */
  public static Profile read(Path file) throws IOException {
    String name = file.getFileName().toString();
    try {
      String text = new String(PlainFile.bytes(file, LARGEST), StandardCharsets.UTF_8);
      JsonNode tree = JSON.readTree(text);
      if (tree == null || !SCHEMA.equals(tree.path("schema").asText())) {
        throw new IOException(
            name + " is no delivery profile of this program: it lacks \"" + SCHEMA + "\".");
      }
      ((ObjectNode) tree).remove("schema");
      return JSON.treeToValue(tree, Profile.class);
    } catch (JsonMappingException e) {
      String why = e.getCause() instanceof IllegalArgumentException own ? own.getMessage() : null;
      throw new IOException(
          name
              + " was not taken: "
              + (why == null ? "something stands in it that does not belong there" : why)
              + ".",
          e);
    } catch (JsonProcessingException e) {
      throw new IOException(
          name + " is damaged in line " + e.getLocation().getLineNr() + ": it is no JSON.", e);
    } catch (PlainFile.RefusedException e) {
      throw new IOException(name + ": " + e.getMessage() + ".", e);
    }
  }
}
