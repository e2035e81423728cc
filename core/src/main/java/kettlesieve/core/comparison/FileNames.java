package kettlesieve.core.comparison;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What the names of files tell: which is the source, and by which tool, setting, amount and role
 * the others were made. A proposal for a person to correct, never more.
 */
public final class FileNames {
  /** What a file is taken for. */
  public enum Kind {
    /** The unprocessed recording. */
    SOURCE("Source"),
    /** The clean recording. */
    REFERENCE("Clean recording"),
    /** What the source was mixed from. */
    TRUE_STEM("True stem"),
    /** What a tool made. */
    VERSION("Version"),
    /** None of these. */
    LEAVE("Leave out");

    private final String title;

    Kind(String title) {
      this.title = title;
    }

    /** The words for people. */
    public String title() {
      return title;
    }
  }

  /**
   * What one file is taken for.
   *
   * @param file the file
   * @param kind what it is
   * @param tool what made it; empty if the name does not tell
   * @param setting how; empty if the name does not tell
   * @param amount 0 to 100; null if the name does not tell
   * @param role for stems; null if the name does not tell
   */
  public record Proposal(
      Path file, Kind kind, String tool, String setting, Double amount, String role) {
    /** A label for the version: tool, setting and amount. */
    public String label() {
      String text = tool + (setting.isEmpty() ? "" : " " + setting);
      if (amount != null) {
        boolean whole = amount == Math.rint(amount);
        text += " " + (whole ? Long.toString(Math.round(amount)) : amount.toString());
      }
      return text.isBlank() ? stem(file) : text.trim();
    }

    /** The same with another kind. */
    public Proposal withKind(Kind value) {
      return new Proposal(file, value, tool, setting, amount, role);
    }

    /** The same with another tool. */
    public Proposal withTool(String value) {
      return new Proposal(file, kind, value, setting, amount, role);
    }

    /** The same with another setting. */
    public Proposal withSetting(String value) {
      return new Proposal(file, kind, tool, value, amount, role);
    }

    /** The same with another amount. */
    public Proposal withAmount(Double value) {
      return new Proposal(file, kind, tool, setting, value, role);
    }

    /** The same with another role. */
    public Proposal withRole(String value) {
      return new Proposal(file, kind, tool, setting, amount, value);
    }
  }

  private static final Pattern AMOUNT =
      Pattern.compile("(?:amount|amt|strength)?(\\d{1,3}(?:[.,]\\d+)?)(?:%|pc|percent|pct)?");
  private static final Set<String> SOURCE_WORDS =
      Set.of("source", "original", "unprocessed", "raw", "mix", "mixture", "input", "noisy");
  private static final Set<String> REFERENCE_WORDS = Set.of("clean", "reference", "ref", "dry");
  private static final Set<String> ROLE_WORDS =
      Set.of("no", "minus", "without", "everything", "but", "stem", "stems");
  private static final Set<String> TRUE_WORDS = Set.of("true", "reference", "ref", "truth");
  private static final Set<String> AUDIO =
      new LinkedHashSet<>(
          List.of(
              "wav", "wave", "bwf", "rf64", "w64", "aif", "aiff", "aifc", "flac", "wv", "ogg",
              "oga", "opus", "mp3", "m4a", "aac", "ac3", "eac3", "ec3", "wma", "caf", "mxf", "mov",
              "mp4", "mkv", "webm", "avi", "mpg", "mpeg", "ts", "m2ts"));

  private FileNames() {}

  /** Endings of the files that this program reads, without their dot: sound, then video. */
  public static Set<String> audioEndings() {
    return Collections.unmodifiableSet(AUDIO);
  }

  /** Whether a file's ending is that of an audio file this program reads. */
  public static boolean audio(Path file) {
    String name = file.getFileName().toString();
    int dot = name.lastIndexOf('.');
    return dot > 0 && AUDIO.contains(name.substring(dot + 1).toLowerCase(Locale.ROOT));
  }

  /** A file's name without its ending. */
  public static String stem(Path file) {
    String name = file.getFileName().toString();
    int dot = name.lastIndexOf('.');
    return dot > 0 ? name.substring(0, dot) : name;
  }

  /**
   * Sorts files that were brought in together. Words that all of them share with each other and
   * with the source say nothing and are left out; words that several files share at the start are
   * the tool, what follows is the setting. A file whose name is a role alone takes its folder's
   * name for the tool.
   *
   * @param files in any order
   * @param job of the comparison
   * @param source the comparison's source; null if there is none yet
   */
  public static List<Proposal> sort(List<Path> files, Job job, Path source) {
    List<Words> all = new ArrayList<>();
    for (Path file : files) {
      all.add(Words.of(file, job));
    }
    Path chosen = source;
    if (chosen == null) {
      chosen = likelySource(all, files);
    }
    if (files.size() > 1 || source != null) {
      List<String> own = chosen == null ? null : tokens(stem(chosen));
      dropCommon(all, own, chosen);
    }
    Map<String, Integer> starts = new HashMap<>();
    for (Words words : all) {
      for (int n = 1; n <= words.rest.size(); n++) {
        starts.merge(lower(String.join(" ", words.rest.subList(0, n))), 1, Integer::sum);
      }
    }
    List<Proposal> proposals = new ArrayList<>();
    for (int i = 0; i < all.size(); i++) {
      proposals.add(propose(all.get(i), starts, job, files.get(i).equals(chosen), source));
    }
    return proposals;
  }

