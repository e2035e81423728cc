package kettlesieve.core.work;

import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.MatchSettings;

/**
 * The parts of a comparison that matter for results: two comparisons with equal work have equal
 * sheets but for the profile.
 *
 * @param job what was done
 * @param source the source's file
 * @param reference the clean recording's file; null if there is none
 * @param trueStems the true stems' files by role
 * @param roleSums roles made of others
 * @param settings what matching needs to know
 * @param versions without what is only noted of them
 * @param excerpts what is measured together; empty for one place
 * @param excerpt the one place; null for the whole source
 * @param pauses marked by hand; null to have them found
 * @param costs what tools cost
 */
public record Work(
    Job job,
    MediaRef source,
    MediaRef reference,
    Map<String, MediaRef> trueStems,
    List<RoleSum> roleSums,
    MatchSettings settings,
    List<Version> versions,
    List<Excerpt> excerpts,
    TimeSpan excerpt,
    List<TimeSpan> pauses,
    Map<String, Cost> costs) {
  /** That of a comparison. */
  public static Work of(Comparison c) {
    return new Work(
        c.job(),
        c.source(),
        c.reference(),
        c.trueStems(),
        c.roleSums(),
        MatchSettings.of(c),
        c.versions().stream().map(v -> v.withVerdict("").withSetting("")).toList(),
        c.together() ? c.excerpts() : List.of(),
        c.excerpt(),
        c.pauses(),
        c.costs());
  }
}
