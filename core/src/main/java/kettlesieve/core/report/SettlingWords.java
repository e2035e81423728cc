package kettlesieve.core.report;

import java.util.Locale;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.score.Settling;
import kettlesieve.core.score.ears.EarOdds;
import kettlesieve.core.score.odds.OddsWords;

/** Who leads, how surely, and what would settle it, in words. */
public final class SettlingWords {
  private static final double LONG = 600;

  private SettlingWords() {}

  private static String text(String pattern, Object... values) {
    return String.format(Locale.ROOT, pattern, values);
  }

  /** The leader, its lead and the odds of that, in one sentence. */
  public static String headline(Settling s) {
    String first = s.first().version().label();
    String second = s.second().version().label();
    String odds = OddsWords.better(s.chance(), s.told());
    if (s.points() < 0.5) {
      return text("“%s” and “%s” score alike, %s.", first, second, score(s));
    }
    return text(
        "“%s” leads with %s, %.0f %s ahead of “%s”: %s.",
        first,
        score(s),
        s.points(),
        Math.round(s.points()) == 1 ? "point" : "points",
        second,
        switch (odds) {
          case "surely" -> "surely better (" + OddsWords.tenths(s.chance()) + ")";
          case "open" -> "it is open which is better (" + OddsWords.tenths(s.chance()) + ")";
          default -> odds.replace("probably", "probably better");
        });
  }

  private static String score(Settling s) {
    return text("%.0f of 100", s.first().card().overall().orElseThrow().value());
  }

  /** The odds with the person's own answers beside those of the figures. */
  public static String withEars(Settling s, EarOdds ears) {
    double both =
        ears.together().get(s.first().version().id()).better().get(s.second().version().id());
    return text(
        "By figures it is better in %s, with your %d answers in %s.",
        OddsWords.tenths(s.chance()), ears.decided(), OddsWords.tenths(both));
  }

  /** What would settle it, in one sentence; empty where nothing is left to settle. */
  public static String settles(Settling s, Clock clock) {
    if (s.settled()) {
      return "";
    }
    String by =
        s.reading()
            .map(
                r ->
                    text(
                        "They differ most surely in %s%s",
                        Measures.declaration(r.measure()).title(),
                        s.place().map(p -> ", at " + clock.text(p.at())).orElse("")))
            .orElse("No reading tells them apart");
    String where = s.excerpt().map(e -> text(", in the excerpt “%s”", e)).orElse("");
    return by + where + ". " + material(s);
  }

  private static String material(Settling s) {
    if (s.more().isEmpty()) {
      return "More of this recording would not settle it: in trials with known truth, scores as"
          + " near as these were too often wrong. Listen, or take another recording.";
    }
    double more = s.more().getAsDouble();
    return more < 1
        ? "A second excerpt would tell whether it holds."
        : text(
            "At today's scatter some %s more would make it sure.",
            more > LONG ? text("%.0f minutes", more / 60) : text("%.0f s", Math.ceil(more)));
  }
}
