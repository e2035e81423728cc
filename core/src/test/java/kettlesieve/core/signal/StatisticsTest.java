package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class StatisticsTest {
  /** Hyndman and Fan 1996, type 7, on the ranks of sorted data; long sets take another way. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 7, 199, 200, 201, 5_000})
  void quantilesAreThoseOfTheSortedValues(int count) {
    SplittableRandom random = new SplittableRandom(count);
    double[] values =
        random.doubles(count, 0, 9).map(x -> count % 2 == 0 ? Math.rint(x) : x).toArray();
    double[] before = values.clone();
    double[] sorted = values.clone();
    Arrays.sort(sorted);
    for (double share : new double[] {0, 0.013, 0.2, 0.5, 0.731, 0.999, 1}) {
      double position = share * (count - 1);
      int low = (int) Math.floor(position);
      double above = sorted[Math.min(count - 1, low + 1)];
      double expected = sorted[low] + (position - low) * (above - sorted[low]);
      assertThat(Statistics.quantile(values, share)).as("share " + share).isEqualTo(expected);
    }
    assertThat(values).isEqualTo(before);
  }

  @Test
  void noValueHasNoQuantileAndOneThatIsNoNumberComesLast() {
    assertThat(Statistics.median()).isNaN();
    double[] values = new double[301];
    Arrays.setAll(values, i -> i < 201 ? i : Double.NaN);
    assertThat(Statistics.quantile(values, 0)).isZero();
    assertThat(Statistics.quantile(values, 0.5)).isEqualTo(150);
    assertThat(Statistics.quantile(values, 1)).isNaN();
  }

  @Test
  void aSlidingWindowHoldsWhatASortOfItWould() {
    SplittableRandom random = new SplittableRandom(3);
    float[] x = new float[400];
    for (int i = 0; i < x.length; i++) {
      x[i] = random.nextInt(20);
    }
    SortedWindow window = new SortedWindow(31);
    for (int i = 0; i < x.length; i++) {
      if (i >= 31) {
        window.remove(x[i - 31]);
      }
      window.add(x[i]);
      float[] sorted = Arrays.copyOfRange(x, Math.max(0, i - 30), i + 1);
      Arrays.sort(sorted);
      assertThat(window.size()).isEqualTo(sorted.length);
      for (int k = 0; k < sorted.length; k++) {
        assertThat(window.at(k)).isEqualTo(sorted[k]);
      }
    }
    assertThatThrownBy(() -> window.remove(77)).isInstanceOf(IllegalArgumentException.class);
  }

  /** A sum of two sines obeys a recursion of order four without error (Prony 1795). */
  @Test
  void whatAModelPredictsExactlyIsFilledExactly() {
    double[] first = {1, -2 * Math.cos(0.21), 1};
    double[] second = {1, -2 * Math.cos(0.9), 1};
    double[] model = new double[5];
    for (int i = 0; i < 3; i++) {
      for (int k = 0; k < 3; k++) {
        model[i + k] += first[i] * second[k];
      }
    }
    double[] truth = new double[300];
    Arrays.setAll(truth, i -> Math.sin(0.21 * i + 0.4) + 0.5 * Math.sin(0.9 * i));
    double[] broken = truth.clone();
    int[] gaps = {40, 41, 42, 43, 44, 45, 90, 92, 93, 200, 0, 0};
    int missing = 10;
    for (int g = 0; g < missing; g++) {
      broken[gaps[g]] = 9;
    }
    LinearPrediction.fill(broken, gaps, missing, model);
    for (int i = 0; i < truth.length; i++) {
      assertThat(broken[i]).as("sample " + i).isCloseTo(truth[i], within(1e-6));
    }
  }
}
