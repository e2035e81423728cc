package kettlesieve.core.measure.cells;

import kettlesieve.core.signal.Audio;
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

  private final double[] levels;

  /**
   * @param audio one channel
   */
  public PitchProfile(Audio audio) {
    this.levels = profile(audio);
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
    double[] found = peak(levels, other.levels, (int) Math.round(aroundCents / GRID_CENTS));
    return new Shift(GRID_CENTS * found[0], found[1], aroundCents);
  }

  /** The shift around the first guess, or around the second where that is clearly more like. */
  public Shift likelier(PitchProfile other, double firstCents, double secondCents) {
    Shift first = of(other, firstCents);
    Shift second = of(other, secondCents);
    return second.likeness() > first.likeness() + CLEARLY_BETTER ? second : first;
  }

  /** Mean spectrum on the grid, in dB less its moving mean. */
  private static double[] profile(Audio audio) {
    int length = Fft.powerOfTwo((long) (LENGTH_SECONDS * audio.sampleRate()));
    float[] window = Windows.hann(length);
    double[] power = new double[length / 2];
    float[] frame = new float[length];
    for (long at = 0; at + length <= Math.max(length, audio.frames()); at += length / 2) {
      audio.read(0, at, frame, 0, length);
      for (int i = 0; i < length; i++) {
        frame[i] *= window[i];
      }
      Fft.forward(frame);
      for (int k = 1; k < power.length; k++) {
        power[k] +=
            (double) frame[2 * k] * frame[2 * k] + (double) frame[2 * k + 1] * frame[2 * k + 1];
      }
    }
    // A very low rate ends before the grid does.
    double highest = Math.min(HIGH_HZ, 0.45 * audio.sampleRate());
    int points = Math.max(0, (int) (1200 * Math.log(highest / LOW_HZ) / Math.log(2) / GRID_CENTS));
    double[] db = new double[points];
    double binHz = (double) audio.sampleRate() / length;
    for (int i = 0; i < points; i++) {
      double bin = LOW_HZ * Math.pow(2, i * GRID_CENTS / 1200.0) / binHz;
      int k = (int) bin;
      double f = bin - k;
      db[i] = 10 * Math.log10((1 - f) * power[k] + f * power[k + 1] + 1e-12);
    }
    double[] flat = new double[points];
    for (int i = 0; i < points; i++) {
      double sum = 0;
      int n = 0;
      for (int j = Math.max(0, i - MEAN_POINTS); j <= Math.min(points - 1, i + MEAN_POINTS); j++) {
        sum += db[j];
        n++;
      }
      flat[i] = db[i] - sum / n;
    }
    return flat;
  }

  /** Shift in grid points, with a fraction, and correlation of the peak around a shift. */
  private static double[] peak(double[] source, double[] version, int around) {
    double[] r = new double[2 * REACH_POINTS + 1];
    int best = 0;
    for (int i = 0; i < r.length; i++) {
      r[i] = correlation(source, version, around + i - REACH_POINTS);
      best = r[i] > r[best] ? i : best;
    }
    double fraction = 0;
    if (best > 0 && best < r.length - 1) {
      double bend = r[best - 1] - 2 * r[best] + r[best + 1];
      fraction = bend < 0 ? 0.5 * (r[best - 1] - r[best + 1]) / bend : 0;
    }
    return new double[] {around + best - REACH_POINTS + fraction, r[best]};
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
