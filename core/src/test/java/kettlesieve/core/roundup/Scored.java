package kettlesieve.core.roundup;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Made;
import kettlesieve.core.score.odds.Validity;

/** Scored comparisons for tests: figures without sounds. */
public final class Scored {
  /** Nothing lasts: several recordings average the error out. */
  public static final Validity FADING = new Validity(8, 16, 0.02, 1, 100, "", 0.0, "");

  private Scored() {}

  /** A comparison whose versions have scores; NaN for one that was not tried. */
  public static ScoredComparison of(String file, String[] labels, double... scores) {
    return of(file, List.of(), null, FADING, labels, scores);
  }

  public static ScoredComparison of(
      String file,
      List<String> tags,
      Made made,
      Validity validity,
      String[] labels,
      double... scores) {
    List<ScoredVersion> versions = new ArrayList<>();
    for (int i = 0; i < scores.length; i++) {
      if (!Double.isNaN(scores[i])) {
        List<String> tied = new ArrayList<>();
        for (int j = 0; j < scores.length; j++) {
          // Less than two points are not told apart here.
          if (j != i && Math.abs(scores[i] - scores[j]) < 2) {
            tied.add(labels[j]);
          }
        }
        versions.add(version(labels[i], scores[i], tied, Map.of()));
      }
    }
    return new ScoredComparison(
        file,
        file,
        tags,
        Job.DENOISE,
        "even",
        "sum of " + file,
        10,
        made,
        validity,
        false,
        versions,
        List.of());
  }

  public static ScoredVersion version(
      String label, double score, List<String> tied, Map<String, Double> readings) {
    int space = label.lastIndexOf(' ');
    boolean amount = space > 0 && label.substring(space + 1).matches("\\d+");
    Map<String, Double> axes = new LinkedHashMap<>();
    axes.put("missed", score - 10);
    axes.put("lost", score + 10);
    return new ScoredVersion(
        label,
        amount ? label.substring(0, space) : "",
        "",
        amount ? Double.valueOf(label.substring(space + 1)) : null,
        true,
        new Scores(score, axes, readings, 1, 2, tied, Map.of()),
        Map.of(),
        new Cost(20.0, 5.0, "free", null, 1L << 20));
  }
}
