package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.audio.TimeMap;
import org.junit.jupiter.api.Test;

/** A time map and the straight line through it. */
class MapFitTest {
  @Test
  void aStraightLineHasNoDeviation() {
    MapFit fit = MapFit.line(0.25, 1.5, 1);
    assertThat(fit.map().at(2)).isCloseTo(3.25, within(1e-9));
    assertThat(fit.deviation()).allSatisfy(d -> assertThat(d.off()).isCloseTo(0, within(1e-9)));
  }

  @Test
  void deviationsAreWhatTheKnotsLieOffTheLine() {
    TimeMap bent = TimeMap.through(new double[] {0, 1, 2}, new double[] {0, 1.6, 3});
    MapFit fit = MapFit.of(bent, 1.5, 0, 0.8);
    assertThat(fit.deviation()).hasSize(3);
    assertThat(fit.deviation().get(1).seconds()).isEqualTo(1);
    assertThat(fit.deviation().get(1).off()).isCloseTo(0.1, within(1e-9));
    assertThat(fit.deviation().get(2).off()).isCloseTo(0, within(1e-9));
    MapFit later = fit.later(0.5);
    assertThat(later.map().at(1)).isCloseTo(2.1, within(1e-9));
    assertThat(later.offset()).isEqualTo(0.5);
    assertThat(later.coverage()).isEqualTo(0.8);
    assertThat(later.deviation()).isEqualTo(fit.deviation());
  }
}
