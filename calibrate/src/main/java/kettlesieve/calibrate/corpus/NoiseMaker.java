package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.calibrate.CalibrationException;

/** Noises of any length, made by code or out of recordings. */
final class NoiseMaker {
  private static final int VOICES_OF_A_BABBLE = 6;
  private static final double CROSS_FADE_SECONDS = 0.05;

  private final Catalogue catalogue;
  private final Packages packages;
  private final Recordings recordings;
  private final Speech speech;

  NoiseMaker(Catalogue catalogue, Packages packages, Recordings recordings, Speech speech) {
    this.catalogue = catalogue;
    this.packages = packages;
    this.recordings = recordings;
    this.speech = speech;
  }

  /** A noise of so many samples, at any level. */
  float[] of(Catalogue.Noise noise, int rate, int length, long seed) throws CalibrationException {
    if (noise.made() == null) {
      return recorded(noise, rate, length, seed);
    }
    String[] words = noise.made().split("-");
    return switch (words[0]) {
      case "white" -> white(length, seed);
      case "pink" -> pink(length, seed);
      case "hum" -> hum(Double.parseDouble(words[1]), rate, length, seed);
      case "crackle" -> crackle(Double.parseDouble(words[1]), rate, length, seed);
      case "changing" -> changing(words[1].equals("pink") ? 1 : 0.98, rate, length, seed);
      case "babble" -> babble(noise.half(), rate, length, seed);
      default -> throw new CalibrationException("no way to make the noise " + noise.made());
    };
  }

  private static float[] white(int length, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    float[] x = new float[length];
    for (int i = 0; i < length; i++) {
      x[i] = (float) random.nextGaussian();
    }
    return x;
  }

  /** −3 dB an octave: Kellet's filter, from memory. */
  static float[] pink(int length, long seed) {
    float[] x = white(length, seed);
    double b0 = 0;
    double b1 = 0;
    double b2 = 0;
    for (int i = 0; i < length; i++) {
      b0 = 0.99765 * b0 + x[i] * 0.0990460;
      b1 = 0.96300 * b1 + x[i] * 0.2965164;
      b2 = 0.57000 * b2 + x[i] * 1.0526913;
      x[i] = (float) (b0 + b1 + b2 + x[i] * 0.1848);
    }
    return x;
  }

  private static float[] hum(double hz, int rate, int length, long seed) {
    float[] x = pink(length, seed);
    SplittableRandom random = new SplittableRandom(seed + 1);
    for (int h = 1; h <= 40 && h * hz < 0.45 * rate; h++) {
      double phase = 2 * Math.PI * random.nextDouble();
      double amplitude = 6.0 / Math.pow(h, h % 2 == 1 ? 0.7 : 1.1);
      for (int i = 0; i < length; i++) {
        x[i] += (float) (amplitude * Math.sin(phase + 2 * Math.PI * h * hz * i / rate));
      }
    }
    return x;
  }

  /** So many clicks a second over a weak hiss. */
  private static float[] crackle(double aSecond, int rate, int length, long seed) {
    float[] x = pink(length, seed);
    SplittableRandom random = new SplittableRandom(seed + 1);
    int clicks = (int) (aSecond * length / rate);
    for (int n = 0; n < clicks; n++) {
      int at = random.nextInt(length);
      double strength = 20 * Math.pow(10, random.nextDouble()) * (random.nextBoolean() ? 1 : -1);
      double decay = rate * (0.0001 + 0.0004 * random.nextDouble());
      for (int i = at; i < Math.min(length, at + 12 * decay); i++) {
        double since = i - at;
        x[i] += (float) (strength * Math.exp(-since / decay) * Math.cos(since / decay * 1.3));
      }
    }
    return x;
  }

  /** A level that swells, sinks and jumps by some 12 dB. */
  private static float[] changing(double pole, int rate, int length, long seed) {
    float[] x = pink(length, seed);
    if (pole < 1) {
      double low = 0;
      for (int i = 0; i < length; i++) {
        low = pole * low + (1 - pole) * x[i];
        x[i] = (float) (4 * low + 0.1 * x[i]);
      }
    }
    SplittableRandom random = new SplittableRandom(seed + 1);
    double target = 0;
    double db = 0;
    for (int i = 0; i < length; i++) {
      if (random.nextDouble() < 1.0 / (1.2 * rate)) {
        target = -6 + 12 * random.nextDouble();
      }
      db += (target - db) / (0.15 * rate);
      x[i] *= (float) Math.pow(10, db / 20);
    }
    return x;
  }

  private float[] babble(Half half, int rate, int length, long seed) throws CalibrationException {
    List<Catalogue.Voice> voices = catalogue.voices(half);
    float[] sum = new float[length];
    for (int v = 0; v < VOICES_OF_A_BABBLE; v++) {
      Catalogue.Voice voice = voices.get((int) ((seed + v) % voices.size()));
      float[] one = speech.of(voice, rate, (double) length / rate + 1, seed + 31 * v);
      for (int i = 0; i < length; i++) {
        sum[i] += one[i + rate / 2];
      }
    }
    return sum;
  }

  private float[] recorded(Catalogue.Noise noise, int rate, int length, long seed)
      throws CalibrationException {
    Path file = packages.file(noise.from(), noise.files());
    float[] once =
        recordings
            .samples(file, rate)
            .orElseThrow(() -> new CalibrationException(file + " cannot be read"));
    if (once.length > length) {
      int from = new SplittableRandom(seed).nextInt(once.length - length);
      return java.util.Arrays.copyOfRange(once, from, from + length);
    }
    // Over and over, the joins cross-faded at equal power.
    int fade = Math.min(once.length / 4, (int) (CROSS_FADE_SECONDS * rate));
    float[] x = new float[length];
    for (int at = 0; at < length; at += once.length - fade) {
      for (int i = 0; i < once.length && at + i < length; i++) {
        double in = at == 0 || i >= fade ? 1 : Math.sin(Math.PI / 2 * i / fade);
        int left = once.length - 1 - i;
        double out = left >= fade ? 1 : Math.sin(Math.PI / 2 * left / fade);
        x[at + i] += (float) (in * out * once[i]);
      }
    }
    return x;
  }
}
