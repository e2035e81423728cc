package kettlesieve.core.report;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ListeningSheet;
import kettlesieve.core.comparison.ListeningSheet.Preference;
import kettlesieve.core.comparison.ListeningSheet.SheetAnswer;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.media.Checksum;

/**
 * What a listener sent back, {@code kettle-sieve/answers/1}. Its checksum covers everything but
 * itself: accidents and edits are found, forgery is not.
 */
public final class AnswerFile {
  /** The form of an answer. */
  public static final String SCHEMA = "kettle-sieve/answers/1";

  /** An answer is a few lines: larger ones are refused unread. */
  public static final long MOST_BYTES = 1L << 20;

  private static final int LONGEST_NAME = 60;
  private static final ObjectMapper JSON = new ObjectMapper();

  private AnswerFile() {}

  /** An answer that cannot be taken; the message names the file and what would mend it. */
  public static final class RefusedException extends Exception {
    private static final long serialVersionUID = 1L;

    RefusedException(Path file, String why) {
      super(file + ": " + why);
    }
  }

  /**
   * Takes an answer into a comparison.
   *
   * @return the comparison with it; the same one if it was there already
   * @throws RefusedException if it is no answer, of another sheet, altered, or too large
   */
  public static Comparison take(Comparison comparison, Path file) throws RefusedException {
    JsonNode tree = read(file);
    if (!tree.isObject() || !SCHEMA.equals(tree.path("schema").asText())) {
      throw new RefusedException(
          file, "this is no answer to a listening sheet. Take the file that the page saved");
    }
    ObjectNode own = tree.deepCopy();
    JsonNode checksum = own.remove("checksum");
    if (checksum == null || !checksum.isTextual()) {
      throw new RefusedException(file, "it has no checksum. Ask for the file as the page saved it");
    }
    if (!checksum.asText().equals(Checksum.ofText(canonical(own)))) {
      throw new RefusedException(
          file, "it was altered after it was saved. Ask for the file as the page saved it");
    }
    String id = tree.path("sheet").asText();
    ListeningSheet sheet =
        comparison.sheets().stream()
            .filter(s -> s.id().equals(id))
            .findFirst()
            .orElseThrow(
                () ->
                    new RefusedException(
                        file,
                        "it answers a sheet that was not made from this comparison. Bring it into"
                            + " the comparison that the sheet is of"));
    if (!sheet.kind().id().equals(tree.path("kind").asText())) {
      throw new RefusedException(file, "it answers another kind of question than its sheet asks");
    }
    String listener = tree.path("listener").asText("").strip();
    if (listener.length() > LONGEST_NAME) {
      throw new RefusedException(file, "the listener's name is too long");
    }
    boolean rating = sheet.kind() == Round.Kind.RATING;
    return comparison.withSheet(
        sheet.plus(
            new SheetAnswer(
                checksum.asText(),
                listener,
                rating ? ratings(file, tree.path("ratings"), sheet) : List.of(),
                rating ? List.of() : preferences(file, tree.path("preferences"), sheet))));
  }

  private static JsonNode read(Path file) throws RefusedException {
    try {
      if (!Files.isRegularFile(file)) {
        throw new RefusedException(file, "there is no such file. Check the name");
      }
      if (Files.size(file) > MOST_BYTES) {
        throw new RefusedException(
            file, "it is larger than any answer can be (1 MiB). Take the file that the page saved");
      }
      JsonNode tree = JSON.readTree(Files.readAllBytes(file));
      if (tree == null || tree.isMissingNode()) {
        throw new RefusedException(file, "it is empty. Ask for the file again");
      }
      return tree;
    } catch (JsonProcessingException e) {
      throw new RefusedException(
          file, "this is no answer to a listening sheet. Take the file that the page saved");
    } catch (IOException e) {
      throw new RefusedException(file, "it cannot be read. Check its permissions");
    }
  }

  private static List<Map<String, Double>> ratings(Path file, JsonNode node, ListeningSheet sheet)
      throws RefusedException {
    List<Map<String, Double>> all = new ArrayList<>();
    for (JsonNode passage : node) {
      Map<String, Double> ratings = new LinkedHashMap<>();
      for (var field : passage.properties()) {
        double value = field.getValue().asDouble(-1);
        if (!sheet.letters().containsKey(field.getKey()) || !(value >= 0 && value <= 100)) {
          throw new RefusedException(file, "it rates what its sheet does not have");
        }
        ratings.put(field.getKey(), value);
      }
      if (ratings.size() != sheet.letters().size()) {
        throw new RefusedException(file, "not every letter is rated. Ask for the whole answer");
      }
      all.add(ratings);
    }
    if (all.isEmpty()) {
      throw new RefusedException(file, "nothing is answered in it");
    }
    return all;
  }

  private static List<Preference> preferences(Path file, JsonNode node, ListeningSheet sheet)
      throws RefusedException {
    List<Preference> all = new ArrayList<>();
    for (JsonNode pair : node) {
      String first = pair.path("first").asText();
      String second = pair.path("second").asText();
      String answer = pair.path("answer").asText();
      Set<String> letters = sheet.letters().keySet();
      boolean known = letters.contains(first) && letters.contains(second) && !first.equals(second);
      if (!known || !List.of(first, second, Round.NO_DIFFERENCE).contains(answer)) {
        throw new RefusedException(file, "it prefers what its sheet does not have");
      }
      all.add(new Preference(first, second, answer));
    }
    if (all.isEmpty()) {
      throw new RefusedException(file, "nothing is answered in it");
    }
    return all;
  }

  /** A text that two trees have in common only if they are alike; the page writes the same. */
  static String canonical(JsonNode v) {
    StringBuilder text = new StringBuilder();
    canonical(v, text);
    return text.toString();
  }

  private static void canonical(JsonNode v, StringBuilder to) {
    if (v.isTextual()) {
      text(v.asText(), to);
    } else if (v.isNumber()) {
      to.append('#').append(v.isIntegralNumber() ? v.asText() : plain(v.asDouble())).append(';');
    } else if (v.isBoolean()) {
      to.append(v.asBoolean() ? 't' : 'f');
    } else if (v.isArray()) {
      to.append('[');
      v.forEach(inner -> canonical(inner, to));
      to.append(']');
    } else if (v.isObject()) {
      to.append('{');
      Set<String> names = new TreeSet<>();
      v.fieldNames().forEachRemaining(names::add);
      for (String name : names) {
        text(name, to);
        canonical(v.get(name), to);
      }
      to.append('}');
    } else {
      to.append('n');
    }
  }

  private static void text(String words, StringBuilder to) {
    to.append('s').append(words.length()).append(':').append(words);
  }

  /** Whole numbers have no point, as the page writes them. */
  private static String plain(double value) {
    return value == Math.rint(value) && Math.abs(value) < 1e15
        ? Long.toString((long) value)
        : Double.toString(value);
  }
}
