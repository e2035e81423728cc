package kettlesieve.core.comparison;

import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;

/** Words of the person's own by which comparisons are told apart in a round-up. */
public final class Tags {
  /** The most letters of one. */
  public static final int LONGEST = 60;

  private Tags() {}

  /** Those of a line in which commas part them: without blanks around, each once. */
  public static List<String> of(String line) {
    return clean(Arrays.stream(line.split(",")));
  }

  /** The same of some that are told singly. */
  public static List<String> clean(Stream<String> tags) {
    return tags.map(String::strip).filter(t -> !t.isEmpty()).distinct().toList();
  }

  /** Whether one may stand: neither nothing nor a text. */
  public static boolean valid(String tag) {
    return !tag.isBlank() && tag.strip().length() <= LONGEST;
  }
}
