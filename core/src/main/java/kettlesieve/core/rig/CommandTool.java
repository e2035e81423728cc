package kettlesieve.core.rig;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import kettlesieve.core.comparison.Job;

/**
 * An outside tool: a program with a list of arguments, never a shell line. Places in the arguments
 * are filled in for each run: {@code {input}}, {@code {output}}, {@code {folder}} (for tools that
 * write several files), {@code {amount}}, {@code {ratio}}, {@code {percent}} (100 · ratio), {@code
 * {tempo}} (1 / ratio), {@code {semitones}}, and any further setting by its name.
 *
 * @param name for people, unique on a shelf
 * @param job what it does
 * @param arguments the program, then its arguments
 * @param settings further places and what they are filled with
 * @param lowest what {@code {amount}} is at amount 0
 * @param highest what {@code {amount}} is at amount 100
 * @param timeLimitSeconds after this a run is stopped; never null, null for the usual limit
 * @param price what it costs, in the person's words; null if not said
 * @param realTime whether it can run while the sound plays; null if not known
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record CommandTool(
    String name,
    Job job,
    List<String> arguments,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) Map<String, String> settings,
    double lowest,
    double highest,
    Double timeLimitSeconds,
    String price,
    Boolean realTime) {
  /** Time limit where none is said. */
  public static final double USUAL_LIMIT_SECONDS = 600;

  private static final double LONGEST_LIMIT_SECONDS = 7 * 24 * 3600;

  private static final Pattern PLACE = Pattern.compile("\\{([A-Za-z][A-Za-z0-9_-]*)\\}");
  private static final List<String> OWN =
      List.of("input", "output", "folder", "amount", "ratio", "percent", "tempo", "semitones");

  public CommandTool {
    name = name == null ? "" : name.trim();
    job = job == null ? Job.DENOISE : job;
    arguments = arguments == null ? List.of() : List.copyOf(arguments);
    settings =
        settings == null ? Map.of() : Collections.unmodifiableMap(new LinkedHashMap<>(settings));
    if (lowest == 0 && highest == 0) {
      highest = 100;
    }
    timeLimitSeconds = timeLimitSeconds == null ? USUAL_LIMIT_SECONDS : timeLimitSeconds;
    if (name.isEmpty()) {
      throw new IllegalArgumentException("a tool needs a name");
    }
    if (arguments.isEmpty() || arguments.get(0).isBlank()) {
      throw new IllegalArgumentException(name + ": a tool needs a program to run");
    }
    if (!(timeLimitSeconds > 0 && timeLimitSeconds <= LONGEST_LIMIT_SECONDS)) {
      throw new IllegalArgumentException(
          name + ": the time limit is a number of seconds above 0, of a week at most");
    }
    String all = String.join("\n", arguments);
    if (!all.contains("{input}")) {
      throw new IllegalArgumentException(
          name + ": the arguments need {input}, the place of the file to process");
    }
    if (!all.contains("{output}") && !all.contains("{folder}")) {
      throw new IllegalArgumentException(
          name + ": the arguments need {output}, the place of the file to write, or {folder}");
    }
    Matcher places = PLACE.matcher(all);
    while (places.find()) {
      if (!OWN.contains(places.group(1)) && !settings.containsKey(places.group(1))) {
        throw new IllegalArgumentException(
            name + ": nothing is said for the place {" + places.group(1) + "}");
      }
    }
  }

  /** A tool of which only the command is known. */
  public static CommandTool of(String name, Job job, List<String> arguments) {
    return new CommandTool(name, job, arguments, Map.of(), 0, 100, USUAL_LIMIT_SECONDS, null, null);
  }

  /** With some places filled otherwise. */
  public CommandTool withSettings(Map<String, String> changed) {
    Map<String, String> all = new LinkedHashMap<>(settings);
    all.putAll(changed);
    return new CommandTool(
        name, job, arguments, all, lowest, highest, timeLimitSeconds, price, realTime);
  }

  /** With another time limit. */
  public CommandTool withTimeLimit(double seconds) {
    return new CommandTool(
        name, job, arguments, settings, lowest, highest, seconds, price, realTime);
  }

  /**
   * The words of a line as a person types them: separated by blanks, kept together by single or
   * double quotes. Nothing else has a meaning.
   *
   * @throws IllegalArgumentException if a quote is not closed
   */
  public static List<String> words(String line) {
    List<String> words = new ArrayList<>();
    StringBuilder word = new StringBuilder();
    boolean begun = false;
    char quote = 0;
    for (char c : line.toCharArray()) {
      if (quote != 0) {
        if (c == quote) {
          quote = 0;
        } else {
          word.append(c);
        }
      } else if (c == '"' || c == '\'') {
        quote = c;
        begun = true;
      } else if (Character.isWhitespace(c)) {
        if (begun) {
          words.add(word.toString());
          word.setLength(0);
          begun = false;
        }
      } else {
        word.append(c);
        begun = true;
      }
    }
    if (quote != 0) {
      throw new IllegalArgumentException("a quotation mark is not closed: " + quote);
    }
    if (begun) {
      words.add(word.toString());
    }
    return words;
  }

  /** The line that {@link #words} takes apart into these arguments. */
  @JsonIgnore
  public String line() {
    List<String> quoted = new ArrayList<>();
    for (String word : arguments) {
      boolean plain = !word.isEmpty() && word.chars().noneMatch(Character::isWhitespace);
      boolean marked = word.indexOf('"') >= 0 || word.indexOf('\'') >= 0;
      char mark = word.indexOf('"') >= 0 ? '\'' : '"';
      quoted.add(plain && !marked ? word : mark + word + mark);
    }
    return String.join(" ", quoted);
  }

  /** Whether one run writes several files into a folder. */
  @JsonIgnore
  public boolean writesFolder() {
    return arguments.stream().anyMatch(a -> a.contains("{folder}"));
  }

  /** Whether the amount changes anything. */
  @JsonIgnore
  public boolean hasAmount() {
    return arguments.stream().anyMatch(a -> a.contains("{amount}"));
  }

  /**
   * The arguments of one run. Each place is filled within its own argument: what a file is called
   * can neither add an argument nor become an option of its own.
   */
  List<String> filled(String input, String output, String folder, Setup setup) {
    Map<String, String> values = new LinkedHashMap<>(settings);
    double amount = lowest + (highest - lowest) * setup.amount() / 100;
    values.put("input", input);
    values.put("output", output);
    values.put("folder", folder);
    values.put("amount", number(amount));
    values.put("ratio", number(setup.ratio()));
    values.put("percent", number(100 * setup.ratio()));
    values.put("tempo", number(1 / setup.ratio()));
    values.put("semitones", number(setup.semitones()));
    List<String> filled = new ArrayList<>();
    for (String argument : arguments) {
      Matcher matcher = PLACE.matcher(argument);
      StringBuilder text = new StringBuilder();
      while (matcher.find()) {
        matcher.appendReplacement(text, Matcher.quoteReplacement(values.get(matcher.group(1))));
      }
      matcher.appendTail(text);
      filled.add(text.toString());
    }
    return filled;
  }

  private static String number(double value) {
    return value == Math.rint(value) && Math.abs(value) < 1e9
        ? Long.toString(Math.round(value))
        : String.format(java.util.Locale.ROOT, "%.6f", value);
  }
}
