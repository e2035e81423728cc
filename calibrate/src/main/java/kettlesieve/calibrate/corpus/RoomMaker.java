package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import java.util.Arrays;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Fft;

/** Makes the sound of voices in rooms; the same scene gives the same sound. */
public final class RoomMaker {
  private final Catalogue catalogue;
  private final Speech speech;

  /**
   * @param packages where recordings come from
   * @param cache where decoded files are kept
   */
  public RoomMaker(Catalogue catalogue, Packages packages, Path cache) {
    this.catalogue = catalogue;
    this.speech = new Speech(packages, new Recordings(cache));
  }

  /**
   * Makes a scene.
   *
   * @throws CalibrationException if a recording is missing
   */
  public RoomMaterial make(RoomScene scene) throws CalibrationException {
    Catalogue.Voice voice = catalogue.voice(scene.voice());
    int rate = speech.rate(voice);
    float[] dry = speech.of(voice, rate, RoomScene.SECONDS, 13L * scene.seed() + 1);
    ShoeboxRoom room =
        ShoeboxRoom.of(scene.decaySeconds(), scene.directDb(), rate, 13L * scene.seed() + 2);
    float[] direct = convolved(dry, room.direct());
    float[] early = convolved(dry, room.early());
    float[] late = convolved(dry, room.late());
    float[] noise = NoiseMaker.pink(dry.length, 13L * scene.seed() + 3);
    double factor = Math.sqrt(power(direct) / power(noise)) * Math.pow(10, -scene.noiseDb() / 20);
    float[] source = new float[dry.length];
    for (int i = 0; i < noise.length; i++) {
      noise[i] *= (float) factor;
      source[i] = direct[i] + early[i] + late[i] + noise[i];
    }
    return new RoomMaterial(
        Audio.of(rate, source),
        Audio.of(rate, direct),
        Audio.of(rate, early),
        Audio.of(rate, late),
        Audio.of(rate, noise));
  }

  private static double power(float[] x) {
    double sum = 1e-12;
    for (float v : x) {
      sum += (double) v * v;
    }
    return sum / x.length;
  }

  private static float[] convolved(float[] x, double[] response) {
    int size = Fft.powerOfTwo((long) x.length + response.length);
    double[] a = new double[size];
    for (int i = 0; i < x.length; i++) {
      a[i] = x[i];
    }
    double[] b = Arrays.copyOf(response, size);
    Fft.forward(a);
    Fft.forward(b);
    a[0] *= b[0];
    a[1] *= b[1];
    for (int k = 1; k < size / 2; k++) {
      double re = a[2 * k] * b[2 * k] - a[2 * k + 1] * b[2 * k + 1];
      a[2 * k + 1] = a[2 * k] * b[2 * k + 1] + a[2 * k + 1] * b[2 * k];
      a[2 * k] = re;
    }
    Fft.inverse(a);
    float[] y = new float[x.length];
    for (int i = 0; i < y.length; i++) {
      y[i] = (float) a[i];
    }
    return y;
  }
}
