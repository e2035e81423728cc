package kettlesieve.core.roundup;

import java.util.List;
import java.util.Optional;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Made;
import kettlesieve.core.score.odds.Validity;

/**
 * The scores of one comparison, without its sounds.
 *
 * @param file where the comparison is, as it is to be shown
 * @param name for people
 * @param tags words of the person's own
 * @param job what was done
 * @param profile the delivery profile of the scores
 * @param sha256 of the source
 * @param seconds length of the source
 * @param made how a test piece was made; null for other recordings
 * @param validity how far scores of this kind miss the truth
 * @param doubt whether the program warns of the source
 * @param versions in the comparison's order
 * @param failed labels of versions that could not be used, and why
 */
public record ScoredComparison(
    String file,
    String name,
    List<String> tags,
    Job job,
    String profile,
    String sha256,
    double seconds,
    Made made,
    Validity validity,
    boolean doubt,
    List<ScoredVersion> versions,
    List<Failed> failed) {
  public ScoredComparison {
    tags = List.copyOf(tags);
    versions = List.copyOf(versions);
    failed = List.copyOf(failed);
  }

  /**
   * What could not be used.
   *
   * @param file the comparison
   * @param label of the version; empty for the whole comparison
   * @param reason in words
   */
  public record Failed(String file, String label, String reason) {}

  /** The name, or the file's where it has none. */
  public String title() {
    return name.isBlank() ? file.substring(file.lastIndexOf('/') + 1) : name;
  }

  /** The same under another name of its file. */
  public ScoredComparison at(String place) {
    return new ScoredComparison(
        place, name, tags, job, profile, sha256, seconds, made, validity, doubt, versions, failed);
  }

  /** How hard it is, of a test piece. */
  public Optional<Made.Difficulty> difficulty() {
    return Optional.ofNullable(made).flatMap(Made::difficulty);
  }
}
