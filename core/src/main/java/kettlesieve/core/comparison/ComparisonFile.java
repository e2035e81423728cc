package kettlesieve.core.comparison;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.exc.StreamConstraintsException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.UnaryOperator;
import kettlesieve.core.media.Checksum;
import kettlesieve.core.media.FileGuard;
import kettlesieve.core.media.PlainFile;
import kettlesieve.core.media.Unfinished;
import kettlesieve.core.media.WholeFile;

/**
 * Comparison files, {@code *.sieve}: JSON in UTF-8, with media by relative path and checksum.
 * Fields that this version does not know are kept. A file is replaced in one step or not at all,
 * and what another program wrote meanwhile is not lost.
 */
public final class ComparisonFile {
  /** The ending of a comparison file's name. */
  public static final String ENDING = ".sieve";

  private static final long LARGEST = 16L << 20;
  private static final String FAMILY = "kettle-sieve/comparison/";
  private static final ObjectMapper JSON =
      JsonMapper.builder()
          .enable(SerializationFeature.INDENT_OUTPUT)
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          .build();

  /**
   * A comparison as it stands in its file.
   *
   * @param comparison what was read or written
   * @param sha256 checksum of the file's bytes
   */
  public record Stored(Comparison comparison, String sha256) {}

  private ComparisonFile() {}

  /**
   * Reads a comparison. The recordings it names are not opened; their paths come back absolute.
   *
   * @throws ComparisonFileException if the file is missing, is no comparison, is damaged, or comes
   *     from a newer version of the program
   */
  public static Comparison load(Path file) throws ComparisonFileException {
    return read(file).comparison();
  }

  /**
   * The same, with what tells later whether the file has changed.
   *
   * @throws ComparisonFileException as above
   */
  public static Stored read(Path file) throws ComparisonFileException {
    byte[] bytes;
    try {
      bytes = PlainFile.bytes(file, LARGEST);
    } catch (PlainFile.RefusedException e) {
      throw new ComparisonFileException(file, e.getMessage() + ".", e);
    } catch (IOException e) {
      throw new ComparisonFileException(
          file,
          "it could not be read. Check that reading it is allowed, and the disk it is on.",
          e);
    }
    return parsed(file, bytes);
  }

  private static Stored parsed(Path file, byte[] bytes) throws ComparisonFileException {
    try {
      JsonNode tree = JSON.readTree(text(bytes));
      checkSchema(file, tree);
      checkNumbers(file, tree, "");
      Comparison read = JSON.treeToValue(tree, Comparison.class);
      Comparison whole = read.withUnknown(UnknownFields.of(tree, JSON.valueToTree(read)));
      Path folder = file.toAbsolutePath().getParent();
      return new Stored(
          mapPaths(whole, path -> folder.resolve(path).normalize().toString()),
          Checksum.ofBytes(bytes));
    } catch (JsonMappingException e) {
      throw new ComparisonFileException(
          file,
          "in "
              + place(e)
              + (e.getCause() instanceof IllegalArgumentException own
                  ? own.getMessage()
                  : "something stands that does not belong there")
              + ". Mend it in a text editor or take an earlier copy; nothing in it was changed.",
          e);
    } catch (StreamConstraintsException e) {
      throw new ComparisonFileException(
          file, "this is no comparison: it is nested without end. Choose another file.", e);
    } catch (JsonProcessingException e) {
      throw new ComparisonFileException(
          file,
          (bytes.length == 0 ? "it is empty" : "it is damaged in line " + line(e))
              + ". Take an earlier copy; nothing in it was changed.",
          e);
    } catch (CharacterCodingException | IllegalArgumentException e) {
      throw new ComparisonFileException(
          file, "this is not a comparison. Choose a " + ENDING + " file made by Kettle Sieve.", e);
    }
  }

