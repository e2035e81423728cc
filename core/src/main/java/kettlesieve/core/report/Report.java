package kettlesieve.core.report;

import java.util.List;

/**
 * What a report says, as text and pictures: the template only lays it out.
 *
 * @param title the comparison's name
 * @param job what was done to the source
 * @param date of the report
 * @param profile the delivery profile, with its description
 * @param answer what to use and why, a sentence each
 * @param ranking versions from the best to the worst
 * @param turns what would change the order of the first, a line each
 * @param against the order against the clean recording, and where it contradicts the scores
 * @param limits the hard limits of the profile in words; empty without any
 * @param tables readings, a few versions at a time
 * @param plot what each version gains and pays, as SVG; empty if there are fewer than two points
 * @param sweeps which amounts of a tool are as good as its best, a line a tool
 * @param marks what the person marked, a line each
 * @param passages who leads where, a line each
 * @param ears what blind rounds and listeners said, a line each
 * @param versions every version by itself
 * @param fairness what was unfair, and what was done
 * @param methods every reading that was taken
 * @param files what was compared
 * @param notes of the person
 * @param warnings what to know
 * @param failed versions that could not be used
 * @param program which program, and which state of it
 * @param leftOut what was left out for size; empty if nothing was
 */
public record Report(
    String title,
    String job,
    String date,
    String profile,
    List<String> answer,
    List<Place> ranking,
    List<String> turns,
    List<String> against,
    List<String> limits,
    List<Table> tables,
    String plot,
    List<String> sweeps,
    List<String> marks,
    List<String> passages,
    List<String> ears,
    List<Single> versions,
    List<Unfair> fairness,
    List<Method> methods,
    List<File> files,
    String notes,
    List<String> warnings,
    List<Failed> failed,
    String program,
    String leftOut) {

  /**
   * A row of the ranking.
   *
   * @param place as a range
   * @param number of the version, as in the tables
   * @param label of the version
   * @param overall score and interval in words
   * @param best the chance to be the best, in words
   * @param bar the score, 0 to 100; -1 without one
   * @param axes scores of Missed, Added, Lost
   * @param limits whether it keeps to the limits; empty without any
   * @param verdict the person's words
   */
  public record Place(
      String place,
      int number,
      String label,
      String overall,
      String best,
      int bar,
      List<String> axes,
      String limits,
      String verdict) {}

  /**
   * Readings of some versions.
   *
   * @param numbers of the versions
   * @param labels of the versions
   * @param rows one a reading
   */
  public record Table(List<Integer> numbers, List<String> labels, List<Row> rows) {}

  /**
   * A reading.
   *
   * @param axis the question it answers
   * @param title of the reading
   * @param unit of its values
   * @param cells one a version
   */
  public record Row(String axis, String title, String unit, List<Cell> cells) {}

  /**
   * A value.
   *
   * @param value in words; a dash without one
   * @param interval in words; empty without one
   * @param bar its score, 0 to 100; -1 without one
   */
  public record Cell(String value, String interval, int bar) {}

  /**
   * A version by itself.
   *
   * @param facts tool, setting, cost, match: a line each
   * @param spots its worst places
   */
  public record Single(
      int number,
      String label,
      String place,
      String verdict,
      List<String> facts,
      List<String> limits,
      List<Spotted> spots) {}

  /**
   * A place where a version suffers.
   *
   * @param words reading, time, frequencies, value
   * @param time for people
   * @param before picture of the source there, as a data address
   * @param after the same of the version
   * @param sourceSound sound of the source there, as a data address; empty if left out
   * @param versionSound the same of the version, at the source's level
   */
  public record Spotted(
      String words,
      String time,
      String before,
      String after,
      String sourceSound,
      String versionSound) {}

  /** Something unfair. */
  public record Unfair(String version, String matter, String found, String done) {}

  /** How a reading is taken. */
  public record Method(String title, String id, String formula, String source) {}

  /** A file that was compared. */
  public record File(String what, String name, String facts, String sha256) {}

  /** A version that could not be used. */
  public record Failed(String label, String file, String reason) {}
}
