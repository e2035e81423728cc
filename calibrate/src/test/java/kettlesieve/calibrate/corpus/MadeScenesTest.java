package kettlesieve.calibrate.corpus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The sound of scenes, from a package of made-up words: it is what the scene says it is. */
class MadeScenesTest {
  private static final int RATE = 16_000;
  private static final Catalogue CATALOGUE =
      new Catalogue(
          List.of(new Catalogue.Voice("hummer", Half.SETTING, "words", "sounds/.*\\.wav")),
          List.of(
              new Catalogue.Noise("rain", "rain", Half.SETTING, true, "white", null, null),
              new Catalogue.Noise("tape", "hiss", Half.SETTING, true, null, "words", "hiss.wav")),
          List.of(new Catalogue.Music("air", Half.SETTING, "words", "air.wav")),
          List.of(
              new Catalogue.Band(
                  "quartet", Half.SETTING, "words", "hiss.wav", "sounds/0.wav", "sounds/3.wav")));

  @TempDir Path folder;
  private Packages packages;

  @BeforeEach
  void aPackageOfWords() throws IOException {
    Path sounds = Files.createDirectories(folder.resolve("words/sounds"));
    for (int w = 0; w < 6; w++) {
      write(sounds.resolve(w + ".wav"), word(0.25 + 0.05 * w, 110 + 20 * w));
    }
    Files.writeString(sounds.resolve("0-broken.wav"), "not a recording");
    write(folder.resolve("words/air.wav"), word(40, 196));
    write(folder.resolve("words/hiss.wav"), noise(30, 0.01, 9));
    packages = new Packages(folder);
  }

  private static void write(Path file, float[] x) throws IOException {
    WavWriter.write(Audio.of(RATE, x), file, WavWriter.Format.FLOAT, Progress.SILENT);
  }

  /** A hum with overtones that swells and dies away, silence on both sides. */
  private static float[] word(double seconds, double hz) {
    float[] x = new float[(int) (seconds * RATE)];
    int quiet = RATE / 20;
    for (int i = quiet; i < x.length - quiet; i++) {
      double envelope = Math.sin(Math.PI * (i - quiet) / (x.length - 2.0 * quiet));
      for (int h = 1; h <= 8; h++) {
        x[i] += (float) (0.2 * envelope / h * Math.sin(2 * Math.PI * hz * h * i / RATE));
      }
    }
    return x;
  }

