package kettlesieve.core.report;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ListeningSheet;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.score.ears.Preferences;
import kettlesieve.core.score.ears.Ratings;

/** What several listeners said, as a table for people. */
public final class EarTable {
  private static final int DRAWS = 400;

  private EarTable() {}

  /** What an item is called once the key is known. */
  public static String name(Comparison comparison, String item) {
    return switch (item) {
      case Round.SOURCE -> "the untouched source";
      case Round.REFERENCE -> "the clean recording";
      case Round.LOW_ANCHOR -> "clean, low-passed at 3.5 kHz";
      case Round.MID_ANCHOR -> "clean, low-passed at 7 kHz";
      default ->
          comparison.version(item).map(Version::label).orElse("a version that was taken out");
    };
  }

  /** The answers to a listening sheet, summed up. */
  public static String of(Comparison comparison, ListeningSheet sheet) {
    StringBuilder text = new StringBuilder();
    int count = sheet.answers().size();
    line(
        text,
        "Listening sheet %s, %s, %s: %d answer%s",
        sheet.id(),
        sheet.kind().id(),
        sheet.question().words(),
        count,
        count == 1 ? "" : "s");
    if (count > 0) {
      List<String> items = List.copyOf(sheet.letters().values());
      UnaryOperator<String> name =
          item -> name(comparison, item) + " (" + letter(sheet, item) + ")";
      if (sheet.kind() == Round.Kind.RATING) {
        ratings(sheet.rounds(), items, name, text);
      } else {
        preferences(sheet.rounds(), items, name, text);
      }
    }
    return text.toString();
  }

  /**
   * Finished rounds of the same items, kind, question and role, summed up: one text for each group
   * of two or more, whoever listened.
   */
  public static List<String> together(Comparison comparison) {
    Map<List<Object>, List<Round>> groups = new LinkedHashMap<>();
    for (Round round : comparison.rounds()) {
      if (round.done() && round.kind() != Round.Kind.ABX) {
        List<Object> same =
            List.of(round.kind(), round.question(), round.role(), Set.copyOf(round.items()));
        groups.computeIfAbsent(same, g -> new ArrayList<>()).add(round);
      }
    }
    List<String> texts = new ArrayList<>();
    for (List<Round> rounds : groups.values()) {
      if (rounds.size() > 1) {
        texts.add(together(comparison, rounds));
      }
    }
    return texts;
  }

  private static String together(Comparison comparison, List<Round> rounds) {
    Round first = rounds.get(0);
    StringBuilder text = new StringBuilder();
    List<String> who =
        rounds.stream().map(Round::listener).filter(l -> !l.isEmpty()).distinct().toList();
    line(
        text,
        "%d rounds together, %s, %s%s%s",
        rounds.size(),
        first.kind().title().toLowerCase(Locale.ROOT),
        first.question().words(),
        first.role().isEmpty() ? "" : ", " + first.role(),
        who.isEmpty() ? "" : ": " + String.join(", ", who));
    // What takes part without being a version is found in the trials.
    List<String> items =
        rounds.stream()
            .flatMap(r -> r.trials().stream())
            .flatMap(t -> t.items().stream())
            .distinct()
            .toList();
    UnaryOperator<String> name = item -> name(comparison, item);
    if (first.kind() == Round.Kind.RATING) {
      ratings(rounds, items, name, text);
    } else {
      preferences(rounds, items, name, text);
    }
    return text.toString();
  }

  private static void line(StringBuilder text, String pattern, Object... values) {
    text.append(String.format(Locale.ROOT, pattern, values)).append('\n');
  }

  private static void ratings(
      List<Round> rounds, List<String> items, UnaryOperator<String> name, StringBuilder text) {
    // By listener: whoever does not find the hidden reference is set aside, and said so.
    Map<String, List<Map<String, Double>>> byListener = new LinkedHashMap<>();
    for (Round round : rounds) {
      String who = round.listener().isEmpty() ? round.id() : round.listener();
      byListener.computeIfAbsent(who, w -> new ArrayList<>()).add(Ratings.of(round));
    }
    List<Map<String, Double>> kept = new ArrayList<>();
    List<String> aside = new ArrayList<>();
    byListener.forEach(
        (who, sets) -> {
          if (Ratings.setAside(sets)) {
            aside.add(who);
          } else {
            kept.addAll(sets);
          }
        });
    Ratings ratings = new Ratings(kept);
    if (!kept.isEmpty()) {
      line(text, "  median  quartiles");
      items.stream()
          .sorted(Comparator.comparingDouble(i -> -ratings.median(i)))
          .forEach(
              i ->
                  line(
                      text,
                      "  %6.1f  %5.1f to %5.1f  %s",
                      ratings.median(i),
                      ratings.quartiles(i)[0],
                      ratings.quartiles(i)[1],
                      name.apply(i)));
    }
    if (kept.size() > 1) {
      line(
          text,
          byListener.size() == rounds.size()
              ? "  agreement of %d listeners: W = %.2f"
              : "  agreement of %d rounds: W = %.2f",
          kept.size(),
          ratings.agreement(items));
      List<String> versions = items.stream().filter(i -> !Round.hidden(i)).toList();
      for (Ratings.Pairing p : ratings.pairings(versions)) {
        if (p.corrected() < 0.05) {
          line(
              text,
              "  %s and %s differ, p = %.3f after correction",
              name.apply(p.first()),
              name.apply(p.second()),
              p.corrected());
        }
      }
    }
    if (!aside.isEmpty()) {
      line(
          text,
          "  set aside, for the hidden clean recording was rated under %.0f too often: %s",
          Ratings.REFERENCE_FROM,
          String.join(", ", aside));
    }
  }

  private static String letter(ListeningSheet sheet, String item) {
    return sheet.letters().entrySet().stream()
        .filter(e -> e.getValue().equals(item))
        .map(Map.Entry::getKey)
        .collect(Collectors.joining());
  }

  private static void preferences(
      List<Round> rounds, List<String> items, UnaryOperator<String> name, StringBuilder text) {
    List<Preferences.Answer> answers = Preferences.answers(rounds, items);
    Preferences found = Preferences.of(items, answers, DRAWS, 1);
    line(text, "  strength (log of the worth), 95 %% interval");
    for (int i : order(found.strengths())) {
      Estimate e = found.strengths().get(i);
      line(
          text,
          "  %6.2f  %5.2f to %5.2f  %s",
          e.value(),
          e.low(),
          e.high(),
          name.apply(items.get(i)));
    }
    int circular = found.circularTriads();
    line(
        text,
        "  %d trials, %d circular triad%s",
        answers.size(),
        circular,
        circular == 1 ? "" : "s");
  }

  private static List<Integer> order(List<Estimate> strengths) {
    List<Integer> order = new ArrayList<>();
    for (int i = 0; i < strengths.size(); i++) {
      order.add(i);
    }
    order.sort(Comparator.comparingDouble(i -> -strengths.get(i).value()));
    return order;
  }
}
