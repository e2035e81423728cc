package kettlesieve.core.score;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.score.odds.Odds;
import kettlesieve.core.score.odds.Validity;

/**
 * The odds of a part of a sheet: of versions that are ranked together and could be chosen. The
 * source itself is no result and takes no chance from others; nor do versions that were brought
 * back, which have odds among themselves.
 *
 * @param odds by id of the version
 * @param validity how far scores of this kind miss the truth
 * @param doubt whether the program warns of what they stand on
 */
public record SheetOdds(Map<String, Odds> odds, Validity validity, boolean doubt) {
  /** Of fewer stems than these the others tell little. */
  private static final int FEW_TOOLS = 3;

  /** A reading that there is beside true stems alone. */
  private static final String BY_TRUTH = "sdr";

  public SheetOdds {
    odds = Collections.unmodifiableMap(new LinkedHashMap<>(odds));
  }

  /** Of a part of a sheet. */
  public static SheetOdds of(ScoreSheet sheet, Part part) {
    List<Entry> all =
        sheet.entries(part).stream()
            .filter(e -> e.scored() && !e.version().sourceItself())
            .toList();
    boolean stems = sheet.job() == Job.STEMS;
    boolean byTruth = stems && all.stream().anyMatch(e -> e.reading(BY_TRUTH).isPresent());
    Validity validity = sheet.scoring().validity(sheet.job(), byTruth);
    boolean doubt =
        stems
            ? !byTruth && all.size() < FEW_TOOLS
            : sheet.notices().stream().anyMatch(Notice::doubt);
    Map<String, Odds> odds = new LinkedHashMap<>();
    for (boolean back : new boolean[] {false, true}) {
      Map<String, Estimate> scores = new LinkedHashMap<>();
      for (Entry e : all) {
        if (e.version().back() == back) {
          scores.put(e.version().id(), e.card().overall().orElseThrow());
        }
      }
      odds.putAll(Odds.of(scores, validity, doubt));
    }
    return new SheetOdds(odds, validity, doubt);
  }

  /** The odds of a version; empty for one that is not among them. */
  public Optional<Odds> of(String versionId) {
    return Optional.ofNullable(odds.get(versionId));
  }

  /** The chance that one is truly better than another; empty where that is not asked. */
  public Optional<Double> better(String one, String other) {
    return of(one).map(o -> o.better().get(other));
  }
}