  private static float[] noise(double seconds, double sigma, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    float[] x = new float[(int) (seconds * RATE)];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (sigma * random.nextGaussian());
    }
    return x;
  }

  private static Scene scene(String noise, int snr, int seed) {
    return new Scene("s", Half.SETTING, "hummer", noise, "hiss", true, snr, seed);
  }

  private Material made(Scene scene) throws CalibrationException {
    return new SceneMaker(CATALOGUE, packages, folder.resolve("cache")).make(scene);
  }

  private static double power(float[] x) {
    double sum = 0;
    for (float v : x) {
      sum += (double) v * v;
    }
    return sum / x.length;
  }

  /** Mean power where there is any sound. */
  private static double active(float[] x) {
    double sum = 0;
    int n = 0;
    for (int at = 0; at + 320 <= x.length; at += 320) {
      double p = power(Arrays.copyOfRange(x, at, at + 320));
      sum += p > 1e-5 ? p : 0;
      n += p > 1e-5 ? 1 : 0;
    }
    return sum / n;
  }

  @Test
  void theNoiseLiesAsFarUnderTheVoiceAsTheSceneSays() throws Exception {
    for (int snr : new int[] {0, 10, 20}) {
      Material m = made(scene("tape", snr, 3));
      float[] clean = m.clean().wholeChannel(0);
      float[] noise = m.noise().wholeChannel(0);
      assertThat(m.source().seconds()).isCloseTo(Scene.SECONDS, within(1e-6));
      assertThat(10 * Math.log10(active(clean) / power(noise))).isCloseTo(snr, within(0.7));
      float[] source = m.source().wholeChannel(0);
      for (int i = 0; i < source.length; i += 101) {
        assertThat(source[i]).isCloseTo(clean[i] + noise[i], within(1e-6f));
      }
    }
  }

  @Test
  void theSameSceneSoundsTheSameAndAnotherDoesNot() throws Exception {
    float[] once = made(scene("tape", 10, 3)).source().wholeChannel(0);
    assertThat(made(scene("tape", 10, 3)).source().wholeChannel(0)).isEqualTo(once);
    assertThat(made(scene("tape", 10, 4)).source().wholeChannel(0)).isNotEqualTo(once);
  }

  @Test
  void whatIsLearntOfTheNoiseIsOfTheSameLevelAndNotOfTheScene() throws Exception {
    Material m = made(scene("tape", 10, 3));
    float[] sample = m.sample().wholeChannel(0);
    float[] noise = m.noise().wholeChannel(0);
    assertThat(m.sample().seconds()).isCloseTo(1.5, within(0.01));
    assertThat(10 * Math.log10(power(sample) / power(noise))).isCloseTo(0, within(0.3));
    assertThat(Arrays.equals(sample, Arrays.copyOf(noise, sample.length))).isFalse();
  }

  @Test
  void pausesAreSilentAndThereAreWordsBetweenThem() throws Exception {
    float[] clean = made(scene("tape", 10, 3)).clean().wholeChannel(0);
    int silent = 0;
    for (float x : clean) {
      silent += x == 0 ? 1 : 0;
    }
    assertThat((double) silent / clean.length).isBetween(0.15, 0.75);
  }

  @Test
  void aClippedSceneHasTheRatioAskedFor() throws Exception {
    ClipMaker maker = new ClipMaker(CATALOGUE, packages, folder.resolve("cache"));
    for (String kind : List.of("voice", "music", "drums")) {
      for (int db : new int[] {15, 3}) {
        String sound = kind.equals("voice") ? "hummer" : kind.equals("music") ? "air" : "quartet";
        Material m = maker.make(new ClipScene("c", Half.SETTING, sound, kind, db, 5));
        float[] clean = m.clean().wholeChannel(0);
        float[] clipped = m.source().wholeChannel(0);
        float ceiling = 0;
        for (float x : clipped) {
          ceiling = Math.max(ceiling, Math.abs(x));
        }
        float[] error = clean.clone();
        for (int i = 0; i < error.length; i++) {
          error[i] -= clipped[i];
          boolean under = Math.abs(clean[i]) < ceiling;
          assertThat(clipped[i]).isEqualTo(under ? clean[i] : Math.copySign(ceiling, clean[i]));
        }
        assertThat(10 * Math.log10(power(clean) / power(error))).isCloseTo(db, within(0.02));
      }
    }
  }

  @Test
  void theRoomsPartsAddUpAndTheLateOnesComeLate() throws Exception {
    RoomMaker maker = new RoomMaker(CATALOGUE, packages, folder.resolve("cache"));
    RoomMaterial m = maker.make(new RoomScene("r", Half.SETTING, "hummer", 0.5, 0, 40, 7));
    float[] source = m.source().wholeChannel(0);
    float[] wanted = m.wanted();
    float[] unwanted = m.unwanted();
    for (int i = 0; i < source.length; i += 37) {
      assertThat(source[i]).isCloseTo(wanted[i] + unwanted[i], within(1e-5f));
    }
    assertThat(first(m.late())).isGreaterThanOrEqualTo(first(m.direct()) + RATE / 20);
    double noise = power(m.noise().wholeChannel(0));
    assertThat(10 * Math.log10(power(m.direct().wholeChannel(0)) / noise))
        .isCloseTo(40, within(0.01));
    assertThat(m.mix(1, 1).wholeChannel(0)).hasSameSizeAs(source);
    assertThat(power(m.mix(0, 0).wholeChannel(0))).isLessThan(power(source));
  }

  @Test
  void theStemsOfABandAddUpAndEachIsHeard() throws Exception {
    BandScene scene = new BandScene("b", Half.SETTING, "quartet", "hummer", 4);
    StemMaterial m = new BandMaker(CATALOGUE, packages, folder.resolve("cache")).make(scene);
    assertThat(m.stems().keySet()).containsExactly("vocals", "drums", "bass", "other");
    float[] mix = m.mix().wholeChannel(1);
    float[] sum = new float[mix.length];
    for (Audio stem : m.stems().values()) {
      float[] x = stem.wholeChannel(1);
      for (int i = 0; i < sum.length; i++) {
        sum[i] += x[i];
      }
      assertThat(10 * Math.log10(power(x))).isBetween(-30.0, -15.0);
    }
    for (int i = 0; i < sum.length; i += 53) {
      assertThat(mix[i]).isCloseTo(sum[i], within(1e-6f));
    }
  }

  /** A stretch is judged over twenty seconds, a separation by many tools over twelve. */
  @Test
  void aBandIsAsLongAsItsJobAsks() throws Exception {
    BandScene scene = new BandScene("b", Half.SETTING, "quartet", "hummer", 4);
    StemMaterial whole = new BandMaker(CATALOGUE, packages, folder.resolve("cache")).make(scene);
    StemMaterial begun =
        new StemScene.Maker(CATALOGUE, packages, folder.resolve("cache"))
            .make(new StemScene("b", Half.SETTING, scene, null));
    assertThat(whole.mix().frames()).isEqualTo(20L * 44_100);
    assertThat(begun.mix().frames()).isEqualTo(12L * 44_100);
    assertThat(begun.mix().wholeChannel(0))
        .isEqualTo(Arrays.copyOf(whole.mix().wholeChannel(0), 12 * 44_100));
  }

  private static int first(Audio audio) {
    float[] x = audio.wholeChannel(0);
    float most = 0;
    for (float v : x) {
      most = Math.max(most, Math.abs(v));
    }
    int at = 0;
    while (Math.abs(x[at]) < 0.02 * most) {
      at++;
    }
    return at;
  }

  @Test
  void aVoiceWithoutAReadableFileIsNamed() throws Exception {
    Path sounds = Files.createDirectories(folder.resolve("broken/sounds"));
    Files.writeString(sounds.resolve("a.wav"), "nothing");
    Catalogue other =
        new Catalogue(
            List.of(new Catalogue.Voice("mute", Half.SETTING, "broken", "sounds/.*")),
            CATALOGUE.noises(),
            List.of(),
            List.of());
    SceneMaker maker = new SceneMaker(other, packages, folder.resolve("cache"));
    assertThatThrownBy(
            () -> maker.make(new Scene("s", Half.SETTING, "mute", "rain", "rain", true, 10, 1)))
        .isInstanceOf(CalibrationException.class)
        .hasMessageContaining("mute");
  }
}
