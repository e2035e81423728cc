package kettlesieve.app.model;

import java.nio.file.Path;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;

/** What a version's file name tells of it. */
final class FileNames {
  private static final Pattern AMOUNT =
      Pattern.compile("^(.*?)[\\s_-]*\\b(\\d{1,3})(?:\\s*(?:%|pc|percent))?$");

  private FileNames() {}

  /**
   * A version from its file: what the name shares with the source's is left out of the label, and a
   * whole number from 0 to 100 at the end is taken for the amount.
   */
  static Version version(String id, Path file, Path source) {
    String name = stem(file);
    String rest = name.substring(commonWords(name, stem(source)));
    String label = rest.replaceAll("[_-]+", " ").trim();
    label = label.isEmpty() ? name : label;
    Version version = Version.of(id, label, MediaRef.of(file));
    Matcher amount = AMOUNT.matcher(label);
    if (amount.matches() && Integer.parseInt(amount.group(2)) <= 100) {
      version =
          version.withTool(amount.group(1).trim()).withAmount(Double.valueOf(amount.group(2)));
    }
    return version;
  }

  private static String stem(Path file) {
    String name = file.getFileName().toString();
    int dot = name.lastIndexOf('.');
    return dot > 0 ? name.substring(0, dot) : name;
  }

  /** Length of the beginning that two names share, up to the end of a word. */
  private static int commonWords(String a, String b) {
    int common = 0;
    for (int i = 0; i < Math.min(a.length(), b.length()) && a.charAt(i) == b.charAt(i); i++) {
      if (!Character.isLetterOrDigit(a.charAt(i))) {
        common = i + 1;
      }
    }
    boolean whole = a.startsWith(b) && a.length() > b.length() + 1;
    return whole && !Character.isLetterOrDigit(a.charAt(b.length())) ? b.length() + 1 : common;
  }
}
