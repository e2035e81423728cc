package kettlesieve.core.signal;

import java.util.Arrays;
import java.util.OptionalDouble;
import kettlesieve.core.audio.Audio;

/**
 * Programme loudness by ITU-R BS.1770-5, annex 1, momentary and short-term loudness by EBU Tech
 * 3341 and loudness range by EBU Tech 3342.
 *
 * <p>Momentary loudness is over 400 ms, short-term over 3 s, both at steps of 100 ms. Integrated
 * loudness is gated at −70 LUFS and 10 LU below the mean of what passes; the range at −70 LUFS and
 * 20 LU below. Channels count once, the surrounds of five- and six-channel sound 1.41 times, the
 * low-frequency channel of six-channel sound not at all.
 */
public final class Loudness {
  private static final double OFFSET = -0.691;
  private static final double ABSOLUTE_GATE = -70;
  private static final int STEPS_MOMENTARY = 4;
  private static final int STEPS_SHORT = 30;

  private final double[] stepPowers;

  private Loudness(double[] stepPowers) {
    this.stepPowers = stepPowers;
  }

  /** Measures a recording in one pass. */
  public static Loudness of(Audio audio) {
    int rate = audio.sampleRate();
    int steps = Math.toIntExact(audio.frames() * 10 / rate);
    double[] powers = new double[steps];
    Biquad shelf = KWeighting.shelf(rate);
    Biquad highPass = KWeighting.highPass(rate);
    if (audio.channels() == 2) {
      return ofStereo(audio, shelf, highPass, powers);
    }
    for (int c = 0; c < audio.channels(); c++) {
      double weight = weight(c, audio.channels());
      if (weight == 0) {
        continue;
      }
      double[] state = new double[4];
      float[] in = new float[rate / 10 + 1];
      for (int s = 0; s < steps; s++) {
        long from = (long) s * rate / 10;
        int length = (int) ((s + 1L) * rate / 10 - from);
        audio.read(c, from, in, 0, length);
        powers[s] += weight * squares(in, length, shelf, highPass, state) / length;
      }
    }
    return new Loudness(powers);
  }

  /** Both channels side by side: what is filtered waits for itself, and for the other meanwhile. */
  private static Loudness ofStereo(Audio audio, Biquad shelf, Biquad highPass, double[] powers) {
    int rate = audio.sampleRate();
    double[] state = new double[8];
    float[] left = new float[rate / 10 + 1];
    float[] right = new float[left.length];
    for (int s = 0; s < powers.length; s++) {
      long from = (long) s * rate / 10;
      int length = (int) ((s + 1L) * rate / 10 - from);
      audio.read(0, from, left, 0, length);
      audio.read(1, from, right, 0, length);
      powers[s] = squares(left, right, length, shelf, highPass, state) / length;
    }
    return new Loudness(powers);
  }

  private static double squares(
      float[] left, float[] right, int length, Biquad first, Biquad second, double[] state) {
    double l1 = state[0];
    double l2 = state[1];
    double l3 = state[2];
    double l4 = state[3];
    double r1 = state[4];
    double r2 = state[5];
    double r3 = state[6];
    double r4 = state[7];
    double sum = 0;
    for (int i = 0; i < length; i++) {
      double x = left[i];
      double u = right[i];
      double y = first.b0() * x + l1;
      double v = first.b0() * u + r1;
      l1 = first.b1() * x + l2 - first.a1() * y;
      r1 = first.b1() * u + r2 - first.a1() * v;
      l2 = first.b2() * x - first.a2() * y;
      r2 = first.b2() * u - first.a2() * v;
      double z = second.b0() * y + l3;
      double w = second.b0() * v + r3;
      l3 = second.b1() * y + l4 - second.a1() * z;
      r3 = second.b1() * v + r4 - second.a1() * w;
      l4 = second.b2() * y - second.a2() * z;
      r4 = second.b2() * v - second.a2() * w;
      sum += z * z + w * w;
    }
    state[0] = l1;
    state[1] = l2;
    state[2] = l3;
    state[3] = l4;
    state[4] = r1;
    state[5] = r2;
    state[6] = r3;
    state[7] = r4;
    return sum;
  }

