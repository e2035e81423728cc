package kettlesieve.core.measure.voice;

import java.util.Arrays;
import kettlesieve.core.signal.Statistics;

/** How one frequency is compared with those a third of an octave around it. */
final class LonePeaks {
  /** A bin with fewer neighbours that can be compared tells nothing. */
  static final int FEWEST_NEIGHBOURS = 6;

  static final double LOWEST_HZ = 100;

  /** Under this, against the loudest or the voice, nothing that rings is heard. */
  static final double AUDIBLE_DB = -60;

  private static final int LEFT_OUT = 2;
  private static final double THIRD_OCTAVE = Math.pow(2, 1 / 3.0);

  private LonePeaks() {}

  static int[] neighbours(double[] gains, int bin) {
    int low = (int) Math.floor(bin / THIRD_OCTAVE);
    int high = Math.min(gains.length - 1, (int) Math.ceil(bin * THIRD_OCTAVE));
    int first = Math.max(1, low);
    // Loops: asked for every bin of every stem, streams cost a twentieth of it all.
    int[] near = new int[Math.max(0, high - first + 1)];
    int count = 0;
    for (int k = first; k <= high; k++) {
      if (Math.abs(k - bin) > LEFT_OUT && Double.isFinite(gains[k])) {
        near[count++] = k;
      }
    }
    return Arrays.copyOf(near, count);
  }

  static double[] of(double[] gains, int[] bins) {
    double[] some = new double[bins.length];
    for (int i = 0; i < some.length; i++) {
      some[i] = gains[bins[i]];
    }
    return some;
  }

  static double median(double[] values) {
    double[] finite = new double[values.length];
    int count = 0;
    for (double value : values) {
      if (Double.isFinite(value)) {
        finite[count++] = value;
      }
    }
    return Statistics.median(Arrays.copyOf(finite, count));
  }

  static int largest(double[] values) {
    int best = -1;
    for (int k = 0; k < values.length; k++) {
      if (Double.isFinite(values[k]) && (best < 0 || values[k] > values[best])) {
        best = k;
      }
    }
    return best;
  }
}
