package kettlesieve.core.comparison;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/** The parts a mix may be taken into, and the words in file names that tell them. */
public final class Roles {
  /** The usual roles, in the order in which they are shown; people add their own. */
  public static final List<String> USUAL =
      List.of(
          "vocals",
          "drums",
          "bass",
          "guitar",
          "piano",
          "strings",
          "winds",
          "other",
          "tonal",
          "transient",
          "noise");

  /** What a role is called that is a mix without another. */
  public static final String EVERYTHING_BUT = "everything but ";

  private static final String AND = " + ";
  private static final Map<String, String> WORDS = words();

  private Roles() {}

  private static Map<String, String> words() {
    Map<String, String> words = new LinkedHashMap<>();
    put(words, "vocals", "vocals vocal voice voices vox singer singing lead choir speech dialogue");
    put(words, "drums", "drums drum kit percussion perc beat snare");
    put(words, "bass", "bass bassline tuba");
    put(words, "guitar", "guitar guitars gtr git");
    put(words, "piano", "piano keys keyboard");
    put(words, "strings", "strings string violin viola cello");
    put(words, "winds", "winds wind brass horn horns sax flute trumpet");
    put(words, "other", "other others rest residual concertina accordion");
    put(words, "tonal", "tonal harmonic sustained");
    put(words, "transient", "transient transients percussive");
    put(words, "noise", "noise noisy stochastic");
    put(
        words,
        EVERYTHING_BUT + "vocals",
        "instrumental instrumentals accompaniment accomp backing novocals karaoke");
    return words;
  }

  private static void put(Map<String, String> words, String role, String list) {
    for (String word : list.split(" ")) {
      words.put(word, role);
    }
  }

  /** What a role is called that is the sum of others. */
  static String sum(List<String> roles) {
    return String.join(AND, roles);
  }

  /** The roles that "everything but" leaves out; empty for any other role. */
  public static List<String> without(String role) {
    return role.startsWith(EVERYTHING_BUT)
        ? List.of(role.substring(EVERYTHING_BUT.length()).split(Pattern.quote(AND)))
        : List.of();
  }

  /** The roles that a sum is made of; empty for any other role. */
  public static List<String> parts(String role) {
    return role.contains(AND) && !role.startsWith(EVERYTHING_BUT)
        ? List.of(role.split(Pattern.quote(AND)))
        : List.of();
  }

  /** Whether a role overlaps with others: a sum, or everything but some. */
  public static boolean composite(String role) {
    return role.startsWith(EVERYTHING_BUT) || role.contains(AND);
  }

  /** The role a single word stands for. */
  public static Optional<String> ofWord(String word) {
    return Optional.ofNullable(WORDS.get(word.toLowerCase(Locale.ROOT)));
  }

  /**
   * The role that a file name tells: "no drums" and "minus drums" are everything but drums; of
   * several words the last counts, because files are mostly named tool first.
   */
  public static Optional<String> guess(String fileStem) {
    String[] parts = fileStem.toLowerCase(Locale.ROOT).split("[^\\p{L}]+");
    for (int i = parts.length - 1; i >= 0; i--) {
      Optional<String> role = ofWord(parts[i]);
      if (role.isPresent()) {
        boolean without =
            i > 0 && List.of("no", "minus", "without", "but", "non").contains(parts[i - 1]);
        return without ? Optional.of(EVERYTHING_BUT + role.get()) : role;
      }
    }
    return Optional.empty();
  }

  /** Roles in the order of {@link #USUAL}, others after them as they came. */
  public static List<String> sorted(Collection<String> roles) {
    List<String> list = new ArrayList<>();
    USUAL.stream().filter(roles::contains).forEach(list::add);
    roles.stream().filter(r -> !list.contains(r)).forEach(list::add);
    return list;
  }
}
