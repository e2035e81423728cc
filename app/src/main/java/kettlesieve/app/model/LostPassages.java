package kettlesieve.app.model;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.score.ScoreSheet;

/** Where a stem lacks what its role has in the mix: to be hatched on its lane. */
public final class LostPassages {
  /** So far under its usual level a passage was not recognised. */
  private static final double MISSING_DB = -6;

  private static final double SHORTEST = 0.15;

  private LostPassages() {}

  /**
   * Passages of a stem that are missing, and its dropouts, as far as they were measured.
   *
   * @param sheet null for none
   */
  public static List<TimeSpan> of(ScoreSheet sheet, String role, String versionId) {
    List<TimeSpan> spans = new ArrayList<>();
    if (sheet != null) {
      sheet
          .entry(Part.ofRole(role), versionId)
          .ifPresent(
              e -> {
                e.reading("missing")
                    .map(Reading::trace)
                    .ifPresent(t -> spans.addAll(t.below(MISSING_DB, SHORTEST)));
                e.reading("dropouts")
                    .ifPresent(
                        r -> r.spots().forEach(s -> spans.add(new TimeSpan(s.from(), s.to()))));
              });
    }
    spans.sort(Comparator.comparingDouble(TimeSpan::from));
    return joined(spans);
  }

  private static List<TimeSpan> joined(List<TimeSpan> sorted) {
    List<TimeSpan> joined = new ArrayList<>();
    for (TimeSpan span : sorted) {
      int last = joined.size() - 1;
      if (last >= 0 && span.from() <= joined.get(last).to()) {
        TimeSpan before = joined.get(last);
        joined.set(last, new TimeSpan(before.from(), Math.max(before.to(), span.to())));
      } else {
        joined.add(span);
      }
    }
    return joined;
  }
}
