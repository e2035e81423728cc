package kettlesieve.calibrate.corpus;

import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;

/**
 * A voice after the source–filter model (Fant 1960): harmonics of a fundamental under formants that
 * wander from vowel to vowel, and bursts of noise for consonants. It can say the same in another
 * time or at another pitch with the formants of the same person, which no recording can.
 */
final class SourceFilterVoice {
  private static final int RATE = 44_100;
  private static final int BLOCK = 64;
  private static final double HIGHEST_HZ = 8000;
  private static final double SYLLABLE = 0.24;
  private static final double NOTE = 0.6;
  private static final double CHANGE_SECONDS = 0.06;
  private static final double BURST_SECONDS = 0.05;
  private static final double VIBRATO_HZ = 5.3;
  private static final double VIBRATO = 0.018;
  private static final double LOUD = 0.1;

  /** First four formants of vowels, Hz, after Peterson & Barney 1952, rounded; from memory. */
  private static final double[][] VOWELS = {
    {730, 1090, 2440, 3400}, {270, 2290, 3010, 3600}, {300, 870, 2240, 3300},
    {530, 1840, 2480, 3500}, {570, 840, 2410, 3300}, {660, 1720, 2410, 3500}
  };

  private static final double[] WIDTHS = {80, 100, 140, 200};
  private static final int[] TUNE = {0, 2, 4, 5, 7, 4, 2, 0, -3, 0};

  private final boolean sings;
  private final double size;
  private final double base;
  private final int[] vowels;
  private final double[] pitches;
  private final double[] glides;
  private final boolean[] bursts;
  private final boolean[] silent;
  private final int seed;

  SourceFilterVoice(ScoreScene scene) {
    boolean one = scene.half() == Half.SETTING;
    this.sings = scene.kind() == ScoreScene.Kind.SINGING;
    this.size = one ? 1 : 1.16;
    this.base = (one ? 115 : 195) * (sings ? 1.25 : 1);
    this.seed = scene.seed();
    SplittableRandom random = new SplittableRandom(seed);
    int n = (int) Math.ceil(ScoreScene.SECONDS / step());
    vowels = new int[n];
    pitches = new double[n];
    glides = new double[n];
    bursts = new boolean[n];
    silent = new boolean[n];
    for (int i = 0; i < n; i++) {
      vowels[i] = random.nextInt(VOWELS.length);
      int within = i % 9;
      pitches[i] =
          sings
              ? TUNE[(i + seed) % TUNE.length]
              : 4 - 0.9 * within + 3 * random.nextDouble() - (within == 7 ? 2 : 0);
      glides[i] = 5 * random.nextDouble() - 3.5;
      bursts[i] = sings ? i % 4 == 0 : random.nextInt(4) > 0;
      silent[i] = i == n - 1 || (sings ? i % 10 == 9 : within == 8);
    }
  }

  private double step() {
    return sings ? NOTE : SYLLABLE;
  }

  /**
   * Says it.
   *
   * @param ratio length over the first
   * @param pitch fundamental over the first
   */
  Audio make(double ratio, double pitch) {
    int length = (int) Math.round(ScoreScene.SECONDS * ratio * RATE);
    float[] out = new float[length];
    double phase = 0;
    double[] amplitudes = new double[0];
    SplittableRandom noise = new SplittableRandom(seed + 77 + Math.round(1000 * ratio));
    double[] last = new double[2];
    for (int from = 0; from < length; from += BLOCK) {
      double at = from / (double) RATE / ratio;
      double hz = fundamental(at) * pitch;
      double[] now = amplitudes(at, hz);
      double burst = burst(at);
      int n = Math.min(BLOCK, length - from);
      for (int i = 0; i < n; i++) {
        double f = i / (double) BLOCK;
        phase += 2 * Math.PI * hz / RATE;
        double twice = 2 * Math.cos(phase);
        double before = 1;
        double c = twice / 2;
        double sum = 0;
        for (int k = 0; k < now.length; k++) {
          double was = k < amplitudes.length ? amplitudes[k] : 0;
          sum += ((1 - f) * was + f * now[k]) * c;
          double next = twice * c - before;
          before = c;
          c = next;
        }
        double white = 2 * noise.nextDouble() - 1;
        // Second difference: consonants hiss at the top.
        double hiss = white - 2 * last[0] + last[1];
        last[1] = last[0];
        last[0] = white;
        out[from + i] = (float) (LOUD * (sum + 0.25 * burst * hiss));
      }
      amplitudes = now;
    }
    return Audio.of(RATE, out);
  }

  private int syllable(double at) {
    return Math.min(vowels.length - 1, (int) (at / step()));
  }

  private double fundamental(double at) {
    int i = syllable(at);
    double into = at - i * step();
    double far = Math.min(1, into / CHANGE_SECONDS);
    double semitones = pitches[i];
    if (i > 0 && !silent[i - 1]) {
      semitones = far * pitches[i] + (1 - far) * pitches[i - 1];
    }
    // Speech glides through its syllables; what is sung keeps its note but for the vibrato.
    semitones += sings ? 0 : glides[i] * into / step();
    double wave = sings ? VIBRATO * Math.sin(2 * Math.PI * VIBRATO_HZ * at) : 0;
    return base * Math.pow(2, semitones / 12) * (1 + wave);
  }

  private double[] amplitudes(double at, double hz) {
    double[] a = new double[(int) Math.min(120, HIGHEST_HZ / hz)];
    int i = syllable(at);
    double into = at - i * step();
    double loud = loudness(i, into);
    double far = i == 0 ? 1 : Math.min(1, into / CHANGE_SECONDS);
    for (int k = 0; k < a.length; k++) {
      double f = (k + 1) * hz;
      double gain = 1;
      for (int r = 0; r < WIDTHS.length; r++) {
        double middle =
            size * (far * VOWELS[vowels[i]][r] + (1 - far) * VOWELS[vowels[Math.max(0, i - 1)]][r]);
        double width = WIDTHS[r] * size;
        double square = middle * middle;
        gain *= square / Math.hypot(square - f * f, width * f);
      }
      // The source falls by 12 dB an octave, the lips give 6 back.
      a[k] = loud * gain * 100 / f;
    }
    return a;
  }

  private double loudness(int i, double into) {
    if (silent[i]) {
      return Math.max(0, 1 - into / CHANGE_SECONDS) * (i > 0 && !silent[i - 1] ? 0.6 : 0);
    }
    double closed = bursts[i] ? BURST_SECONDS : 0;
    double rise = (into - closed) / 0.03;
    return Math.max(0, Math.min(1, rise)) * (1 - 0.4 * into / step());
  }

  private double burst(double at) {
    int i = syllable(at);
    double into = at - i * step();
    return bursts[i] && !silent[i] && into > 0.008 && into < BURST_SECONDS
        ? Math.min(1, (BURST_SECONDS - into) / 0.01)
        : 0;
  }
}
