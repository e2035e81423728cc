package kettlesieve.core.roundup;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.odds.Odds;

/** Takes from a sheet what a round-up needs of it. */
public final class ScoredSheet {
  private static final double DECIMALS = 1e6;

  private ScoredSheet() {}

  /**
   * The scores of a comparison.
   *
   * @param file where it is, as it is to be shown
   */
  public static ScoredComparison of(String file, Comparison comparison, ScoreSheet sheet) {
    SheetOdds odds = SheetOdds.of(sheet, Part.ALL);
    List<ScoredVersion> versions = new ArrayList<>();
    // Of test pieces that went there and back all ought to be the source, and are to choose from.
    boolean allBack =
        sheet.entries().stream().allMatch(e -> e.version().back() || e.version().sourceItself());
    for (Entry e : sheet.entries()) {
      Optional<Version> version = comparison.version(e.version().id());
      Map<String, Scores> roles = new LinkedHashMap<>();
      for (String role : sheet.roles(e.version().id())) {
        sheet
            .entry(Part.ofRole(role), e.version().id())
            .ifPresent(r -> roles.put(role, scores(sheet, r)));
      }
      versions.add(
          new ScoredVersion(
              e.version().label(),
              version.map(Version::tool).orElse(""),
              version.map(Version::setting).orElse(""),
              version.map(Version::amount).orElse(null),
              !e.version().sourceItself() && e.version().back() == allBack,
              scores(sheet, e),
              roles,
              e.version().cost()));
    }
    return new ScoredComparison(
        file,
        comparison.name(),
        comparison.tags(),
        sheet.job(),
        sheet.profile().name(),
        sheet.heading().source().sha256(),
        rounded(sheet.heading().source().seconds()),
        comparison.made(),
        odds.validity(),
        odds.doubt(),
        versions,
        sheet.failed().stream()
            .map(f -> new ScoredComparison.Failed(file, f.label(), f.reason()))
            .toList());
  }

  /** A comparison that has no versions yet: tools can be run on it. */
  public static ScoredComparison withoutVersions(String file, Comparison comparison) {
    return new ScoredComparison(
        file,
        comparison.name(),
        comparison.tags(),
        comparison.job(),
        Scoring.of(comparison).profileOrDefault(comparison.profile()).name(),
        "",
        0,
        comparison.made(),
        Scoring.shipped().validity(comparison.job(), false),
        false,
        List.of(),
        List.of());
  }

  private static Scores scores(ScoreSheet sheet, Entry entry) {
    Map<String, Double> axes = new LinkedHashMap<>();
    for (Axis axis : Axis.values()) {
      Estimate score = entry.card().axes().get(axis);
      if (score != null) {
        axes.put(axis.id(), rounded(score.value()));
      }
    }
    Map<String, Double> readings = new LinkedHashMap<>();
    for (Reading r : entry.taken().readings()) {
      if (Double.isFinite(r.value())) {
        readings.put(r.measure(), rounded(r.value()));
      }
    }
    Map<String, Double> deviations = new LinkedHashMap<>();
    Optional<Estimate> own = entry.card().overall();
    for (Entry other : sheet.entries(entry.part())) {
      Optional<Estimate> theirs = other.card().overall();
      if (other != entry
          && own.isPresent()
          && theirs.isPresent()
          && !other.version().id().equals(entry.version().id())) {
        double deviation = Odds.deviation(own.get().minus(theirs.get()));
        deviations.put(other.version().label(), Math.round(1e3 * deviation) / 1e3);
      }
    }
    return new Scores(
        own.map(o -> rounded(o.value())).orElse(null),
        axes,
        readings,
        entry.rank(),
        entry.rankTo(),
        entry.tiedWith(),
        deviations);
  }

  /** As JSON holds it, so that both ways give the same. */
  static double rounded(double value) {
    return Math.round(value * DECIMALS) / DECIMALS + 0.0;
  }
}
