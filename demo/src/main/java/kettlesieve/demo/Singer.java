package kettlesieve.demo;

import java.util.SplittableRandom;

/**
 * A synthesised singing voice: a pulse train with vibrato through five formant resonators (the
 * cascade of Klatt, "Software for a cascade/parallel formant synthesizer", JASA 67, 1980), with
 * breath, and a burst of noise where a syllable begins.
 */
final class Singer {
  /** Formants of sung vowels in Hz, of a made-up tenor. */
  private static final double[][] VOWELS = {
    {650, 1080, 2650, 2900, 3250},
    {400, 1700, 2600, 3200, 3580},
    {290, 1870, 2800, 3250, 3540},
    {400, 800, 2600, 2800, 3000},
    {350, 600, 2700, 2900, 3300}
  };

  private static final double[] WIDTHS = {80, 90, 120, 130, 140};

  private final int rate;
  private final SplittableRandom random = new SplittableRandom(1887);

  Singer(int rate) {
    this.rate = rate;
  }

  /**
   * Adds a sung note.
   *
   * @param into one channel
   * @param at seconds of its beginning
   * @param seconds its length
   * @param hz its pitch
   * @param vowel which vowel, 0 to 4
   * @param level amplitude
   */
  void sing(float[] into, double at, double seconds, double hz, int vowel, double level) {
    int start = (int) (at * rate);
    int count = (int) (seconds * rate);
    double[][] state = new double[5][2];
    double phase = 0;
    double glottis = 0;
    for (int i = 0; i < count && start + i < into.length; i++) {
      double t = (double) i / rate;
      double vibrato = 1 + 0.006 * Math.min(1, t / 0.4) * Math.sin(2 * Math.PI * 5.3 * t);
      double glide = 1 - 0.03 * Math.exp(-t / 0.03);
      phase += hz * vibrato * glide / rate;
      double pulse = 0;
      if (phase >= 1) {
        phase -= 1;
        pulse = 1;
      }
      // Two leaky sums give the pulse the fall of a glottal wave, about 12 dB an octave.
      glottis += 0.12 * (pulse * 8 - glottis);
      double breath = 0.012 * random.nextGaussian();
      double x = glottis - 0.06 + breath;
      if (t < 0.035) {
        x += 0.5 * (1 - t / 0.035) * random.nextGaussian();
      }
      for (int f = 0; f < 5; f++) {
        x = resonate(state[f], x, VOWELS[vowel][f], WIDTHS[f]);
      }
      double swell = Math.min(1, t / 0.04) * Math.min(1, (seconds - t) / 0.07);
      into[start + i] += (float) (level * swell * x);
    }
  }

  private double resonate(double[] past, double in, double hz, double width) {
    double r = Math.exp(-Math.PI * width / rate);
    double c = 2 * r * Math.cos(2 * Math.PI * hz / rate);
    double gain = 1 - c + r * r;
    double out = gain * in + c * past[0] - r * r * past[1];
    past[1] = past[0];
    past[0] = out;
    return out;
  }

  /** Frequency of a note by its MIDI number. */
  static double hz(double note) {
    return 440 * Math.pow(2, (note - 69) / 12);
  }
}
