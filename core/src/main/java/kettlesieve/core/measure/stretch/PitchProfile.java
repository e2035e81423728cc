package kettlesieve.core.measure.stretch;

import java.util.Arrays;
import java.util.function.DoubleToIntFunction;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/**
 * The mean spectrum of a recording from 80 to 2,000 Hz on a grid of 10 cents, in dB less its moving
 * mean over 410 cents: where its partials lie, whatever its tone.
 */
public final class PitchProfile {
  private static final double LOW_HZ = 80;
  private static final double HIGH_HZ = 2000;
  private static final int GRID_CENTS = 10;
  private static final int MEAN_POINTS = 20;
  private static final int REACH_POINTS = 15;
  private static final double LENGTH_SECONDS = 0.37;
  private static final double CLEARLY_BETTER = 0.1;

  /** A drawn shift lies so near the one of the whole, in points of the grid. */
  private static final int NEAR_POINTS = 4;

  private final double[][] powers;
  private final double[] levels;

  /**
   * @param audio one channel
   * @param blocks how many blocks of the bootstrap there are
   * @param block the block of a moment, seconds of the recording
   */
  public PitchProfile(Audio audio, int blocks, DoubleToIntFunction block) {
    this.powers = powers(audio, blocks, block);
    int[] once = new int[blocks];
    Arrays.fill(once, 1);
    this.levels = levels(once);
  }

  /**
   * A shift of one profile against another.
   *
   * @param cents positive for higher
   * @param likeness correlation there, −1 to 1
   * @param guess the guess in cents that it was found around
   */
  public record Shift(double cents, double likeness, double guess) {}

  /** The shift of another recording that is most like this one, within ±150 cents of a guess. */
  private Shift of(PitchProfile other, double aroundCents) {
    double[] found =
        peak(levels, other.levels, (int) Math.round(aroundCents / GRID_CENTS), REACH_POINTS);
    return new Shift(GRID_CENTS * found[0], found[1], aroundCents);
  }

  /** The shift around the first guess, or around the second where that is clearly more like. */
  public Shift likelier(PitchProfile other, double firstCents, double secondCents) {
    Shift first = of(other, firstCents);
    Shift second = of(other, secondCents);
    return second.likeness() > first.likeness() + CLEARLY_BETTER ? second : first;
  }

  /**
   * The shift with its distribution: blocks drawn anew in both recordings, searched near what the
   * whole gives.
   *
   * @param other of as many blocks
   * @param found by the whole of both
   */
  public Estimate drawn(PitchProfile other, Shift found, Bootstrap bootstrap) {
    int around = (int) Math.round(found.cents() / GRID_CENTS);
    Estimate near =
        bootstrap.estimate(
            w -> GRID_CENTS * peak(levels(w), other.levels(w), around, NEAR_POINTS)[0]);
    double off = found.cents() - near.value();
    return near.map(cents -> cents + off);
  }

  /** Spectra on the grid, summed up by block. */
  private static double[][] powers(Audio audio, int blocks, DoubleToIntFunction block) {
    int length = Fft.powerOfTwo((long) (LENGTH_SECONDS * audio.sampleRate()));
    float[] window = Windows.hann(length);
    // A very low rate ends before the grid does.
    double highest = Math.min(HIGH_HZ, 0.45 * audio.sampleRate());
    int points = Math.max(0, (int) (1200 * Math.log(highest / LOW_HZ) / Math.log(2) / GRID_CENTS));
    double[] bins = new double[points];
    for (int i = 0; i < points; i++) {
      double hz = LOW_HZ * Math.pow(2, i * GRID_CENTS / 1200.0);
      bins[i] = hz / ((double) audio.sampleRate() / length);
    }
    double[][] sums = new double[blocks][points];
    float[] frame = new float[length];
    for (long at = 0; at + length <= Math.max(length, audio.frames()); at += length / 2) {
      audio.read(0, at, frame, 0, length);
      for (int i = 0; i < length; i++) {
        frame[i] *= window[i];
      }
      Fft.forward(frame);
      double[] sum = sums[block.applyAsInt((at + length / 2.0) / audio.sampleRate())];
      for (int i = 0; i < points; i++) {
        int k = (int) bins[i];
        double f = bins[i] - k;
        sum[i] += (1 - f) * power(frame, k) + f * power(frame, k + 1);
      }
    }
    return sums;
  }

  private static double power(float[] packed, int bin) {
    double re = packed[2 * bin];
    double im = packed[2 * bin + 1];
    return re * re + im * im;
  }

  /** Mean spectrum on the grid, in dB less its moving mean; each block counts by its weight. */
  private double[] levels(int[] weights) {
    double[] sum = new double[powers[0].length];
    for (int b = 0; b < powers.length; b++) {
      if (weights[b] > 0) {
        add(powers[b], weights[b], sum);
      }
    }
    double[] upTo = new double[sum.length + 1];
    for (int i = 0; i < sum.length; i++) {
      sum[i] = 10 * Math.log10(sum[i] + 1e-12);
      upTo[i + 1] = upTo[i] + sum[i];
    }
    double[] flat = new double[sum.length];
    for (int i = 0; i < flat.length; i++) {
      int from = Math.max(0, i - MEAN_POINTS);
      int to = Math.min(flat.length, i + MEAN_POINTS + 1);
      flat[i] = sum[i] - (upTo[to] - upTo[from]) / (to - from);
    }
    return flat;
  }

  private static void add(double[] of, double weight, double[] to) {
    for (int i = 0; i < of.length; i++) {
      to[i] += weight * of[i];
    }
  }

  /** Shift in grid points, with a fraction, and correlation of the peak around a shift. */
  private static double[] peak(double[] source, double[] version, int around, int reach) {
    double[] r = new double[2 * reach + 1];
    int best = 0;
    for (int i = 0; i < r.length; i++) {
      r[i] = correlation(source, version, around + i - reach);
      best = r[i] > r[best] ? i : best;
    }
    double fraction = 0;
    if (best > 0 && best < r.length - 1) {
      double bend = r[best - 1] - 2 * r[best] + r[best + 1];
      fraction = bend < 0 ? 0.5 * (r[best - 1] - r[best + 1]) / bend : 0;
    }
    return new double[] {around + best - reach + fraction, r[best]};
  }

  private static double correlation(double[] source, double[] version, int shift) {
    double ab = 0;
    double aa = 0;
    double bb = 0;
    for (int i = Math.max(0, -shift); i < source.length && i + shift < version.length; i++) {
      ab += source[i] * version[i + shift];
      aa += source[i] * source[i];
      bb += version[i + shift] * version[i + shift];
    }
    return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
  }
}
