package kettlesieve.core.score.ears;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.score.Costliest;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;

/**
 * How far the ear and the scores put the versions in the same order: Kendall's τ_b (Biometrika 33,
 * 1945), with its 95 % interval over the draws of both, and the pairs on which they disagree.
 *
 * @param tau from −1 to 1; NaN where one of them tells nothing apart
 * @param pairs how many pairs of versions both have an opinion on
 * @param disagreements the pairs that they order differently, surest first
 */
public record EarAgainstFigures(Estimate tau, int pairs, List<Disagreement> disagreements) {
  private static final int FEWEST = 3;

  /**
   * A pair.
   *
   * @param preferred by the ear
   * @param scored higher by the figures
   * @param ear how far apart the ear puts them, on its own scale
   * @param points how far apart the scores are
   * @param sure whether that is beyond the uncertainty of the scores
   * @param reading what the scores hold most against the preferred one; empty if nothing
   * @param spot where; empty if that reading names no place
   */
  public record Disagreement(
      String preferred,
      String scored,
      double ear,
      double points,
      boolean sure,
      String reading,
      Optional<Spot> spot) {}

  /**
   * Sets an ear's order against that of a sheet.
   *
   * @param ear what the ear makes of versions, by id; more is better
   * @param question which score is meant
   * @return empty for fewer than three versions that both know
   */
  public static Optional<EarAgainstFigures> of(
      Map<String, Estimate> ear, Round.Question question, ScoreSheet sheet) {
    Map<String, Entry> entries = new LinkedHashMap<>();
    for (Entry e : sheet.entries(Part.ALL)) {
      if (ear.containsKey(e.version().id()) && score(e, question).isPresent()) {
        entries.put(e.version().id(), e);
      }
    }
    List<String> ids = List.copyOf(entries.keySet());
    if (ids.size() < FEWEST) {
      return Optional.empty();
    }
    List<Estimate> heard = ids.stream().map(ear::get).toList();
    List<Estimate> scored =
        ids.stream().map(id -> score(entries.get(id), question).orElseThrow()).toList();
    List<Disagreement> apart = new ArrayList<>();
    for (int i = 0; i < ids.size(); i++) {
      for (int j = 0; j < ids.size(); j++) {
        double byEar = heard.get(i).value() - heard.get(j).value();
        double byScore = scored.get(j).value() - scored.get(i).value();
        if (byEar > 0 && byScore > 0) {
          Entry preferred = entries.get(ids.get(i));
          Optional<Reading> against = Costliest.of(preferred, sheet.profile());
          apart.add(
              new Disagreement(
                  ids.get(i),
                  ids.get(j),
                  byEar,
                  byScore,
                  ScoreSheet.compare(scored.get(j), scored.get(i)) > 0,
                  against.map(Reading::measure).orElse(""),
                  against.flatMap(r -> r.spots().stream().findFirst())));
        }
      }
    }
    apart.sort(
        Comparator.comparing(Disagreement::sure).reversed().thenComparingDouble(d -> -d.points()));
    int pairs = ids.size() * (ids.size() - 1) / 2;
    return Optional.of(new EarAgainstFigures(tau(heard, scored), pairs, List.copyOf(apart)));
  }

  /** The score that answers a question. */
  public static Optional<Estimate> score(Entry e, Round.Question question) {
    return question == Round.Question.OVERALL
        ? e.card().overall()
        : Optional.ofNullable(e.card().axes().get(Axis.valueOf(question.name())));
  }

  private static Estimate tau(List<Estimate> heard, List<Estimate> scored) {
    double value =
        tau(
            heard.stream().mapToDouble(Estimate::value).toArray(),
            scored.stream().mapToDouble(Estimate::value).toArray());
    double[] draws = new double[heard.get(0).draws().length];
    for (int d = 0; d < draws.length; d++) {
      double[] x = new double[heard.size()];
      double[] y = new double[heard.size()];
      for (int i = 0; i < x.length; i++) {
        x[i] = heard.get(i).draws()[d];
        double[] own = scored.get(i).draws();
        double drawn = own[d % own.length];
        y[i] = Double.isFinite(drawn) ? drawn : scored.get(i).value();
      }
      draws[d] = tau(x, y);
    }
    return new Estimate(value, draws);
  }

  /** Kendall's τ_b; NaN if all of one side are tied. */
  public static double tau(double[] x, double[] y) {
    double agreeing = 0;
    double inX = 0;
    double inY = 0;
    for (int i = 0; i < x.length; i++) {
      for (int j = i + 1; j < x.length; j++) {
        double a = Math.signum(x[i] - x[j]);
        double b = Math.signum(y[i] - y[j]);
        agreeing += a * b;
        inX += a * a;
        inY += b * b;
      }
    }
    return inX > 0 && inY > 0 ? agreeing / Math.sqrt(inX * inY) : Double.NaN;
  }
}
