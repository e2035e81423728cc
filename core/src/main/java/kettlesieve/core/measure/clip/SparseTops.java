package kettlesieve.core.measure.clip;

import kettlesieve.core.signal.Fft;

/**
 * The most likely shape of clipped tops: of all signals that keep the good samples and reach at
 * least the ceiling at the clipped ones, the one with the sparsest short-time spectrum. Reweighted
 * ℓ1 minimisation (Candès, Wakin &amp; Boyd 2008) with low frequencies preferred, by
 * Douglas–Rachford splitting (Combettes &amp; Pesquet 2007) in a tight frame; consistent declipping
 * in the sense of Záviška, Rajmic et al., IEEE J. Sel. Top. Signal Process. 15, 2021.
 */
final class SparseTops {
  private static final int ROUNDS = 5;
  private static final int STEPS = 14;
  private static final double EDGE = 0.02;
  private static final double LEAST_WEIGHT = 0.001;

  /** Share of the strong cells' magnitude that a weight of 1 takes off; tried from 0.03 to 3. */
  private static final double THRESHOLD = 0.2;

  private final float[] source;
  private final byte[] polarity;
  private final float[] least;
  private final int length;
  private final int hop;
  private final int frames;
  private final float[] window;
  private final float[] sum;

  private SparseTops(float[] source, byte[] polarity, float[] least, int length) {
    this.source = source;
    this.polarity = polarity;
    this.least = least;
    this.length = length;
    this.hop = length / 4;
    this.frames = (source.length + length) / hop + 1;
    this.window = new float[length];
    for (int i = 0; i < length; i++) {
      double sine = Math.sin(Math.PI * (i + 0.5) / length);
      // Squares of sin² at a quarter of its length add up to 1.5.
      window[i] = (float) (sine * sine / Math.sqrt(1.5));
    }
    this.sum = new float[source.length];
  }

  /**
   * Estimates what was there. Thresholds pull what they leave towards nothing: the tops come out
   * too low.
   *
   * @param source samples, clipped ones included
   * @param polarity 1 or −1 where clipped, 0 where good
   * @param least the least magnitude of a clipped sample
   * @param length of the window, a power of two
   */
  static float[] estimate(float[] source, byte[] polarity, float[] least, int length) {
    return new SparseTops(source, polarity, least, length).run();
  }

  private float[] run() {
    float[][] z = analysed(source);
    double strength = strength(z);
    float[][] weights = startWeights();
    float[][] near = new float[frames][];
    float[] projected = source.clone();
    for (int round = 0; round < ROUNDS; round++) {
      for (int step = 0; step < STEPS; step++) {
        step(z, near, weights, strength);
      }
      if (round + 1 < ROUNDS) {
        reweigh(near, weights, strength);
      }
    }
    synthesise(near);
    System.arraycopy(sum, 0, projected, 0, sum.length);
    project(projected);
    return projected;
  }

  private void step(float[][] z, float[][] near, float[][] weights, double strength) {
    synthesise(z);
    float[] move = sum.clone();
    project(move);
    for (int i = 0; i < move.length; i++) {
      move[i] -= sum[i];
    }
    double by = THRESHOLD * strength;
    for (int t = 0; t < frames; t++) {
      float[] frame = analysedFrame(move, t);
      float[] own = z[t];
      for (int i = 0; i < length; i++) {
        frame[i] += own[i];
      }
      near[t] = frame;
      float[] w = weights[t];
      own[0] += shrunk(frame[0], own[0], by * w[0]) - frame[0];
      own[1] += shrunk(frame[1], own[1], by * w[length / 2]) - frame[1];
      for (int k = 1; k < length / 2; k++) {
        float re = 2 * frame[2 * k] - own[2 * k];
        float im = 2 * frame[2 * k + 1] - own[2 * k + 1];
        double magnitude = Math.sqrt((double) re * re + (double) im * im);
        float keep = (float) Math.max(0, 1 - by * w[k] / Math.max(magnitude, 1e-20));
        own[2 * k] += keep * re - frame[2 * k];
        own[2 * k + 1] += keep * im - frame[2 * k + 1];
      }
    }
  }