  private static Proposal propose(
      Words words, Map<String, Integer> starts, Job job, boolean isSource, Path known) {
    if (isSource && known == null) {
      return new Proposal(words.file, Kind.SOURCE, "", "", null, null);
    }
    boolean stems = job.inStems();
    if (stems && words.role != null && words.any(TRUE_WORDS)) {
      return new Proposal(words.file, Kind.TRUE_STEM, "", "", null, words.role);
    }
    boolean bare = words.rest.stream().map(FileNames::lower).allMatch(REFERENCE_WORDS::contains);
    if (!stems && !words.rest.isEmpty() && bare && words.amount == null) {
      return new Proposal(words.file, Kind.REFERENCE, "", "", null, null);
    }
    int shared = words.rest.size();
    for (int n = words.rest.size(); n >= 1; n--) {
      if (starts.get(lower(String.join(" ", words.rest.subList(0, n)))) > 1) {
        shared = n;
        break;
      }
    }
    String tool = sentence(words.rest.subList(0, shared));
    String setting = String.join(" ", words.rest.subList(shared, words.rest.size()));
    if (tool.isEmpty()) {
      Path folder = words.file.toAbsolutePath().getParent();
      boolean named = stems && words.role != null && folder != null && folder.getFileName() != null;
      tool = named ? sentence(tokens(folder.getFileName().toString())) : sentence(words.all);
    }
    return new Proposal(
        words.file, Kind.VERSION, tool, setting, words.amount, stems ? words.role : null);
  }

  private static Path likelySource(List<Words> all, List<Path> files) {
    if (files.size() == 1) {
      return files.get(0);
    }
    for (int i = 0; i < all.size(); i++) {
      if (all.get(i).any(SOURCE_WORDS) && all.get(i).role == null && all.get(i).amount == null) {
        return files.get(i);
      }
    }
    // The name that the others carry on from; else the first that tells no amount and no role.
    for (Path file : files) {
      String stem = stem(file);
      boolean carried =
          files.stream().filter(f -> !f.equals(file)).allMatch(f -> stem(f).startsWith(stem));
      if (carried) {
        return file;
      }
    }
    for (int i = 0; i < all.size(); i++) {
      if (all.get(i).amount == null && all.get(i).role == null) {
        return files.get(i);
      }
    }
    return files.get(0);
  }

  private static void dropCommon(List<Words> all, List<String> source, Path sourceFile) {
    List<Words> versions = all.stream().filter(w -> !w.file.equals(sourceFile)).toList();
    if (source != null) {
      for (Words words : versions) {
        int shared = 0;
        while (shared < Math.min(source.size(), words.all.size())
            && source.get(shared).equalsIgnoreCase(words.all.get(shared))) {
          shared++;
        }
        words.dropFirst(shared);
      }
    } else if (versions.size() > 1) {
      int shared = 0;
      while (sameAt(versions, shared)) {
        shared++;
      }
      for (Words words : versions) {
        words.dropFirst(shared);
      }
    }
  }

  private static boolean sameAt(List<Words> versions, int at) {
    Set<String> words = new HashSet<>();
    for (Words w : versions) {
      words.add(at < w.all.size() - 1 ? lower(w.all.get(at)) : "\0" + w.file);
    }
    return words.size() == 1;
  }

  private static List<String> tokens(String name) {
    List<String> list = new ArrayList<>();
    for (String part : name.split("[\\s_\\-+()\\[\\],]+")) {
      if (!part.isEmpty()) {
        list.add(part);
      }
    }
    return list;
  }

  private static String lower(String text) {
    return text.toLowerCase(Locale.ROOT);
  }

  private static String sentence(List<String> words) {
    String text = String.join(" ", words);
    return text.isEmpty() ? "" : Character.toUpperCase(text.charAt(0)) + text.substring(1);
  }

  /** A file's name taken apart. */
  private static final class Words {
    private final Path file;
    private final List<String> all;
    private final List<String> rest = new ArrayList<>();
    private Double amount;
    private String role;
    private final Job job;

    private Words(Path file, Job job) {
      this.file = file;
      this.job = job;
      this.all = tokens(stem(file));
      read(0);
    }

    static Words of(Path file, Job job) {
      return new Words(file, job);
    }

    void dropFirst(int count) {
      read(count);
    }

    boolean any(Set<String> words) {
      return all.stream().map(FileNames::lower).anyMatch(words::contains);
    }

    private void read(int first) {
      rest.clear();
      amount = null;
      role = null;
      List<String> own = all.subList(Math.min(first, all.size()), all.size());
      if (job.inStems()) {
        role = Roles.guess(String.join(" ", own)).orElse(null);
      }
      for (int i = own.size() - 1; i >= 0; i--) {
        String word = own.get(i);
        Matcher number = AMOUNT.matcher(lower(word));
        boolean behind = amount == null && number.matches();
        if (behind && Double.parseDouble(number.group(1).replace(',', '.')) <= 100) {
          amount = Double.valueOf(number.group(1).replace(',', '.'));
        } else if (!tellsRole(word)) {
          rest.add(0, word);
        }
      }
    }

    private boolean tellsRole(String word) {
      return job.inStems()
          && role != null
          && (ROLE_WORDS.contains(lower(word))
              || Roles.ofWord(word).map(r -> role.endsWith(r)).orElse(false));
    }
  }
}
