package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.signal.Windows;

/** Delay below a sample from the phase of coherence-weighted cross-spectra. */
final class PhaseSlope {
  private final int length;
  private final float[] window;
  private final List<Double> middles = new ArrayList<>();
  private final List<double[]> crosses = new ArrayList<>();
  private final double[] sourcePower;
  private final double[] versionPower;
  private final double[] cross;

  /**
   * What remains between two recordings.
   *
   * @param delay at position 0, samples
   * @param slope samples a sample
   * @param scatter robust deviation of the blocks' delays from that line, samples; NaN where there
   *     are too few blocks to tell
   * @param agreement mean cosine of what the blocks' phases are off that line, 0 to 1: phases that
   *     have nothing to do with each other lie about any delay, and scatter little
   */
  record Line(double delay, double slope, double scatter, double agreement) {}

  PhaseSlope(int rate) {
    this.length = Fft.powerOfTwo((long) (0.06 * rate));
    this.window = Windows.hann(length);
    this.sourcePower = new double[length / 2];
    this.versionPower = new double[length / 2];
    this.cross = new double[length];
  }

  int length() {
    return length;
  }

  void addBlock(double middle, float[] s, float[] v) {
    double[] block = new double[length];
    float[] x = new float[length];
    float[] y = new float[length];
    for (int at = 0; at + length <= s.length; at += length / 2) {
      for (int i = 0; i < length; i++) {
        x[i] = s[at + i] * window[i];
        y[i] = v[at + i] * window[i];
      }
      Fft.forward(x);
      Fft.forward(y);
      for (int k = 1; k < length / 2; k++) {
        double xr = x[2 * k];
        double xi = x[2 * k + 1];
        double yr = y[2 * k];
        double yi = y[2 * k + 1];
        block[2 * k] += yr * xr + yi * xi;
        block[2 * k + 1] += yi * xr - yr * xi;
        sourcePower[k] += xr * xr + xi * xi;
        versionPower[k] += yr * yr + yi * yi;
      }
    }
    for (int i = 0; i < length; i++) {
      cross[i] += block[i];
    }
    middles.add(middle);
    crosses.add(block);
  }

  Line line() {
    double[] weights = weights();
    double whole = delay(cross, weights, 0);
    List<double[]> points = new ArrayList<>();
    for (int b = 0; b < middles.size(); b++) {
      double[] block = crosses.get(b);
      double energy = 0;
      for (int k = 1; k < length / 2; k++) {
        energy += weights[k] * Math.hypot(block[2 * k], block[2 * k + 1]);
      }
      if (energy > 0) {
        points.add(new double[] {middles.get(b), delay(block, weights, whole), energy});
      }
    }
    double typical = Statistics.median(points.stream().mapToDouble(p -> p[2]).toArray());
    points.removeIf(p -> p[2] < 0.05 * typical);
    if (points.size() < 4) {
      return new Line(whole, 0, Double.NaN, agreement(weights, whole, 0));
    }
    double[] line = RobustLine.through(points);
    double[] rest = points.stream().mapToDouble(p -> p[1] - line[0] - line[1] * p[0]).toArray();
    double span = points.get(points.size() - 1)[0] - points.get(0)[0];
    double scatter = Statistics.robustDeviation(rest);
    double slopeError = 3.5 * scatter / (span * Math.sqrt(points.size()));
    // A slope within its own uncertainty is not a drift.
    return Math.abs(line[1]) > 3 * slopeError + 1e-9
        ? new Line(line[0], line[1], scatter, agreement(weights, line[0], line[1]))
        : new Line(whole, 0, scatter, agreement(weights, whole, 0));
  }

  private double agreement(double[] weights, double delay, double slope) {
    double along = 0;
    double all = 0;
    for (int b = 0; b < middles.size(); b++) {
      double[] block = crosses.get(b);
      double lag = delay + slope * middles.get(b);
      for (int k = 2; k < length / 2; k++) {
        double turn = 2 * Math.PI * k / length * lag;
        along += weights[k] * (block[2 * k] * Math.cos(turn) - block[2 * k + 1] * Math.sin(turn));
        all += weights[k] * Math.hypot(block[2 * k], block[2 * k + 1]);
      }
    }
    return all > 0 ? Math.abs(along) / all : 0;
  }

  /**
   * Coherence over its complement, and less where the version is weaker than it typically is: the
   * phase of a filter's stop band or of a taken-out band says nothing of the delay.
   */
  private double[] weights() {
    double[] weights = new double[length / 2];
    double[] gains = new double[length / 2];
    for (int k = 2; k < length / 2; k++) {
      double power = sourcePower[k] * versionPower[k];
      if (power > 0) {
        double magnitude = Math.hypot(cross[2 * k], cross[2 * k + 1]);
        double coherence = Math.min(0.9999, magnitude * magnitude / power);
        weights[k] = coherence / (1 - coherence);
        gains[k] = magnitude / sourcePower[k];
      }
    }
    double typical = wholeGain();
    for (int k = 2; k < length / 2 && typical > 0; k++) {
      double gain = Math.min(1, gains[k] / typical);
      weights[k] *= gain * gain;
    }
    return weights;
  }

  private double wholeGain() {
    double crossed = 0;
    double power = 0;
    for (int k = 2; k < length / 2; k++) {
      crossed += Math.hypot(cross[2 * k], cross[2 * k + 1]);
      power += sourcePower[k];
    }
    return power > 0 ? crossed / power : 0;
  }

  /** Weighted least squares of the phase against frequency, near a first value. */
  private double delay(double[] c, double[] weights, double near) {
    int bins = length / 2;
    double[] phases = new double[bins];
    double[] pulls = new double[bins];
    double bottom = 0;
    for (int k = 2; k < bins; k++) {
      double magnitude = Math.sqrt(c[2 * k] * c[2 * k] + c[2 * k + 1] * c[2 * k + 1]);
      if (weights[k] > 0 && magnitude > 0) {
        double omega = 2 * Math.PI * k / length;
        phases[k] = Math.atan2(c[2 * k + 1], c[2 * k]);
        pulls[k] =
            omega * weights[k] * magnitude / Math.sqrt(sourcePower[k] * versionPower[k] + 1e-300);
        bottom += omega * pulls[k];
      }
    }
    if (!(bottom > 0)) {
      return near;
    }
    double delay = near;
    for (int round = 0; round < 4; round++) {
      double top = 0;
      for (int k = 2; k < bins; k++) {
        double turned = phases[k] + 2 * Math.PI * k / length * delay;
        top -= pulls[k] * (turned - 2 * Math.PI * Math.rint(turned / (2 * Math.PI)));
      }
      delay += top / bottom;
    }
    return delay;
  }
}