  /** Some editors begin a file in UTF-8 with a byte-order mark. */
  private static String text(byte[] bytes) throws CharacterCodingException {
    String text = StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes)).toString();
    return text.startsWith("\uFEFF") ? text.substring(1) : text;
  }

  private static String place(JsonMappingException e) {
    StringBuilder place = new StringBuilder();
    for (JsonMappingException.Reference step : e.getPath()) {
      if (step.getFieldName() != null) {
        place.append(place.isEmpty() ? "" : ".").append(step.getFieldName());
      } else {
        place.append(" ").append(step.getIndex() + 1);
      }
    }
    return place.isEmpty() ? "it, " : "\"" + place + "\" ";
  }

  private static int line(JsonProcessingException e) {
    return e.getLocation() == null ? 1 : e.getLocation().getLineNr();
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

  /** A number too large for this system would come back as one that is none. */
  private static void checkNumbers(Path file, JsonNode node, String place)
      throws ComparisonFileException {
    if (node.isNumber() && !Double.isFinite(node.asDouble())) {
      throw new ComparisonFileException(
          file,
          "\""
              + place
              + "\" is a number that nothing here can be. Mend it in a text editor or"
              + " take an earlier copy; nothing in it was changed.");
    }
    for (var field : node.properties()) {
      String name = place.isEmpty() ? field.getKey() : place + "." + field.getKey();
      checkNumbers(file, field.getValue(), name);
    }
    for (int i = 0; node.isArray() && i < node.size(); i++) {
      checkNumbers(file, node.get(i), place + " " + (i + 1));
    }
  }

  /**
   * Writes a comparison, whatever stands there. Paths are stored relative to the file's folder
   * where both lie on one disk.
   *
   * @throws ComparisonFileException if it cannot be written; what stood there before is unharmed
   */
  public static Stored save(Comparison comparison, Path file) throws ComparisonFileException {
    return guarded(file, target -> write(comparison, target));
  }

  /**
   * Writes a comparison that was read from the same file before. Versions that another program
   * added meanwhile are kept.
   *
   * @param before the file as it was read or written last
   * @throws ChangedElsewhereException if it was changed in any other way; nothing was written
   * @throws ComparisonFileException if it cannot be written; what stood there before is unharmed
   */
  public static Stored save(Comparison comparison, Path file, Stored before)
      throws ComparisonFileException {
    return guarded(
        file,
        target -> {
          if (!Files.exists(target) || Checksum.sha256(target).equals(before.sha256())) {
            return write(comparison, target);
          }
          Comparison now = readIfAny(file, target);
          Comparison merged =
              Merge.additions(before.comparison(), now, comparison)
                  .orElseThrow(() -> new ChangedElsewhereException(file));
          return write(merged, target);
        });
  }

  private static Comparison readIfAny(Path file, Path target) throws ChangedElsewhereException {
    try {
      return load(target);
    } catch (ComparisonFileException e) {
      throw new ChangedElsewhereException(file);
    }
  }

  /**
   * Changes a comparison file: reads it, changes what it holds and writes it, while no other
   * program does so.
   *
   * @return what stands there now
   * @throws ComparisonFileException if it cannot be read or written
   */
  public static Comparison update(Path file, UnaryOperator<Comparison> change)
      throws ComparisonFileException {
    return guarded(file, target -> write(change.apply(load(target)), target)).comparison();
  }

  private interface Change {
    Stored of(Path target) throws IOException, ComparisonFileException;
  }

  private static Stored guarded(Path file, Change change) throws ComparisonFileException {
    Path target = file.toAbsolutePath();
    try {
      Files.createDirectories(target.getParent());
      // A link and the file it points to are guarded as one.
      Path real = Files.exists(target) ? target.toRealPath() : target;
      Unfinished.sweepOnce(real.getParent());
      FileGuard guard = FileGuard.of(real);
      try {
        return change.of(target);
      } finally {
        guard.close();
      }
    } catch (IOException e) {
      throw new ComparisonFileException(
          file,
          "it could not be saved. Check that there is room on the disk and that writing there is"
              + " allowed, or save under another name; what stood there before is unharmed.",
          e);
    }
  }

  private static Stored write(Comparison comparison, Path target)
      throws IOException, ComparisonFileException {
    Path folder = target.getParent();
    JsonNode tree = JSON.valueToTree(mapPaths(comparison, p -> relative(folder, p)));
    comparison.unknown().putBack(tree);
    byte[] bytes = (JSON.writeValueAsString(tree) + "\n").getBytes(StandardCharsets.UTF_8);
    WholeFile.write(target, out -> out.write(bytes));
    return parsed(target, bytes);
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
    return c.withSource(orNone(map(c.source(), change)))
        .withReference(orNone(map(c.reference(), change)))
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
    return ref == null || !ref.named() ? ref : ref.withPath(change.apply(ref.path()));
  }

  /** A source without a path is none. */
  private static MediaRef orNone(MediaRef ref) {
    return ref == null || ref.path().isEmpty() ? null : ref;
  }
}
