package kettlesieve.core.listen;

import kettlesieve.core.signal.Biquad;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.KWeighting;
import kettlesieve.core.signal.TruePeak;

/**
 * Levels of stereo sound while it is played: true peak (ITU-R BS.1770-5, annex 2) and short-term
 * loudness (the same, annex 1, over 3 s at steps of 100 ms as in EBU Tech 3341). One thread feeds
 * it; any thread may read.
 */
public final class LevelMeter {
  /** Nothing has been heard. */
  public static final Levels SILENT =
      new Levels(Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY);

  private static final int STEPS_SHORT = 30;
  private static final int STEPS_HELD = 4;
  private static final double OFFSET = -0.691;

  /**
   * Levels of what was heard last.
   *
   * @param peakDb true peak of the last 400 ms, dBTP
   * @param highestDb true peak since playing began, dBTP
   * @param loudness of the last 3 s, or as long as there was sound, LUFS
   */
  public record Levels(double peakDb, double highestDb, double loudness) {}

  private final int stepFrames;
  private final Biquad shelf;
  private final Biquad highPass;
  private final double[][] state = new double[2][4];
  private final float[][] phases;
  private final double gain;
  private final float[][] history;
  private final double[] powers = new double[STEPS_SHORT];
  private final double[] peaks = new double[STEPS_HELD];
  private int steps;
  private int inStep;
  private double sum;
  private double stepPeak;
  private double highest;
  private volatile Levels levels = SILENT;

  /**
   * @param sampleRate Hz
   */
  public LevelMeter(int sampleRate) {
    this.stepFrames = sampleRate / 10;
    this.shelf = KWeighting.shelf(sampleRate);
    this.highPass = KWeighting.highPass(sampleRate);
    this.phases = TruePeak.interpolators(sampleRate);
    this.gain = Math.max(1, TruePeak.largestGain(phases));
    this.history = new float[2][TruePeak.TAPS - 1];
  }

  /** Levels by now; new ones every 100 ms. */
  public Levels levels() {
    return levels;
  }

  /** Takes what is heard next. */
  public void process(float[] left, float[] right, int frames) {
    int from = 0;
    while (from < frames) {
      int count = Math.min(frames - from, stepFrames - inStep);
      sum += squares(left, from, count, state[0]) + squares(right, from, count, state[1]);
      peak(left, from, count, history[0]);
      peak(right, from, count, history[1]);
      inStep += count;
      from += count;
      if (inStep == stepFrames) {
        step();
      }
    }
  }

  private void step() {
    powers[steps % STEPS_SHORT] = sum / stepFrames;
    peaks[steps % STEPS_HELD] = stepPeak;
    steps++;
    highest = Math.max(highest, stepPeak);
    double power = 0;
    int filled = Math.min(steps, STEPS_SHORT);
    for (int i = 0; i < filled; i++) {
      power += powers[i] / filled;
    }
    double held = 0;
    for (double p : peaks) {
      held = Math.max(held, p);
    }
    levels = new Levels(Db.ofAmplitude(held), Db.ofAmplitude(highest), OFFSET + Db.ofPower(power));
    inStep = 0;
    sum = 0;
    stepPeak = 0;
  }

  private double squares(float[] x, int from, int count, double[] s) {
    double total = 0;
    for (int i = from; i < from + count; i++) {
      double in = x[i];
      double y = shelf.b0() * in + s[0];
      s[0] = shelf.b1() * in + s[1] - shelf.a1() * y;
      s[1] = shelf.b2() * in - shelf.a2() * y;
      double z = highPass.b0() * y + s[2];
      s[2] = highPass.b1() * y + s[3] - highPass.a1() * z;
      s[3] = highPass.b2() * y - highPass.a2() * z;
      total += z * z;
    }
    return total;
  }

  /** The largest value on and between the samples; the last few go on into the next block. */
  private void peak(float[] x, int from, int count, float[] before) {
    int taps = TruePeak.TAPS;
    float[] all = new float[before.length + count];
    System.arraycopy(before, 0, all, 0, before.length);
    System.arraycopy(x, from, all, before.length, count);
    float largest = 0;
    for (float v : all) {
      largest = Math.max(largest, Math.abs(v));
    }
    stepPeak = Math.max(stepPeak, largest);
    // Where no value between samples can be higher, none is worked out.
    if (gain * largest > stepPeak) {
      for (float[] phase : phases) {
        for (int i = 0; i + taps <= all.length; i++) {
          float value = 0;
          for (int k = 0; k < taps; k++) {
            value += phase[k] * all[i + k];
          }
          stepPeak = Math.max(stepPeak, Math.abs(value));
        }
      }
    }
    System.arraycopy(all, all.length - before.length, before, 0, before.length);
  }
}
