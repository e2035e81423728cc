package kettlesieve.core.roundup;

import java.util.Comparator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Names in the order in which people count: {@code f-2} before {@code f-10}. */
final class ByNumber implements Comparator<String> {
  static final ByNumber ORDER = new ByNumber();

  private static final Pattern PARTS = Pattern.compile("\\d{1,18}|\\D+|\\d+");

  @Override
  public int compare(String a, String b) {
    Matcher one = PARTS.matcher(a);
    Matcher other = PARTS.matcher(b);
    while (true) {
      boolean more = one.find();
      boolean otherMore = other.find();
      if (!more || !otherMore) {
        // What counts alike, such as 01 and 1, is still told apart.
        return more == otherMore ? a.compareTo(b) : more ? 1 : -1;
      }
      int order = part(one.group(), other.group());
      if (order != 0) {
        return order;
      }
    }
  }

  private static int part(String a, String b) {
    boolean numbers = Character.isDigit(a.charAt(0)) && Character.isDigit(b.charAt(0));
    return numbers && a.length() <= 18 && b.length() <= 18
        ? Long.compare(Long.parseLong(a), Long.parseLong(b))
        : a.compareTo(b);
  }
}
