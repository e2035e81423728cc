package kettlesieve.core.comparison;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Labels of one comparison where there is little room: what all of them share is taken out first,
 * then the middle of each, and never so that two look alike.
 */
public final class ShortLabels {
  private static final Pattern WORD = Pattern.compile("[^\\s_\\-/.,;]+[\\s_\\-/.,;]*");
  private static final String GAP = "…";

  private ShortLabels() {}

  /**
   * Short forms, one a label and in their order.
   *
   * @param labels different ones; those that are equal stay equal
   * @param most characters of each, at least 4
   */
  public static List<String> of(List<String> labels, int most) {
    if (labels.stream().allMatch(l -> l.length() <= most)) {
      return List.copyOf(labels);
    }
    List<String> own = withoutShared(labels);
    int different = new HashSet<>(labels).size();
    // At a word's beginning the gap reads best.
    List<String> worded = own.stream().map(l -> atWord(l, most)).toList();
    if (new HashSet<>(worded).size() == different) {
      return worded;
    }
    // Where the gap lies in the middle two may look alike: it moves until they do not.
    for (int shift = 0; shift < most; shift++) {
      for (int side : new int[] {1, -1}) {
        int head = (most - 1) / 2 + side * shift;
        if (head >= 0 && head < most) {
          List<String> cut = own.stream().map(l -> cut(l, most, head)).toList();
          if (new HashSet<>(cut).size() == different) {
            return cut;
          }
        }
      }
    }
    return numbered(labels, own, most);
  }

  /** Cut so that what follows the gap begins with a word, if one is short enough. */
  private static String atWord(String label, int most) {
    if (label.length() <= most) {
      return label;
    }
    int tail = 0;
    Matcher m = WORD.matcher(label);
    while (m.find()) {
      int rest = label.length() - m.start();
      tail = m.start() > 0 && rest <= (most - 1) / 2 ? Math.max(tail, rest) : tail;
    }
    return cut(label, most, tail > 0 ? most - 1 - tail : (most - 1) / 2);
  }

  private static String cut(String label, int most, int head) {
    if (label.length() <= most) {
      return label;
    }
    int tail = most - 1 - head;
    return label.substring(0, head).strip() + GAP + label.substring(label.length() - tail).strip();
  }

  /** The labels without the words that all of them begin and end with. */
  private static List<String> withoutShared(List<String> labels) {
    List<List<String>> words = labels.stream().map(ShortLabels::words).toList();
    int shortest = words.stream().mapToInt(List::size).min().orElse(0);
    int first = 0;
    while (first < shortest - 1 && shared(words, first, false)) {
      first++;
    }
    int last = 0;
    while (last < shortest - 1 - first && shared(words, last, true)) {
      last++;
    }
    List<String> own = new ArrayList<>();
    for (List<String> label : words) {
      own.add(
          String.join("", label.subList(first, label.size() - last))
              .replaceAll("^[\\s_\\-/.,;]+|[\\s_\\-/.,;]+$", ""));
    }
    boolean told = new HashSet<>(own).size() == new HashSet<>(labels).size();
    return told && labels.size() > 1 ? own : labels;
  }

  private static boolean shared(List<List<String>> words, int at, boolean fromEnd) {
    return words.stream()
            .map(w -> (fromEnd ? w.get(w.size() - 1 - at) : w.get(at)).strip())
            .distinct()
            .count()
        == 1;
  }

  private static List<String> words(String label) {
    List<String> words = new ArrayList<>();
    Matcher m = WORD.matcher(label);
    int end = 0;
    while (m.find()) {
      words.add(label.substring(end, m.end()));
      end = m.end();
    }
    return words.isEmpty() ? List.of(label) : words;
  }

  /** Where nothing else tells them apart: their number among the labels. */
  private static List<String> numbered(List<String> labels, List<String> own, int most) {
    List<String> numbered = new ArrayList<>();
    for (int i = 0; i < own.size(); i++) {
      String number = GAP + (labels.indexOf(labels.get(i)) + 1);
      int room = Math.max(0, most - number.length());
      numbered.add(own.get(i).substring(0, Math.min(room, own.get(i).length())) + number);
    }
    return numbered;
  }
}
