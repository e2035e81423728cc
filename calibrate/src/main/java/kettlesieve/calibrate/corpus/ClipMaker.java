package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.SplittableRandom;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;

/** Makes the sound of clipped scenes; the same scene gives the same sound. */
public final class ClipMaker {
  private static final double FULL = 0.9;
  private static final int FROM_SECONDS = 2;

  private final Catalogue catalogue;
  private final Packages packages;
  private final Recordings recordings;
  private final Speech speech;
  private final BandMaker bands;

  /**
   * @param packages where recordings come from
   * @param cache where decoded files are kept
   */
  public ClipMaker(Catalogue catalogue, Packages packages, Path cache) {
    this.catalogue = catalogue;
    this.packages = packages;
    this.recordings = new Recordings(cache);
    this.speech = new Speech(packages, recordings);
    this.bands = new BandMaker(catalogue, packages, cache);
  }

  /**
   * Makes a scene: clean, and clipped at the level that gives the ratio asked for.
   *
   * @throws CalibrationException if a recording is missing
   */
  public Material make(ClipScene scene) throws CalibrationException {
    int rate = 44_100;
    float[] clean;
    if (scene.kind().equals("voice")) {
      Catalogue.Voice voice = catalogue.voice(scene.sound());
      rate = speech.rate(voice);
      clean = speech.of(voice, rate, ClipScene.SECONDS, 11L * scene.seed() + 1);
    } else if (scene.ofBand()) {
      BandScene band =
          BandScene.all(catalogue).stream()
              .filter(b -> b.band().equals(scene.sound()))
              .findFirst()
              .orElseThrow();
      Audio part = bands.make(band).stems().get(scene.kind());
      int length = (int) (ClipScene.SECONDS * part.sampleRate());
      clean = part.samples(0, FROM_SECONDS * (long) part.sampleRate(), length);
    } else {
      Catalogue.Music music =
          catalogue.music().stream()
              .filter(m -> m.id().equals(scene.sound()))
              .findFirst()
              .orElseThrow();
      float[] whole =
          recordings
              .samples(packages.file(music.from(), music.file()), rate)
              .orElseThrow(() -> new CalibrationException(music.file() + " cannot be read"));
      int length = (int) (ClipScene.SECONDS * rate);
      int from = new SplittableRandom(scene.seed()).nextInt(whole.length / 2 - length);
      clean = Arrays.copyOfRange(whole, whole.length / 4 + from, whole.length / 4 + from + length);
    }
    double peak = 0;
    for (float x : clean) {
      peak = Math.max(peak, Math.abs(x));
    }
    for (int i = 0; i < clean.length; i++) {
      clean[i] *= (float) (FULL / peak);
    }
    double low = 0;
    double high = FULL;
    for (int i = 0; i < 40; i++) {
      double middle = (low + high) / 2;
      if (sdrDb(clean, middle) > scene.sdrDb()) {
        high = middle;
      } else {
        low = middle;
      }
    }
    float[] clipped = clipped(clean, high);
    float[] added = new float[clean.length];
    for (int i = 0; i < added.length; i++) {
      added[i] = clipped[i] - clean[i];
    }
    return new Material(
        Audio.of(rate, clipped),
        Audio.of(rate, clean),
        Audio.of(rate, added),
        Audio.of(rate, added));
  }

  private static float[] clipped(float[] x, double level) {
    float[] y = x.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] = (float) Math.max(-level, Math.min(level, y[i]));
    }
    return y;
  }

  private static double sdrDb(float[] x, double level) {
    double energy = 0;
    double error = 0;
    for (float sample : x) {
      double off = Math.max(0, Math.abs(sample) - level);
      energy += (double) sample * sample;
      error += off * off;
    }
    return 10 * Math.log10(energy / Math.max(error, 1e-12 * energy));
  }
}
