package kettlesieve.core.signal;

import kettlesieve.core.audio.Audio;

/**
 * Finds a level under which samples pile up in flat tops: a spike in the histogram of magnitudes.
 * See {@link Clipping}.
 */
final class HardCeiling {
  private static final int BLOCK = 1 << 16;
  private static final int FLAT_RUN = 3;
  private static final int FEWEST_FLAT_RUNS = 3;
  private static final int FEWEST_FLAT_SAMPLES = 4;
  private static final double LOWEST_CEILING = 0.1;
  private static final double SPIKE_OVER_NEIGHBOURS = 2.5;
  private static final int LEVEL_BINS = 20_000;

  private HardCeiling() {}

  /** The ceiling of one channel and polarity; null if there is none. */
  static Clipping.Ceiling find(Audio audio, int channel, int polarity) {
    double peak = Clipping.peak(audio, channel, polarity);
    if (!(peak > 4 * Clipping.LEAST_WIDTH)) {
      return null;
    }
    double[] flat = new double[LEVEL_BINS + 1];
    double[] all = new double[LEVEL_BINS + 1];
    int[] flatRuns = new int[LEVEL_BINS + 1];
    FlatTops tops = new FlatTops(peak, flat, flatRuns);
    float[] block = new float[BLOCK];
    for (long at = 0; at < audio.frames(); at += BLOCK) {
      int n = (int) Math.min(BLOCK, audio.frames() - at);
      audio.read(channel, at, block, 0, n);
      for (int i = 0; i < n; i++) {
        double magnitude = polarity * block[i];
        if (magnitude >= LOWEST_CEILING * peak) {
          all[bin(magnitude, peak)]++;
        }
        tops.add(magnitude);
      }
    }
    tops.add(-1);
    return spike(channel, polarity, peak, flat, flatRuns, all);
  }

  private static int bin(double magnitude, double peak) {
    return (int) Math.min(LEVEL_BINS, Math.max(0, Math.round(magnitude / peak * LEVEL_BINS)));
  }

  /** The level with the most samples in flat tops, if it is a spike. */
  private static Clipping.Ceiling spike(
      int channel, int polarity, double peak, double[] flat, int[] flatRuns, double[] all) {
    int best = -1;
    double most = 0;
    for (int b = (int) (LOWEST_CEILING * LEVEL_BINS); b <= LEVEL_BINS; b++) {
      int half = halfWidth(b, peak);
      double sum = sum(flat, b - half, b + half);
      if (sum > most) {
        most = sum;
        best = b;
      }
    }
    if (best < 0) {
      return null;
    }
    int half = halfWidth(best, peak);
    int runs = 0;
    double weight = 0;
    double level = 0;
    for (int b = Math.max(0, best - half); b <= Math.min(LEVEL_BINS, best + half); b++) {
      runs += flatRuns[b];
      weight += flat[b];
      level += flat[b] * b;
    }
    int centre = (int) Math.round(level / weight);
    // A recording that touched the ceiling once or twice has it at its very peak.
    boolean touched = weight >= FEWEST_FLAT_SAMPLES && centre + half >= LEVEL_BINS;
    if (runs < FEWEST_FLAT_RUNS && !touched) {
      return null;
    }
    double within = sum(all, centre - half, centre + half);
    double below = sum(all, centre - 4 * half, centre - half - 1);
    double above = sum(all, centre + half + 1, centre + 4 * half);
    boolean stands = within > SPIKE_OVER_NEIGHBOURS * Math.max(below, above);
    return stands
        ? new Clipping.Ceiling(channel, polarity, level / weight / LEVEL_BINS * peak, false)
        : null;
  }

  private static int halfWidth(int bin, double peak) {
    double level = (double) bin / LEVEL_BINS * peak;
    double width = Math.max(Clipping.RELATIVE_WIDTH * level, Clipping.LEAST_WIDTH);
    return (int) Math.max(1, Math.round(width / peak * LEVEL_BINS));
  }

  private static double sum(double[] counts, int from, int to) {
    double sum = 0;
    for (int b = Math.max(0, from); b <= Math.min(counts.length - 1, to); b++) {
      sum += counts[b];
    }
    return sum;
  }

  /** Counts runs of three and more that are flat and higher than what stands beside them. */
  private static final class FlatTops {
    private final double peak;
    private final double[] samples;
    private final int[] runs;
    private double before = Double.POSITIVE_INFINITY;
    private double low;
    private double high;
    private double total;
    private int length;

    FlatTops(double peak, double[] samples, int[] runs) {
      this.peak = peak;
      this.samples = samples;
      this.runs = runs;
    }

    void add(double magnitude) {
      double width = Math.max(Clipping.RELATIVE_WIDTH * magnitude, Clipping.LEAST_WIDTH);
      boolean goesOn =
          length > 0
              && Math.max(high, magnitude) - Math.min(low, magnitude) <= width
              && magnitude > LOWEST_CEILING * peak;
      if (goesOn) {
        low = Math.min(low, magnitude);
        high = Math.max(high, magnitude);
        total += magnitude;
        length++;
        return;
      }
      if (length >= FLAT_RUN && before < low && magnitude < low) {
        int bin = bin(total / length, peak);
        samples[bin] += length;
        runs[bin]++;
      }
      before = length > 0 ? total / length : before;
      low = magnitude;
      high = magnitude;
      total = magnitude;
      length = 1;
    }
  }
}
