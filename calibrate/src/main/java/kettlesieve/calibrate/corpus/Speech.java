package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.SplittableRandom;
import kettlesieve.calibrate.CalibrationException;

/**
 * Running speech out of single words: each trimmed and brought to one level, one to four of them to
 * a phrase with short gaps, and pauses between the phrases as a reader makes them.
 */
final class Speech {
  private static final double TRIM_DB = -38;
  private static final double FADE_SECONDS = 0.012;
  private static final double RMS = 0.06;

  private final Packages packages;
  private final Recordings recordings;

  Speech(Packages packages, Recordings recordings) {
    this.packages = packages;
    this.recordings = recordings;
  }

  /** The rate of a voice's own files, between 16 and 48 kHz. */
  int rate(Catalogue.Voice voice) throws CalibrationException {
    for (Path file : packages.files(voice.from(), voice.files())) {
      Optional<Integer> rate = recordings.rate(file);
      if (rate.isPresent()) {
        return Math.max(16_000, Math.min(48_000, rate.get()));
      }
    }
    throw new CalibrationException("no file of the voice " + voice.id() + " can be read");
  }

  /** Speech of a voice. */
  float[] of(Catalogue.Voice voice, int rate, double seconds, long seed)
      throws CalibrationException {
    List<Path> files = packages.files(voice.from(), voice.files());
    SplittableRandom random = new SplittableRandom(seed);
    float[] speech = new float[(int) (seconds * rate)];
    int at = (int) (0.3 * rate * (1 + random.nextDouble()));
    int next = random.nextInt(files.size());
    int unread = 0;
    while (at < speech.length) {
      int words = 1 + random.nextInt(4);
      for (int w = 0; w < words && at < speech.length; w++) {
        Optional<float[]> word = recordings.samples(files.get(next++ % files.size()), rate);
        if (word.isEmpty()) {
          if (++unread > files.size()) {
            throw new CalibrationException("no file of the voice " + voice.id() + " can be read");
          }
          continue;
        }
        float[] trimmed = trimmed(word.get(), rate);
        int length = Math.min(trimmed.length, speech.length - at);
        System.arraycopy(trimmed, 0, speech, at, length);
        at += length + (int) (rate * (0.03 + 0.09 * random.nextDouble()));
      }
      at += (int) (rate * (0.25 + 0.85 * random.nextDouble()));
    }
    return speech;
  }

  /** From the first to the last sound, faded at both ends, at the usual level. */
  private static float[] trimmed(float[] word, int rate) {
    int step = Math.max(1, rate / 100);
    int count = word.length / step;
    double[] power = new double[count];
    double most = 0;
    for (int i = 0; i < count; i++) {
      for (int n = i * step; n < (i + 1) * step; n++) {
        power[i] += (double) word[n] * word[n] / step;
      }
      most = Math.max(most, power[i]);
    }
    double limit = most * Math.pow(10, TRIM_DB / 10);
    int first = 0;
    while (first < count && power[first] < limit) {
      first++;
    }
    int last = count - 1;
    while (last > first && power[last] < limit) {
      last--;
    }
    if (last <= first) {
      return new float[0];
    }
    float[] kept =
        Arrays.copyOfRange(
            word, Math.max(0, (first - 2) * step), Math.min(word.length, (last + 4) * step));
    double loud = 0;
    int active = 0;
    for (int i = first; i <= last; i++) {
      if (power[i] > most * 1e-3) {
        loud += power[i];
        active++;
      }
    }
    float gain = (float) (RMS / Math.sqrt(loud / active));
    int fade = (int) (FADE_SECONDS * rate);
    for (int i = 0; i < kept.length; i++) {
      float edge = Math.min(1f, Math.min(i, kept.length - 1 - i) / (float) fade);
      kept[i] *= gain * edge;
    }
    return kept;
  }
}
