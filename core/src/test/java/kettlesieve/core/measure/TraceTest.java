package kettlesieve.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import kettlesieve.core.comparison.TimeSpan;
import org.junit.jupiter.api.Test;

class TraceTest {
  @Test
  void stretchesUnderALimitAreFoundWithTheirEnds() {
    double[] seconds = new double[60];
    double[] values = new double[60];
    for (int i = 0; i < seconds.length; i++) {
      seconds[i] = i / 10.0;
      boolean low = i >= 10 && i < 15 || i == 20 || i >= 30 && i < 34 || i >= 57;
      values[i] = low ? -9 : i == 32 ? Double.NaN : -1;
    }
    // Nothing to measure for a moment does not end a stretch.
    values[31] = Double.NaN;
    List<TimeSpan> spans = new Trace(seconds, values).below(-6, 0.15);
    assertThat(spans).hasSize(3);
    assertThat(spans.get(0).from()).isCloseTo(0.95, within(1e-9));
    assertThat(spans.get(0).to()).isCloseTo(1.45, within(1e-9));
    assertThat(spans.get(1).from()).isCloseTo(2.95, within(1e-9));
    assertThat(spans.get(1).to()).isCloseTo(3.35, within(1e-9));
    assertThat(spans.get(2).to()).isCloseTo(5.95, within(1e-9));
    assertThat(Trace.NONE.below(0, 0)).isEmpty();
  }
}
