package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** FFmpeg's transforms in the packed layout, against sums that can be written down. */
class NativeTransformTest {
  private static double[] cosine(int length, int bin, double phase) {
    double[] x = new double[length];
    for (int i = 0; i < length; i++) {
      x[i] = Math.cos(2 * Math.PI * bin * i / length + phase);
    }
    return x;
  }

  /** A cosine on a bin is half its length there, with its phase, and nothing elsewhere. */
  @ParameterizedTest
  @ValueSource(ints = {32, 256, 4096, 65_536})
  void aCosineOnABin(int length) {
    int bin = length / 8 + 1;
    double[] x = cosine(length, bin, 0.7);
    NativeTransform.ofDoubles(length).forward(x);
    assertThat(x[2 * bin]).isCloseTo(length / 2.0 * Math.cos(0.7), within(1e-6 * length));
    assertThat(x[2 * bin + 1]).isCloseTo(length / 2.0 * Math.sin(0.7), within(1e-6 * length));
    x[2 * bin] = 0;
    x[2 * bin + 1] = 0;
    assertThat(x).containsExactly(new double[length], within(1e-6 * length));
  }

  @Test
  void theLastBinStandsWhereTheImaginaryPartOfTheFirstWouldBe() {
    double[] x = cosine(64, 32, 0);
    x[0] += 3;
    NativeTransform.ofDoubles(64).forward(x);
    assertThat(x[0]).isCloseTo(3, within(1e-9));
    assertThat(x[1]).isCloseTo(64 + 3, within(1e-9));
  }

  @ParameterizedTest
  @ValueSource(ints = {32, 1024, 65_536})
  void thereAndBackGivesTheSame(int length) {
    float[] single = new float[length];
    double[] twice = new double[length];
    for (int i = 0; i < length; i++) {
      twice[i] = Math.sin(0.37 * i * i);
      single[i] = (float) twice[i];
    }
    float[] keptSingle = single.clone();
    double[] keptTwice = twice.clone();
    NativeTransform floats = NativeTransform.ofFloats(length);
    NativeTransform doubles = NativeTransform.ofDoubles(length);
    floats.forward(single);
    doubles.forward(twice);
    for (int i = 0; i < length; i++) {
      assertThat((double) single[i]).isCloseTo(twice[i], within(2e-6 * length));
    }
    floats.inverse(single);
    doubles.inverse(twice);
    assertThat(single).containsExactly(keptSingle, within(1e-5f));
    assertThat(twice).containsExactly(keptTwice, within(1e-12));
  }
}
