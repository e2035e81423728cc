package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Convolution;
import kettlesieve.core.testpiece.MadeNoise;

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
    float[] direct = Convolution.of(dry, room.direct());
    float[] early = Convolution.of(dry, room.early());
    float[] late = Convolution.of(dry, room.late());
    float[] noise = MadeNoise.pink(dry.length, 13L * scene.seed() + 3);
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
}
