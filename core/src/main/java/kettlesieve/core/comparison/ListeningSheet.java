package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A listening sheet that was handed out: what its letters stand for, and what came back. The key
 * stays here; the sheet itself holds letters alone.
 *
 * @param id of the sheet, as its answers carry it
 * @param kind rating or pairs
 * @param question what was asked
 * @param made when, in ISO 8601
 * @param letters what each letter stands for: a version's id, or {@link Round#SOURCE}
 * @param answers what listeners sent back
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record ListeningSheet(
    String id,
    Round.Kind kind,
    Round.Question question,
    String made,
    Map<String, String> letters,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) List<SheetAnswer> answers) {

  /**
   * What one listener answered.
   *
   * @param checksum of the answer: the same one counts once
   * @param listener name or initials; empty for none
   * @param ratings by letter, 0 to 100, a map an excerpt
   * @param preferences pairs of letters and what was preferred
   */
  @JsonInclude(JsonInclude.Include.NON_EMPTY)
  public record SheetAnswer(
      String checksum,
      String listener,
      List<Map<String, Double>> ratings,
      List<Preference> preferences) {
    public SheetAnswer {
      if (checksum == null) {
        throw new IllegalArgumentException("an answer to a listening sheet has no checksum");
      }
      listener = listener == null ? "" : listener;
      ratings = ratings == null ? List.of() : List.copyOf(ratings);
      preferences = preferences == null ? List.of() : List.copyOf(preferences);
    }
  }

  /**
   * A pair that was heard.
   *
   * @param first letter
   * @param second letter
   * @param answer one of them, or {@link Round#NO_DIFFERENCE}
   */
  public record Preference(String first, String second, String answer) {}

  public ListeningSheet {
    if (id == null || kind == null || letters == null) {
      throw new IllegalArgumentException("a listening sheet needs an id, a kind and its letters");
    }
    question = question == null ? Round.Question.OVERALL : question;
    letters = Collections.unmodifiableMap(new LinkedHashMap<>(letters));
    answers = answers == null ? List.of() : List.copyOf(answers);
  }

  /** With an answer more; the same answer twice counts once. */
  public ListeningSheet plus(SheetAnswer answer) {
    if (answers.stream().anyMatch(a -> a.checksum().equals(answer.checksum()))) {
      return this;
    }
    List<SheetAnswer> list = new ArrayList<>(answers);
    list.add(answer);
    return new ListeningSheet(id, kind, question, made, letters, list);
  }

  /** The answers as rounds of what the letters stand for. */
  public List<Round> rounds() {
    List<Round> rounds = new ArrayList<>();
    for (SheetAnswer a : answers) {
      List<Round.Trial> trials = new ArrayList<>();
      for (Preference p : a.preferences()) {
        trials.add(
            new Round.Trial(
                List.of(letters.get(p.first()), letters.get(p.second())),
                null,
                letters.getOrDefault(p.answer(), Round.NO_DIFFERENCE),
                null));
      }
      for (Map<String, Double> ratings : a.ratings()) {
        ratings.forEach(
            (letter, value) ->
                trials.add(new Round.Trial(List.of(letters.get(letter)), null, null, value)));
      }
      rounds.add(
          new Round(
              id + "-" + rounds.size(),
              kind,
              question,
              a.listener(),
              0,
              null,
              "",
              List.copyOf(letters.values()),
              made,
              trials));
    }
    return rounds;
  }
}
