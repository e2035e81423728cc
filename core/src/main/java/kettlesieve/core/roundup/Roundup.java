package kettlesieve.core.roundup;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Job;

/**
 * Tools over many recordings: what each reached on each, and what follows.
 *
 * @param job what was done
 * @param profile the delivery profile of the scores
 * @param by what a row is
 * @param aspect what the cells, means and tests are of
 * @param comparisons the recordings, by name
 * @param all over all of them
 * @param byTag the same over those that carry a tag
 * @param failed what could not be used
 */
public record Roundup(
    Job job,
    String profile,
    By by,
    Aspect aspect,
    List<ScoredComparison> comparisons,
    Table all,
    Map<String, Table> byTag,
    List<ScoredComparison.Failed> failed) {
  public Roundup {
    comparisons = List.copyOf(comparisons);
    byTag = Collections.unmodifiableMap(new LinkedHashMap<>(byTag));
    failed = List.copyOf(failed);
  }

  /** What a row is. */
  public enum By {
    /** A tool, at the best of its versions on each recording. */
    TOOL,
    /** A tool with its setting and amount; without a tool, the label. */
    VERSION;

    /** The word in files. */
    public String id() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  /**
   * Some recordings.
   *
   * @param entries from the best mean to the worst
   * @param tests whether they differ; empty where there is too little
   * @param recordings how many have anything
   */
  public record Table(List<Row> entries, Optional<RoundupTests> tests, int recordings) {
    public Table {
      entries = List.copyOf(entries);
    }

    /** The row of a name. */
    public Optional<Row> entry(String name) {
      return entries.stream().filter(e -> e.name().equals(name)).findFirst();
    }
  }

  /**
   * A tool or version.
   *
   * @param name what it is known by
   * @param mean over the recordings it was measured on; NaN for none
   * @param low of the mean's 95 % interval over recordings (Student's t); NaN under two
   * @param high likewise
   * @param wins recordings on which it is the best, all others surely worse
   * @param ties recordings on which it is first, or not to be told from the first
   * @param cells by the recording's index, those that were measured
   * @param cost what it takes
   * @param best the chance to be truly the best over the recordings that all have; NaN where that
   *     is not asked
   * @param better the chance to be truly better than another, by name
   */
  public record Row(
      String name,
      double mean,
      double low,
      double high,
      int wins,
      int ties,
      Map<Integer, Cell> cells,
      RoundupCost cost,
      double best,
      Map<String, Double> better) {
    public Row {
      cells = Collections.unmodifiableMap(new LinkedHashMap<>(cells));
      better = Collections.unmodifiableMap(new LinkedHashMap<>(better));
    }

    /** On how many recordings it was measured. */
    public int measured() {
      return cells.size();
    }

    /** Its worst cell. */
    public Optional<Map.Entry<Integer, Cell>> worst(int direction) {
      return cells.entrySet().stream()
          .min(
              java.util.Comparator.comparingDouble(
                  c -> (direction < 0 ? -1 : 1) * c.getValue().value()));
    }
  }

  /**
   * One on one recording.
   *
   * @param label of the version that stands for it
   * @param of how many versions it is the best; 1 by version
   * @param value of the aspect
   * @param scores all of that version's, in the aspect's role
   */
  public record Cell(String label, int of, double value, Scores scores) {}

  /** 1 where more of the aspect is better, −1 where less is, 0 where it only informs. */
  public int direction() {
    return aspect.direction(job);
  }
}
