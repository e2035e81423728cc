package kettlesieve.core.listen;

import kettlesieve.core.Sounds;

/** Two tones that are played, and how steep they are at most. */
final class Tones {
  static final int RATE = 48_000;
  static final float[] SOURCE = Sounds.sine(RATE, 10, 220, 0.5, 0);
  static final float[] OTHER = Sounds.sine(RATE, 10, 220, 0.25, 0.9);

  static double largestStep(float[] x) {
    double largest = 0;
    for (int i = 1; i < x.length; i++) {
      largest = Math.max(largest, Math.abs(x[i] - x[i - 1]));
    }
    return largest;
  }

  /** The largest step of a 220 Hz tone of amplitude 0.5, with a little room for the fade. */
  static final double TONE_STEP = 1.25 * 0.5 * 2 * Math.PI * 220 / RATE;

  private Tones() {}
}
