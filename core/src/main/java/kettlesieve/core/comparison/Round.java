package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * A round of blind listening: what was asked, of whom, in which order, and what was answered. A
 * trial without an answer is still to be heard; a round that was broken off goes on there.
 *
 * @param id stays the same for as long as the round is in its comparison
 * @param kind what is asked
 * @param question overall, or one of the three questions
 * @param listener name or initials of their choosing; empty for none
 * @param seed of every order in it
 * @param span the loop, seconds of the source's time; null for the whole source
 * @param role stems: the one that is heard; empty for all of them together
 * @param items all that takes part, by id, in the comparison's order
 * @param begun when, in ISO 8601
 * @param trials in the order in which they are heard
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Round(
    String id,
    Kind kind,
    Question question,
    String listener,
    long seed,
    TimeSpan span,
    String role,
    List<String> items,
    String begun,
    List<Trial> trials) {
  /** What takes part without being a version: the untouched source. */
  public static final String SOURCE = "source";

  /** The clean recording, hidden among the others. */
  public static final String REFERENCE = "reference";

  /** The clean recording low-passed at 3.5 kHz (ITU-R BS.1534-3). */
  public static final String LOW_ANCHOR = "anchor-3500";

  /** The clean recording low-passed at 7 kHz (ITU-R BS.1534-3). */
  public static final String MID_ANCHOR = "anchor-7000";

  /** The answer of a pair in which neither is preferred. */
  public static final String NO_DIFFERENCE = "none";

  /** Whether an item takes part without being a version. */
  public static boolean hidden(String item) {
    return List.of(SOURCE, REFERENCE, LOW_ANCHOR, MID_ANCHOR).contains(item);
  }

  /** What is asked. */
  public enum Kind {
    /** Is X the one or the other? */
    ABX("A, B or X"),
    /** Which of two would you deliver? */
    PAIRS("Pairs"),
    /** How good is each? */
    RATING("Rating");

    private final String title;

    Kind(String title) {
      this.title = title;
    }

    /** The word for people. */
    public String title() {
      return title;
    }

    /** The word in files. */
    @JsonValue
    public String id() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /** What is to be listened for. */
  public enum Question {
    /** All in all. */
    OVERALL("all in all"),
    /** What should have been dealt with. */
    MISSED("what should have gone and is still there"),
    /** What was never in the source. */
    ADDED("what was never in the source"),
    /** What was wanted. */
    LOST("what was wanted and is gone");

    private final String words;

    Question(String words) {
      this.words = words;
    }

    /** What to listen for, for people. */
    public String words() {
      return words;
    }

    /** The word in files. */
    @JsonValue
    public String id() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /**
   * One thing to be heard and answered.
   *
   * @param items what is heard, by id, in the order in which it is offered
   * @param x which of them X is; null but in ABX
   * @param answer the item that was chosen, or {@link #NO_DIFFERENCE}; null as long as it is open
   * @param position where on the line a token was put, 0 to 100; null but in ratings
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  public record Trial(List<String> items, String x, String answer, Double position) {
    public Trial {
      items = items == null ? List.of() : List.copyOf(items);
      if (items.isEmpty() || position != null && !(position >= 0 && position <= 100)) {
        throw new IllegalArgumentException("a trial of a blind round is broken");
      }
    }

    /** Whether it was answered. */
    @JsonIgnore
    public boolean answered() {
      return answer != null || position != null;
    }

    /** The same with an answer. */
    public Trial withAnswer(String value) {
      return new Trial(items, x, value, position);
    }

    /** The same with a place on the line; null takes it back. */
    public Trial withPosition(Double value) {
      return new Trial(items, x, answer, value);
    }
  }

  public Round {
    if (id == null || kind == null) {
      throw new IllegalArgumentException("a blind round needs an id and a kind");
    }
    question = question == null ? Question.OVERALL : question;
    listener = listener == null ? "" : listener;
    role = role == null ? "" : role;
    items = items == null ? List.of() : List.copyOf(items);
    trials = trials == null ? List.of() : List.copyOf(trials);
  }

  /** Number of the first trial without an answer; the count of all if there is none. */
  @JsonIgnore
  public int next() {
    int n = 0;
    while (n < trials.size() && trials.get(n).answered()) {
      n++;
    }
    return n;
  }

  /** Whether everything is answered. */
  @JsonIgnore
  public boolean done() {
    return trials.stream().allMatch(Trial::answered);
  }

  /** The same with other trials. */
  public Round withTrials(List<Trial> value) {
    return new Round(id, kind, question, listener, seed, span, role, items, begun, value);
  }

  /** With one trial in place of another. */
  public Round withTrial(int number, Trial trial) {
    List<Trial> changed = new ArrayList<>(trials);
    changed.set(number, trial);
    return withTrials(changed);
  }

  /** The same under another id. */
  public Round withId(String value) {
    return new Round(value, kind, question, listener, seed, span, role, items, begun, trials);
  }
}
