package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import java.util.Arrays;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;

/** Makes the sound of scenes; the same scene gives the same sound. */
public final class SceneMaker {
  private static final double SAMPLE_SECONDS = 1.5;

  private final Catalogue catalogue;
  private final Speech speech;
  private final NoiseMaker noises;

  /**
   * @param packages where recordings come from
   * @param cache where decoded files are kept
   */
  public SceneMaker(Catalogue catalogue, Packages packages, Path cache) {
    this.catalogue = catalogue;
    Recordings recordings = new Recordings(cache);
    this.speech = new Speech(packages, recordings);
    this.noises = new NoiseMaker(catalogue, packages, recordings, speech);
  }

  /**
   * Makes a scene.
   *
   * @throws CalibrationException if a recording is missing
   */
  public Material make(Scene scene) throws CalibrationException {
    Catalogue.Voice voice = catalogue.voice(scene.voice());
    Catalogue.Noise noise =
        catalogue.noises().stream()
            .filter(n -> n.id().equals(scene.noise()))
            .findFirst()
            .orElseThrow();
    int rate = speech.rate(voice);
    float[] clean = speech.of(voice, rate, Scene.SECONDS, 7L * scene.seed() + 1);
    int sample = (int) (SAMPLE_SECONDS * rate);
    float[] noisy = noises.of(noise, rate, clean.length + sample, 7L * scene.seed() + 2);
    double gain =
        Math.sqrt(activePower(clean, rate) / power(noisy, 0, clean.length))
            * Math.pow(10, -scene.snrDb() / 20.0);
    float[] added = new float[clean.length];
    float[] source = new float[clean.length];
    for (int i = 0; i < clean.length; i++) {
      added[i] = (float) (gain * noisy[i]);
      source[i] = clean[i] + added[i];
    }
    float[] learned = Arrays.copyOfRange(noisy, clean.length, noisy.length);
    for (int i = 0; i < learned.length; i++) {
      learned[i] *= (float) gain;
    }
    return new Material(
        Audio.of(rate, source),
        Audio.of(rate, clean),
        Audio.of(rate, added),
        Audio.of(rate, learned));
  }

  private static double power(float[] x, int from, int to) {
    double sum = 0;
    for (int i = from; i < to; i++) {
      sum += (double) x[i] * x[i];
    }
    return sum / (to - from);
  }

  /** Mean power of the pieces of 20 ms within 30 dB of the strongest. */
  private static double activePower(float[] x, int rate) {
    int step = rate / 50;
    double[] powers = new double[x.length / step];
    double most = 0;
    for (int i = 0; i < powers.length; i++) {
      powers[i] = power(x, i * step, (i + 1) * step);
      most = Math.max(most, powers[i]);
    }
    double limit = most * 1e-3;
    return Arrays.stream(powers).filter(p -> p > limit).average().orElse(1e-9);
  }
}
