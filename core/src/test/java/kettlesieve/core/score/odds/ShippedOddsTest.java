package kettlesieve.core.score.odds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.comparison.Job;
import kettlesieve.core.score.Scoring;
import org.junit.jupiter.api.Test;

/** What ships was fitted, and says what docs/trust.md says. */
class ShippedOddsTest {
  @Test
  void everyJobHasNumbersThatWereFitted() {
    for (Job job : Job.values()) {
      Validity v = Scoring.shipped().validity(job, false);
      assertThat(v).as(job.id()).isNotNull();
      assertThat(v.pairs()).as(job.id()).isGreaterThan(500);
      assertThat(v.failure()).isBetween(0.01, 0.1);
      assertThat(v.scatter()).isBetween(0.25, 1.0);
      assertThat(v.doubtful()).isGreaterThanOrEqualTo(v.tau());
      assertThat(v.fitted()).matches("\\d{4}-\\d\\d-\\d\\d");
    }
    assertThat(Scoring.shipped().validity(Job.STEMS, true).tau())
        .isLessThan(Scoring.shipped().validity(Job.STEMS, false).tau());
  }

  /** The last columns of the table in docs/trust.md. */
  @Test
  void soManyPointsAreThreeInFour() {
    double[] points = {6, 10, 14, 1, 16, 22};
    for (Job job : Job.values()) {
      Validity v = Scoring.shipped().validity(job, false);
      assertThat(v.better(points[job.ordinal()], 0, false))
          .as(job.id())
          .isCloseTo(0.75, within(0.12));
    }
    assertThat(Scoring.shipped().validity(Job.DENOISE, false).better(18.6, 0, false))
        .isCloseTo(0.95, within(0.002));
    assertThat(Scoring.shipped().validity(Job.DENOISE, false).better(18.6, 0, true))
        .isLessThan(0.9);
  }
}
