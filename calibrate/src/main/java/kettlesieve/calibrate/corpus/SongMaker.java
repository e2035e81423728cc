package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;

/**
 * Mixes of three to six roles whose stems are known, played from a sound font by simple rules of
 * harmony, with a voice that speaks or a choir that sings: dense and sparse, at 44.1 and 48 kHz.
 */
public final class SongMaker {
  private static final int[][] CHORDS = {
    {0, 4, 7}, {-3, 0, 4}, {-5, -1, 2}, {-7, -3, 0}, {2, 5, 9}, {4, 7, 11}
  };

  /** Package that the sound font comes from. */
  static final String SOUND_FONT = "timgm6mb-soundfont";

  private final Catalogue catalogue;
  private final Packages packages;
  private final Speech speech;
  private SoundFont font;

  /**
   * @param packages where recordings and the sound font come from
   * @param cache where decoded files are kept
   */
  public SongMaker(Catalogue catalogue, Packages packages, Path cache) {
    this.catalogue = catalogue;
    this.packages = packages;
    this.speech = new Speech(packages, new Recordings(cache));
  }

  private synchronized SoundFont font() throws CalibrationException {
    if (font == null) {
      font = new SoundFont(packages.file(SOUND_FONT, "usr/share/sounds/sf2/TimGM6mb.sf2"));
    }
    return font;
  }

  /**
   * Makes a scene; the same scene gives the same sound.
   *
   * @throws CalibrationException if something that is needed is missing
   */
  public StemMaterial make(SongScene scene) throws CalibrationException {
    Map<String, Audio> stems = new LinkedHashMap<>();
    int n = 0;
    for (SongScene.Part part : scene.parts()) {
      SplittableRandom random = new SplittableRandom(31L * scene.seed() + 7L * n);
      float[] mono =
          switch (part.kind()) {
            case SPEECH ->
                speech.of(
                    catalogue.voice(part.voice()), scene.rate(), SongScene.SECONDS, scene.seed());
            case DRUMS -> drums(scene, random);
            case BASS -> line(scene, part.program(), 36, 1, random);
            case CHORDS -> chords(scene, part.program(), random);
            case MELODY -> line(scene, part.program(), 67, 2, random);
            case ARPEGGIO -> line(scene, part.program(), 55, 4, random);
          };
      stems.put(part.role(), placed(mono, part, scene.rate(), n, random));
      n++;
    }
    return new StemMaterial(stems);
  }

  private static int root(SongScene scene, int bar) {
    return scene.seed() * 5 % 12 - 6 + CHORDS[(scene.seed() + bar * 5) % CHORDS.length][0];
  }

  private static int[] chord(SongScene scene, int bar) {
    int[] shape = CHORDS[(scene.seed() + bar * 5) % CHORDS.length];
    int base = scene.seed() * 5 % 12 - 6;
    return new int[] {base + shape[0], base + shape[1], base + shape[2]};
  }

  private float[] chords(SongScene scene, int program, SplittableRandom random)
      throws CalibrationException {
    float[] out = new float[scene.length()];
    double bar = 4 * scene.beat();
    for (int b = 0; b * bar < SongScene.SECONDS; b++) {
      boolean twice = random.nextInt(3) == 0;
      for (int half = 0; half < (twice ? 2 : 1); half++) {
        for (int tone : chord(scene, b)) {
          add(
              out,
              font().note(program, 0, 60 + tone, (twice ? 0.45 : 0.92) * bar, scene.rate()),
              (b + half / 2.0) * bar,
              scene.rate(),
              0.7 + 0.3 * random.nextDouble());
        }
      }
    }
    return out;
  }

  /** Notes of the chords one after the other, so many to the beat, with rests. */
  private float[] line(SongScene scene, int program, int base, int density, SplittableRandom random)
      throws CalibrationException {
    float[] out = new float[scene.length()];
    double step = scene.beat() / Math.max(1, density / 2.0);
    for (double at = 0; at < SongScene.SECONDS; ) {
      int bar = (int) (at / (4 * scene.beat()));
      int[] tones = chord(scene, bar);
      int tone = base < 40 && random.nextInt(3) > 0 ? root(scene, bar) : tones[random.nextInt(3)];
      double held = step * (1 + random.nextInt(2));
      if (random.nextInt(6) > 0) {
        int octave = base > 60 && random.nextInt(4) == 0 ? 12 : 0;
        add(
            out,
            font().note(program, 0, base + octave + tone, 0.9 * held, scene.rate()),
            at,
            scene.rate(),
            0.6 + 0.4 * random.nextDouble());
      }
      at += held;
    }
    return out;
  }

  private float[] drums(SongScene scene, SplittableRandom random) throws CalibrationException {
    float[] out = new float[scene.length()];
    int kit = scene.half() == Half.SETTING ? 0 : 8;
    double eighth = scene.beat() / 2;
    for (int i = 0; i * eighth < SongScene.SECONDS; i++) {
      int in = i % 8;
      hit(out, scene, kit, 42, i * eighth, 0.4 + 0.2 * random.nextDouble());
      if (in == 0 || in == 5 || in == 3 && random.nextInt(2) == 0) {
        hit(out, scene, kit, 36, i * eighth, 1);
      }
      if (in == 2 || in == 6) {
        hit(out, scene, kit, 38, i * eighth, 0.9);
      }
      if (i % 32 == 0) {
        hit(out, scene, kit, 49, i * eighth, 0.6);
      }
    }
    return out;
  }

  private void hit(float[] out, SongScene scene, int kit, int drum, double at, double gain)
      throws CalibrationException {
    add(out, font().note(kit, 128, drum, 0.6, scene.rate()), at, scene.rate(), gain);
  }

  private static void add(float[] out, float[] note, double seconds, int rate, double gain) {
    int at = (int) (seconds * rate);
    for (int i = 0; i < note.length && at + i < out.length; i++) {
      out[at + i] += (float) gain * note[i];
    }
  }

  private static Audio placed(
      float[] x, SongScene.Part part, int rate, int n, SplittableRandom random) {
    double sum = 1e-12;
    for (float v : x) {
      sum += (double) v * v;
    }
    double level = part.db() + 3 * random.nextDouble() - 1.5;
    double gain = Math.pow(10, level / 20) / Math.sqrt(sum / x.length);
    double pan = List.of(0.0, 0.35, -0.05, -0.45, 0.6, -0.7).get(n % 6);
    int late = n % 2 == 1 ? 5 + n : 0;
    float[] left = new float[x.length];
    float[] right = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      left[i] = (float) (gain * (1 - Math.max(0, pan)) * x[i]);
      right[i] = (float) (gain * (1 + Math.min(0, pan)) * (i >= late ? x[i - late] : 0));
    }
    return Audio.of(rate, left, right);
  }
}
