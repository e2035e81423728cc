package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.testpiece.MadeNoise;

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
      case "white" -> MadeNoise.white(length, seed);
      case "pink" -> MadeNoise.pink(length, seed);
      case "hum" -> MadeNoise.hum(Double.parseDouble(words[1]), rate, length, seed);
      case "crackle" -> MadeNoise.clicks(Double.parseDouble(words[1]), rate, length, seed);
      case "changing" -> changing(words[1].equals("pink") ? 1 : 0.98, rate, length, seed);
      case "babble" -> babble(noise.half(), rate, length, seed);
      default -> throw new CalibrationException("no way to make the noise " + noise.made());
    };
  }

  /** A level that swells, sinks and jumps by some 12 dB. */
  private static float[] changing(double pole, int rate, int length, long seed) {
    float[] x = MadeNoise.pink(length, seed);
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