  private static float shrunk(float near, float own, double by) {
    float v = 2 * near - own;
    return (float) (v * Math.max(0, 1 - by / Math.max(Math.abs(v), 1e-20)));
  }

  /** Good samples as they are, clipped ones raised to what they were at least. */
  private void project(float[] x) {
    for (int i = 0; i < x.length; i++) {
      if (polarity[i] == 0) {
        x[i] = source[i];
      } else if (polarity[i] * x[i] < least[i]) {
        x[i] = polarity[i] * least[i];
      }
    }
  }

  private float[][] analysed(float[] x) {
    float[][] z = new float[frames][];
    for (int t = 0; t < frames; t++) {
      z[t] = analysedFrame(x, t);
    }
    return z;
  }

  private float[] analysedFrame(float[] x, int t) {
    float[] frame = new float[length];
    int from = (t + 1) * hop - length;
    float scale = (float) (1 / Math.sqrt(length));
    for (int i = Math.max(0, -from); i < length && from + i < x.length; i++) {
      frame[i] = x[from + i] * window[i] * scale;
    }
    Fft.forward(frame);
    return frame;
  }

  private void synthesise(float[][] z) {
    java.util.Arrays.fill(sum, 0);
    float scale = (float) Math.sqrt(length);
    float[] frame = new float[length];
    for (int t = 0; t < frames; t++) {
      System.arraycopy(z[t], 0, frame, 0, length);
      Fft.inverse(frame);
      int from = (t + 1) * hop - length;
      for (int i = Math.max(0, -from); i < length && from + i < sum.length; i++) {
        sum[from + i] += frame[i] * window[i] * scale;
      }
    }
  }

  private double power(float[] frame, int bin) {
    if (bin == 0) {
      return (double) frame[0] * frame[0];
    }
    if (bin == length / 2) {
      return (double) frame[1] * frame[1];
    }
    return (double) frame[2 * bin] * frame[2 * bin]
        + (double) frame[2 * bin + 1] * frame[2 * bin + 1];
  }

  /** Magnitude of the cells that carry the sound. */
  private double strength(float[][] z) {
    double second = 0;
    double fourth = 0;
    for (float[] frame : z) {
      for (int k = 0; k <= length / 2; k++) {
        double p = power(frame, k);
        second += p;
        fourth += p * p;
      }
    }
    return second > 0 ? Math.sqrt(fourth / second) : 0;
  }

  private float[][] startWeights() {
    int bins = length / 2 + 1;
    float[] row = new float[bins];
    double mean = 0;
    for (int k = 0; k < bins; k++) {
      double share = (double) k / bins;
      row[k] = (float) (share * share + LEAST_WEIGHT);
      mean += row[k] / bins;
    }
    for (int k = 0; k < bins; k++) {
      row[k] /= (float) mean;
    }
    float[][] weights = new float[frames][];
    for (int t = 0; t < frames; t++) {
      weights[t] = row.clone();
    }
    return weights;
  }

  /** Cells amid strong ones are spared: 3×3 means of the magnitudes. */
  private void reweigh(float[][] near, float[][] weights, double strength) {
    int bins = length / 2 + 1;
    float[][] magnitudes = new float[frames][bins];
    for (int t = 0; t < frames; t++) {
      for (int k = 0; k < bins; k++) {
        magnitudes[t][k] = (float) Math.sqrt(power(near[t], k));
      }
    }
    kettlesieve.core.signal.BoxMean means =
        new kettlesieve.core.signal.BoxMean(1, bins, frames, t -> magnitudes[t]);
    double edge = EDGE * strength;
    for (int t = 0; t < frames; t++) {
      float[] mean = means.row(t);
      for (int k = 0; k < bins; k++) {
        weights[t][k] = (float) (3 * edge / (mean[k] + edge));
      }
    }
  }
}
