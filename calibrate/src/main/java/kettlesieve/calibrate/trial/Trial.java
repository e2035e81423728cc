package kettlesieve.calibrate.trial;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.truth.Truth;
import kettlesieve.core.measure.Estimate;

/**
 * What the program said of a scene, beside what is true.
 *
 * @param scene the scene
 * @param notices what the program told of the source
 * @param versions its versions
 */
public record Trial(Scene scene, List<String> notices, List<Judged> versions) {

  /**
   * A reading.
   *
   * @param value what is shown
   * @param scored what goes into the score
   * @param low lower end of the interval of the value
   * @param high upper end
   * @param scoredLow lower end of the interval of what goes into the score
   * @param scoredHigh upper end
   */
  public record Figure(
      double value, double scored, double low, double high, double scoredLow, double scoredHigh) {}

  /** A score with its interval. */
  public record Score(double value, double low, double high) {}

  /**
   * A version.
   *
   * @param maker its maker's id
   * @param kind its maker's kind
   * @param truth what is true
   * @param readings by measure
   * @param reasons why others could not be taken
   * @param axes by axis
   * @param overall null without a score
   * @param rank best place
   * @param rankTo worst place
   * @param halves the readings of the first and of the second half alone
   * @param draws every fourth bootstrap draw of the overall score; empty without one
   */
  public record Judged(
      String maker,
      Maker.Kind kind,
      Truth truth,
      Map<String, Figure> readings,
      Map<String, String> reasons,
      Map<String, Score> axes,
      Score overall,
      int rank,
      int rankTo,
      List<Map<String, Figure>> halves,
      float[] draws) {

    /** The overall score with its kept draws; NaN without one. */
    public Estimate estimate() {
      return Verdict.estimate(overall == null ? Double.NaN : overall.value(), draws);
    }
  }

  /** The version of a maker. */
  public Optional<Judged> version(String maker) {
    return versions.stream().filter(v -> v.maker().equals(maker)).findFirst();
  }
}
