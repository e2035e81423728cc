package kettlesieve.core.score;

import java.nio.file.Path;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.fairness.Fairness;
import kettlesieve.core.match.Match;
import kettlesieve.core.media.MediaFacts;

/**
 * A version apart from its readings.
 *
 * @param id the version's id in its comparison
 * @param label its name
 * @param file its file; for stems the first of them
 * @param stems files by role; empty for a version in one file
 * @param facts of {@code file}
 * @param match what was corrected
 * @param fairness what was unfair about it, and what was done
 * @param cost what it took to make
 * @param back whether it ought to be the source again, and is ranked among its like
 */
public record VersionFacts(
    String id,
    String label,
    Path file,
    Map<String, Path> stems,
    MediaFacts facts,
    Match match,
    List<Fairness.Item> fairness,
    Cost cost,
    boolean back) {
  /** Whether nothing was done to it: its Missed is what doing nothing leaves. */
  public boolean sourceItself() {
    return fairness.stream().anyMatch(i -> i.found().equals(Fairness.SOURCE_ITSELF));
  }

  public VersionFacts {
    stems = Collections.unmodifiableMap(new LinkedHashMap<>(stems));
    fairness = List.copyOf(fairness);
  }

  /** A version in one file of which nothing further is known. */
  public static VersionFacts of(String id, String label, Path file, MediaFacts facts, Match match) {
    return new VersionFacts(id, label, file, Map.of(), facts, match, List.of(), Cost.NONE, false);
  }

  /** The same of a version that was renamed or moved, or whose cost was noted since. */
  public VersionFacts as(Version version, Cost newCost) {
    List<Fairness.Item> renamed =
        fairness.stream()
            .map(i -> new Fairness.Item(version.label(), i.matter(), i.found(), i.done()))
            .toList();
    Path newFile = version.files().get(0).file();
    Map<String, Path> newStems = new LinkedHashMap<>();
    stems.keySet().forEach(r -> newStems.put(r, version.stems().get(r).media().file()));
    return new VersionFacts(
        version.id(),
        version.label(),
        newFile,
        newStems,
        facts,
        match,
        renamed,
        newCost,
        version.back());
  }
}
