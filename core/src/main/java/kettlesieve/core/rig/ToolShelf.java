package kettlesieve.core.rig;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.media.PlainFile;
import kettlesieve.core.media.WholeFile;

/**
 * The outside tools a person has defined, as a JSON file that can be handed on: {@code schema} and
 * a list of {@code tools}.
 */
public final class ToolShelf {
  /** The form of file that this program writes. */
  public static final String SCHEMA = "kettle-sieve/tools/1";

  private static final long LARGEST = 4L << 20;
  private static final ObjectMapper JSON =
      JsonMapper.builder()
          .enable(SerializationFeature.INDENT_OUTPUT)
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          .build();

  private ToolShelf() {}

  /**
   * Reads tools.
   *
   * @throws IOException with a message for people if the file is missing or is no list of tools
   */
  public static List<CommandTool> read(Path file) throws IOException {
    try {
      JsonNode tree = JSON.readTree(PlainFile.bytes(file, LARGEST));
      if (!tree.path("schema").asText("").equals(SCHEMA)) {
        throw new IOException(
            file + ": this is no list of tools. Choose a file that Kettle Sieve exported.");
      }
      List<CommandTool> tools = new ArrayList<>();
      for (JsonNode node : tree.path("tools")) {
        tools.add(JSON.treeToValue(node, CommandTool.class));
      }
      return tools;
    } catch (PlainFile.RefusedException e) {
      throw new IOException(file + ": " + e.getMessage() + ".", e);
    } catch (JsonProcessingException e) {
      Throwable cause = e.getCause();
      throw new IOException(
          file
              + ": "
              + (cause instanceof IllegalArgumentException
                  ? cause.getMessage()
                  : "it is damaged and cannot be read. Export it again."),
          e);
    }
  }

  /** Writes tools in one step; what stood there before is unharmed if that fails. */
  public static void write(List<CommandTool> tools, Path file) throws IOException {
    ObjectNode root = JSON.createObjectNode();
    root.put("schema", SCHEMA);
    ArrayNode list = root.putArray("tools");
    tools.forEach(t -> list.add(JSON.<JsonNode>valueToTree(t)));
    Files.createDirectories(file.toAbsolutePath().getParent());
    WholeFile.write(file, JSON.writeValueAsString(root) + "\n");
  }

  /** The tool of a name. */
  public static Optional<CommandTool> named(List<CommandTool> tools, String name) {
    return tools.stream().filter(t -> t.name().equalsIgnoreCase(name)).findFirst();
  }

  /** A list with a tool set: it takes the place of the one of its name. */
  public static List<CommandTool> with(List<CommandTool> tools, CommandTool tool) {
    List<CommandTool> list = new ArrayList<>(tools);
    list.removeIf(t -> t.name().equalsIgnoreCase(tool.name()));
    list.add(tool);
    return list;
  }
}
