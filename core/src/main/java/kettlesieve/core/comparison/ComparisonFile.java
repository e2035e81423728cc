package kettlesieve.core.comparison;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.UnaryOperator;

/**
 * Comparison files, {@code *.sieve}: JSON in UTF-8, with media by relative path and checksum.
 * Fields that this version does not know are kept. A file is replaced in one step or not at all.
 */
public final class ComparisonFile {
  /** The ending of a comparison file's name. */
  public static final String ENDING = ".sieve";

  private static final long LARGEST = 64L << 20;
  private static final String FAMILY = "kettle-sieve/comparison/";
  private static final ObjectMapper JSON =
      JsonMapper.builder()
          .enable(SerializationFeature.INDENT_OUTPUT)
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          .build();

  private ComparisonFile() {}

  /**
   * Reads a comparison. The recordings it names are not opened; their paths come back absolute.
   *
   * @throws ComparisonFileException if the file is missing, is no comparison, is damaged, or comes
   *     from a newer version of the program
   */
  public static Comparison load(Path file) throws ComparisonFileException {
    String text;
    try {
      if (Files.isRegularFile(file) && Files.size(file) > LARGEST) {
        throw new ComparisonFileException(
            file, "this is far too large for a comparison. Choose a file made by Kettle Sieve.");
      }
      text = Files.readString(file, StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new ComparisonFileException(
          file,
          Files.exists(file)
              ? "it could not be read as a comparison. Check that it is a " + ENDING + " file."
              : "there is no such file. Check the name, or look where it was moved to.",
          e);
    }
    try {
      // Some editors begin a file in UTF-8 with a byte-order mark.
      JsonNode tree = JSON.readTree(text.startsWith("\uFEFF") ? text.substring(1) : text);
      checkSchema(file, tree);
      Comparison read = JSON.treeToValue(tree, Comparison.class);
      Path folder = file.toAbsolutePath().getParent();
      return mapPaths(read, path -> folder.resolve(path).normalize().toString());
    } catch (JsonProcessingException | IllegalArgumentException e) {
      throw new ComparisonFileException(
          file,
          "it is damaged and cannot be read. Take an earlier copy; nothing in it was changed.",
          e);
    }
  }

  private static void checkSchema(Path file, JsonNode tree) throws ComparisonFileException {
    String schema = tree.path("schema").asText("");
    if (!schema.startsWith(FAMILY)) {
      throw new ComparisonFileException(
          file, "this is not a comparison. Choose a " + ENDING + " file made by Kettle Sieve.");
    }
    if (!schema.equals(Comparison.SCHEMA)) {
      throw new ComparisonFileException(
          file,
          "it was written by a newer version of Kettle Sieve (its form is "
              + schema.substring(FAMILY.length())
              + ", this program knows 1). Update the program; the file was not touched.");
    }
  }

  /**
   * Writes a comparison. Paths are stored relative to the file's folder where both lie on one disk.
   *
   * @throws ComparisonFileException if it cannot be written; what stood there before is unharmed
   */
  public static void save(Comparison comparison, Path file) throws ComparisonFileException {
    Path target = file.toAbsolutePath();
    Path folder = target.getParent();
    Path unfinished = target.resolveSibling(target.getFileName() + ".part");
    try {
      Files.createDirectories(folder);
      String text = JSON.writeValueAsString(mapPaths(comparison, p -> relative(folder, p))) + "\n";
      try (FileChannel out =
          FileChannel.open(
              unfinished,
              StandardOpenOption.CREATE,
              StandardOpenOption.TRUNCATE_EXISTING,
              StandardOpenOption.WRITE)) {
        var bytes = StandardCharsets.UTF_8.encode(text);
        while (bytes.hasRemaining()) {
          out.write(bytes);
        }
        out.force(true);
      }
      replace(unfinished, target);
    } catch (IOException e) {
      throw new ComparisonFileException(
          file,
          "it could not be saved. Check that there is room on the disk and that writing there is"
              + " allowed, or save under another name; what stood there before is unharmed.",
          e);
    } finally {
      try {
        Files.deleteIfExists(unfinished);
      } catch (IOException e) {
        // The unfinished copy is rubbish either way; the outcome of the save stands.
      }
    }
  }

  private static void replace(Path unfinished, Path target) throws IOException {
    try {
      Files.move(unfinished, target, StandardCopyOption.ATOMIC_MOVE);
    } catch (AtomicMoveNotSupportedException e) {
      Files.move(unfinished, target, StandardCopyOption.REPLACE_EXISTING);
    }
  }

  private static String relative(Path folder, String path) {
    Path absolute = Path.of(path).toAbsolutePath().normalize();
    try {
      return folder.normalize().relativize(absolute).toString().replace('\\', '/');
    } catch (IllegalArgumentException e) {
      // On another disk there is no relative path.
      return absolute.toString();
    }
  }

  private static Comparison mapPaths(Comparison c, UnaryOperator<String> change) {
    Map<String, MediaRef> trueStems = new LinkedHashMap<>();
    c.trueStems().forEach((role, ref) -> trueStems.put(role, map(ref, change)));
    return c.withSource(map(c.source(), change))
        .withReference(map(c.reference(), change))
        .withTrueStems(trueStems)
        .withVersions(c.versions().stream().map(v -> mapPaths(v, change)).toList());
  }

  private static Version mapPaths(Version v, UnaryOperator<String> change) {
    if (v.media() != null) {
      return v.withMedia(map(v.media(), change));
    }
    Map<String, Stem> stems = new LinkedHashMap<>();
    v.stems().forEach((role, s) -> stems.put(role, s.withMedia(map(s.media(), change))));
    return v.withStems(stems);
  }

  private static MediaRef map(MediaRef ref, UnaryOperator<String> change) {
    // A recording without a path is none.
    return ref == null || ref.path() == null ? null : ref.withPath(change.apply(ref.path()));
  }
}
