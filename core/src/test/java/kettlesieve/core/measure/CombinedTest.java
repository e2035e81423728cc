package kettlesieve.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

class CombinedTest {
  private static Estimate estimate(double value, double spread) {
    double[] draws = new double[Bootstrap.DRAWS];
    for (int d = 0; d < draws.length; d++) {
      draws[d] = value + spread * (d % 2 == 0 ? 1 : -1);
    }
    return new Estimate(value, draws);
  }

  private static Reading reading(String id, double value, double from) {
    return Reading.of(id, estimate(value, 1))
        .with("middle", value * 2, "dB")
        .withTrace(new Trace(new double[] {from, from + 1}, new double[] {value, value}))
        .withSpectrum(
            new BandSpectrum(
                new double[] {100, 200}, new double[] {value, Double.NaN}, new double[] {}))
        .withSpots(List.of(new Spot(from, from + 0.5, 100, 200, value)))
        .withNotes(List.of("careful"));
  }

  private static Readings taken(NotMeasured missing, Reading... readings) {
    return new Readings(Arrays.asList(readings), missing == null ? List.of() : List.of(missing));
  }

  @Test
  void oneExcerptStaysAsItIs() {
    Readings one = taken(null, reading("a", 3, 0));
    assertThat(Combined.of(List.of(one), List.of(5.0))).isSameAs(one);
  }

  @Test
  void excerptsCountByTheirLengths() {
    Readings both =
        Combined.of(
            List.of(taken(null, reading("a", 10, 20)), taken(null, reading("a", 4, 3))),
            List.of(2.0, 4.0));
    Reading a = both.readings().get(0);
    assertThat(a.value()).isCloseTo(6, within(1e-12));
    assertThat(a.estimate().draws()[0]).isCloseTo(7, within(1e-12));
    assertThat(a.details()).containsExactly(new Detail("middle", 12.0, "dB"));
    // The trace runs in the source's time, whatever the order of the excerpts.
    assertThat(a.trace().seconds()).containsExactly(3, 4, 20, 21);
    assertThat(a.spots()).extracting(Spot::from).containsExactly(20.0, 3.0);
    assertThat(a.spectrum().version()[0]).isCloseTo(6, within(1e-12));
    assertThat(a.spectrum().version()[1]).isNaN();
    assertThat(a.notes()).containsExactly("careful");
  }

  @Test
  void whatCouldBeMeasuredInSomeSaysSo() {
    NotMeasured no = new NotMeasured("a", "no pauses");
    Readings both =
        Combined.of(
            List.of(taken(no), taken(new NotMeasured("b", "too short"), reading("a", 4, 3))),
            List.of(2.0, 4.0));
    assertThat(both.readings()).hasSize(1);
    assertThat(both.readings().get(0).value()).isEqualTo(4);
    assertThat(both.readings().get(0).notes()).contains("measured in 1 of 2 excerpts");
    assertThat(both.notMeasured()).extracting(NotMeasured::measure).containsExactly("b");
  }

  @Test
  void aDrawWithoutDataCountsAsItsValue() {
    double[] draws = new double[Bootstrap.DRAWS];
    Arrays.fill(draws, Double.NaN);
    Reading empty = Reading.of("a", new Estimate(8, draws));
    Readings both =
        Combined.of(
            List.of(taken(null, empty), taken(null, Reading.of("a", estimate(4, 0)))),
            List.of(1.0, 1.0));
    assertThat(both.readings().get(0).estimate().draws()[7]).isEqualTo(6);
  }
}