  /** Sum of squares after both filters, whose states are carried on. */
  private static double squares(
      float[] in, int length, Biquad first, Biquad second, double[] state) {
    double s1 = state[0];
    double s2 = state[1];
    double s3 = state[2];
    double s4 = state[3];
    double sum = 0;
    for (int i = 0; i < length; i++) {
      double x = in[i];
      double y = first.b0() * x + s1;
      // What waits for y comes last: a sum takes its terms in the order they are written in.
      s1 = first.b1() * x + s2 - first.a1() * y;
      s2 = first.b2() * x - first.a2() * y;
      double z = second.b0() * y + s3;
      s3 = second.b1() * y + s4 - second.a1() * z;
      s4 = second.b2() * y - second.a2() * z;
      sum += z * z;
    }
    state[0] = s1;
    state[1] = s2;
    state[2] = s3;
    state[3] = s4;
    return sum;
  }

  private static double weight(int channel, int channels) {
    if (channels == 6 && channel == 3) {
      return 0;
    }
    boolean surround = channels == 5 && channel >= 3 || channels == 6 && channel >= 4;
    return surround ? 1.41 : 1;
  }

  /** Integrated loudness in LUFS; empty where nothing passes the gates (silence, under 400 ms). */
  public OptionalDouble integrated() {
    double gated = gatedPower(windowPowers(STEPS_MOMENTARY), -10);
    return gated > 0 ? OptionalDouble.of(lufs(gated)) : OptionalDouble.empty();
  }

  /**
   * Integrated loudness with each gating block (400 ms, every 100 ms) counted {@code weights}
   * times, as a bootstrap needs it; NaN where nothing passes the gates.
   */
  public double integrated(int[] weights) {
    double[] powers = windowPowers(STEPS_MOMENTARY);
    double gate = power(ABSOLUTE_GATE);
    double mean = 0;
    for (int round = 0; round < 2; round++) {
      double sum = 0;
      double count = 0;
      for (int i = 0; i < powers.length; i++) {
        if (powers[i] > gate) {
          sum += weights[i] * powers[i];
          count += weights[i];
        }
      }
      mean = sum / count;
      gate = Math.max(gate, mean * 0.1);
    }
    return mean > 0 ? lufs(mean) : Double.NaN;
  }

  /** Loudness range in LU; empty for sound under 3 s or silence. */
  public OptionalDouble range() {
    double[] powers = windowPowers(STEPS_SHORT);
    double mean = meanAbove(powers, power(ABSOLUTE_GATE));
    if (!(mean > 0)) {
      return OptionalDouble.empty();
    }
    double gate = Math.max(power(ABSOLUTE_GATE), mean * 0.01);
    double[] levels = Arrays.stream(powers).filter(p -> p >= gate).map(Loudness::lufs).toArray();
    return OptionalDouble.of(Statistics.quantile(levels, 0.95) - Statistics.quantile(levels, 0.10));
  }

  /** Momentary loudness in LUFS every 100 ms, from 0.4 s on; −∞ for silence. */
  public double[] momentary() {
    return Arrays.stream(windowPowers(STEPS_MOMENTARY)).map(Loudness::lufs).toArray();
  }

  /** Short-term loudness in LUFS every 100 ms, from 3 s on; −∞ for silence. */
  public double[] shortTerm() {
    return Arrays.stream(windowPowers(STEPS_SHORT)).map(Loudness::lufs).toArray();
  }

  private static double gatedPower(double[] powers, double relativeDb) {
    double mean = meanAbove(powers, power(ABSOLUTE_GATE));
    if (!(mean > 0)) {
      return 0;
    }
    return meanAbove(powers, Math.max(power(ABSOLUTE_GATE), mean * Db.toPower(relativeDb)));
  }

  private static double meanAbove(double[] powers, double gate) {
    return Arrays.stream(powers).filter(p -> p > gate).average().orElse(0);
  }

  private double[] windowPowers(int steps) {
    int count = Math.max(0, stepPowers.length - steps + 1);
    double[] powers = new double[count];
    for (int i = 0; i < count; i++) {
      double sum = 0;
      for (int s = i; s < i + steps; s++) {
        sum += stepPowers[s];
      }
      powers[i] = sum / steps;
    }
    return powers;
  }

  private static double lufs(double power) {
    return OFFSET + Db.ofPower(power);
  }

  private static double power(double lufs) {
    return Db.toPower(lufs - OFFSET);
  }
}
