package kettlesieve.core.report;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.ears.AbxResult;
import kettlesieve.core.score.ears.EarAgainstFigures;
import kettlesieve.core.score.ears.Preferences;
import kettlesieve.core.score.ears.Ratings;

/** What a blind round said, in words: the result in the first sentence, then figures. */
public final class RoundWords {
  private static final int DRAWS = 400;
  private static final int MOST_PAIRS = 4;

  /** A token that lands farther from where it was says little. */
  private static final double STEADY = 15;

  private static final int MOST_KNOWN = 64;

  private static final Map<Round, Preferences> KNOWN =
      new LinkedHashMap<>(16, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Round, Preferences> eldest) {
          return size() > MOST_KNOWN;
        }
      };

  private RoundWords() {}

  /** What kind of round, about what, by whom. */
  public static String head(Round round) {
    String by = round.listener().isEmpty() ? "" : ", " + round.listener();
    String role = round.role().isEmpty() ? "" : ", " + round.role() + " alone";
    return round.kind().title() + ": " + round.question().words() + role + by;
  }

  /** The result, a sentence each; of a round that is not done how far it got. */
  public static List<String> lines(Comparison comparison, Round round, ScoreSheet sheet) {
    if (!round.done()) {
      return List.of(
          String.format(
              Locale.ROOT,
              "Broken off after %d of %d trials.",
              round.next(),
              round.trials().size()));
    }
    return switch (round.kind()) {
      case ABX ->
          List.of(
              AbxResult.of(round)
                  .sentence(
                      EarTable.name(comparison, round.items().get(0)),
                      EarTable.name(comparison, round.items().get(1))),
              figures(AbxResult.of(round)));
      case PAIRS -> pairs(comparison, round, sheet);
      case RATING -> rating(comparison, round, sheet);
    };
  }

  private static String figures(AbxResult r) {
    return String.format(
        Locale.ROOT,
        "Right in %.0f %% (95 %% interval %.0f to %.0f), sensitivity d′ %.1f.",
        100.0 * r.right() / r.trials(),
        100 * r.low(),
        100 * r.high(),
        r.sensitivity());
  }

  /** What the ear makes of each version in a round, more is better; empty for ABX. */
  public static Map<String, Estimate> ear(Round round) {
    Map<String, Estimate> ear = new LinkedHashMap<>();
    if (round.kind() == Round.Kind.PAIRS) {
      Preferences found = preferences(round);
      for (int i = 0; i < found.items().size(); i++) {
        ear.put(found.items().get(i), found.strengths().get(i));
      }
    } else if (round.kind() == Round.Kind.RATING) {
      Ratings.of(round).forEach((item, value) -> ear.put(item, Estimate.sure(value)));
    }
    ear.keySet().removeIf(Round::hidden);
    return ear;
  }

  /** A round is asked for again whenever anything is shown anew; its draws are made once. */
  private static Preferences preferences(Round round) {
    synchronized (KNOWN) {
      return KNOWN.computeIfAbsent(
          round,
          r ->
              Preferences.of(
                  r.items(), Preferences.answers(List.of(r), r.items()), DRAWS, r.seed()));
    }
  }

  private static List<String> pairs(Comparison comparison, Round round, ScoreSheet sheet) {
    Preferences found = preferences(round);
    List<Integer> order = new ArrayList<>();
    for (int i = 0; i < found.items().size(); i++) {
      order.add(i);
    }
    order.sort(Comparator.comparingDouble(i -> -found.strengths().get(i).value()));
    int first = order.get(0);
    Estimate lead = found.strengths().get(first).minus(found.strengths().get(order.get(1)));
    List<String> lines = new ArrayList<>();
    String best = EarTable.name(comparison, found.items().get(first));
    String second = EarTable.name(comparison, found.items().get(order.get(1)));
    lines.add(
        lead.low() > 0
            ? "You preferred " + best + "."
            : "You preferred " + best + ", but not surely over " + second + ".");
    List<String> strengths = new ArrayList<>();
    for (int i : order) {
      Estimate e = found.strengths().get(i);
      strengths.add(
          String.format(
              Locale.ROOT,
              "%s %s (%s to %s)",
              EarTable.name(comparison, found.items().get(i)),
              Answer.number(e.value()),
              Answer.number(e.low()),
              Answer.number(e.high())));
    }
    lines.add("Strengths, with 95 % intervals: " + String.join("; ", strengths) + ".");
    int circles = found.circularTriads();
    if (circles > 0) {
      lines.add(
          circles
              + (circles == 1 ? " circle" : " circles")
              + " among the answers (A over B, B over C, C over A): the versions are hard to order.");
    }
    lines.addAll(against(comparison, round, sheet));
    return lines;
  }

  private static List<String> rating(Comparison comparison, Round round, ScoreSheet sheet) {
    Map<String, Double> rated = Ratings.of(round);
    List<String> order = new ArrayList<>(rated.keySet());
    order.sort(Comparator.comparingDouble(i -> -rated.get(i)));
    List<String> lines = new ArrayList<>();
    String first = order.stream().filter(i -> !Round.hidden(i)).findFirst().orElse(order.get(0));
    lines.add(
        String.format(
            Locale.ROOT,
            "Of the versions you put %s highest, at %.0f of 100.",
            EarTable.name(comparison, first),
            rated.get(first)));
    List<String> places = new ArrayList<>();
    order.forEach(
        i ->
            places.add(
                String.format(Locale.ROOT, "%s %.0f", EarTable.name(comparison, i), rated.get(i))));
    lines.add(String.join("; ", places) + ".");
    OptionalDouble apart = Ratings.repeatedApart(round);
    if (apart.isPresent()) {
      lines.add(
          String.format(
              Locale.ROOT,
              "One was hidden twice: you put it %.0f points apart%s.",
              apart.getAsDouble(),
              apart.getAsDouble() > STEADY ? ", so smaller differences say little" : ""));
    }
    if (Ratings.setAside(List.of(rated))) {
      lines.add(
          "The hidden clean recording was put under 90: by the rule of ITU-R BS.1534-3 such a round"
              + " is set aside.");
    }
    lines.addAll(against(comparison, round, sheet));
    return lines;
  }

  private static List<String> against(Comparison comparison, Round round, ScoreSheet sheet) {
    Optional<EarAgainstFigures> found =
        sheet == null
            ? Optional.empty()
            : EarAgainstFigures.of(ear(round), round.question(), sheet);
    if (found.isEmpty()) {
      return List.of();
    }
    EarAgainstFigures f = found.get();
    Clock clock = Answer.clock(sheet, comparison);
    List<String> lines = new ArrayList<>();
    lines.add(
        String.format(
            Locale.ROOT,
            "Ear and figures: τ = %s (%s to %s) over %d pairs; they differ on %d.",
            Answer.number(f.tau().value()),
            Answer.number(f.tau().low()),
            Answer.number(f.tau().high()),
            f.pairs(),
            f.disagreements().size()));
    for (EarAgainstFigures.Disagreement d :
        f.disagreements().subList(0, Math.min(MOST_PAIRS, f.disagreements().size()))) {
      String label = comparison.version(d.preferred()).map(Version::label).orElse("");
      String other = comparison.version(d.scored()).map(Version::label).orElse("");
      lines.add(
          String.format(
              Locale.ROOT,
              "You prefer %s, the figures %s by %.0f point%s%s.",
              label,
              other,
              d.points(),
              Math.round(d.points()) == 1 ? "" : "s",
              d.reading().isEmpty() ? "" : "; against " + label + " stands " + why(d, clock)));
    }
    return lines;
  }

  private static String why(EarAgainstFigures.Disagreement d, Clock clock) {
    String title = Measures.declaration(d.reading()).title();
    return d.spot().map(s -> title + " at " + clock.text(s.at())).orElse(title);
  }
}
