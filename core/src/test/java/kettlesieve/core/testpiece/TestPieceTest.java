package kettlesieve.core.testpiece;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class TestPieceTest {
  private static final int RATE = 16_000;

  @TempDir private Path folder;
  private Path clean;
  private float[] speech;

  @BeforeEach
  void speech() throws Exception {
    speech = Arrays.copyOf(Sounds.speech16(), 6 * RATE);
    clean = folder.resolve("clean.wav");
    Sounds.write(clean, RATE, speech);
  }

  private TestPiece made(PieceRecipe recipe) throws Exception {
    return TestPiece.of(
        recipe, new MediaReader(folder.resolve("cache")), Progress.SILENT, Stop.NEVER);
  }

  private PieceRecipe noisy(String noise, double snr) {
    return PieceRecipe.of(Job.DENOISE, clean).withNoise(noise).withSnr(snr);
  }

  private static double power(float[] x) {
    double sum = 0;
    for (float v : x) {
      sum += (double) v * v;
    }
    return sum / x.length;
  }

  private static float[] minus(float[] a, float[] b) {
    float[] d = new float[a.length];
    for (int i = 0; i < d.length; i++) {
      d[i] = a[i] - b[i];
    }
    return d;
  }

  private static double snr(TestPiece piece) {
    float[] clean = piece.clean().wholeChannel(0);
    return 10 * Math.log10(power(clean) / power(minus(piece.source().wholeChannel(0), clean)));
  }

  @ParameterizedTest
  @ValueSource(strings = {"white", "pink", "hum", "clicks"})
  void theSignalToNoiseRatioIsWhatWasAskedFor(String noise) throws Exception {
    for (double asked : new double[] {20, 10, 0, -5}) {
      TestPiece piece = made(noisy(noise, asked));
      assertThat(snr(piece)).isCloseTo(asked, within(0.05));
      assertThat(piece.made().snr()).isEqualTo(asked);
      assertThat(piece.made().noise()).isEqualTo(noise);
    }
  }

  @Test
  void aRecordingGivesItsNoiseAndOneThatIsTooShortIsRefused() throws Exception {
    Path noise = folder.resolve("surf.wav");
    Sounds.write(noise, 22_050, Sounds.pink(8 * 22_050, 3));
    assertThat(snr(made(noisy(noise.toString(), 10)))).isCloseTo(10, within(0.05));
    Path brief = folder.resolve("brief.wav");
    Sounds.write(brief, RATE, Sounds.pink(2 * RATE, 3));
    assertThatThrownBy(() -> made(noisy(brief.toString(), 10)))
        .isInstanceOf(PieceException.class)
        .hasMessageContaining("brief.wav")
        .hasMessageContaining("pause:");
    Path silent = folder.resolve("silent.wav");
    Sounds.write(silent, RATE, new float[8 * RATE]);
    assertThatThrownBy(() -> made(noisy(silent.toString(), 10)))
        .isInstanceOf(PieceException.class)
        .hasMessageContaining("silent");
  }

  @Test
  void theSameSeedGivesTheSameSamplesAndAnotherSeedOthers() throws Exception {
    for (String noise : List.of("white", "hum", "clicks")) {
      float[] one = made(noisy(noise, 10)).source().wholeChannel(0);
      assertThat(made(noisy(noise, 10)).source().wholeChannel(0)).isEqualTo(one);
      assertThat(made(noisy(noise, 10).withSeed(2)).source().wholeChannel(0)).isNotEqualTo(one);
    }
  }

  /** A voice in steady noise, whose pauses hold the noise alone. */
  private Path tape(float[] noise) throws Exception {
    float[] x = new float[12 * RATE];
    for (int burst = 0; burst < 4; burst++) {
      for (int i = 0; i < RATE; i++) {
        x[burst * 3 * RATE + RATE + i] = 0.8f * speech[burst * RATE + i];
      }
    }
    for (int i = 0; i < x.length; i++) {
      x[i] += noise[i];
    }
    Path file = folder.resolve("tape.wav");
    Sounds.write(file, RATE, x);
    return file;
  }

  /** Mean power in third-octaves, by the whole length's transform. */
  private static double[] thirds(float[] x) {
    int size = Integer.highestOneBit(x.length);
    double[] a = new double[size];
    for (int i = 0; i < size; i++) {
      a[i] = x[i];
    }
    Fft.forward(a);
    double[] bands = new double[16];
    for (int b = 0; b < bands.length; b++) {
      double middle = 200 * Math.pow(2, b / 3.0);
      int from = (int) Math.ceil(middle * Math.pow(2, -1 / 6.0) * size / RATE);
      int to = (int) Math.floor(middle * Math.pow(2, 1 / 6.0) * size / RATE);
      for (int k = from; k <= to && k < size / 2; k++) {
        bands[b] += a[2 * k] * a[2 * k] + a[2 * k + 1] * a[2 * k + 1];
      }
      bands[b] = 10 * Math.log10(bands[b] / size / size);
    }
    return bands;
  }

  @Test
  void prolongedSteadyNoiseSoundsAsThePauseAndDoesNotRepeat() throws Exception {
    float[] hiss = Sounds.pink(12 * RATE, 11);
    for (int i = 0; i < hiss.length; i++) {
      hiss[i] *= 0.01f;
    }
    Audio tape = new MediaReader(folder.resolve("cache")).read(tape(hiss), Progress.SILENT).audio();
    PauseNoise pauses = PauseNoise.of(tape);
    assertThat(pauses.steady()).isTrue();
    float[] long30 = pauses.of(30 * RATE, 5)[0];
    // What stands in the pauses, one after another.
    float[] all = new float[12 * RATE];
    int n = 0;
    for (long[] p : pauses.pauses()) {
      for (long i = p[0]; i < p[1]; i++) {
        all[n++] = tape.samples(0, i, 1)[0];
      }
    }
    assertThat(n).isGreaterThan(4 * RATE);
    double[] want = thirds(Arrays.copyOf(all, n));
    double[] got = thirds(long30);
    for (int b = 0; b < want.length; b++) {
      assertThat(got[b]).as("band %d", b).isCloseTo(want[b], within(1.0));
    }
    assertThat(repetition(long30)).isLessThan(0.2);
    assertThat(pauses.of(30 * RATE, 5)[0]).isEqualTo(long30);
    // And mixed, its power is what was asked for.
    assertThat(snr(made(noisy("pause:" + folder.resolve("tape.wav"), 10))))
        .isCloseTo(10, within(0.05));
  }

  /** The largest of the normalised autocorrelation beyond 0.2 s. */
  private static double repetition(float[] x) {
    int size = 2 * Integer.highestOneBit(x.length);
    double[] a = new double[2 * size];
    for (int i = 0; i < x.length; i++) {
      a[i] = x[i];
    }
    Fft.forward(a);
    a[0] *= a[0];
    a[1] *= a[1];
    for (int k = 1; k < a.length / 2; k++) {
      a[2 * k] = a[2 * k] * a[2 * k] + a[2 * k + 1] * a[2 * k + 1];
      a[2 * k + 1] = 0;
    }
    Fft.inverse(a);
    double most = 0;
    for (int lag = RATE / 5; lag < x.length / 2; lag++) {
      most = Math.max(most, Math.abs(a[lag]) / a[0]);
    }
    return most;
  }

  @Test
  void changingNoiseIsProlongedInGrainsThatDoNotRepeat() throws Exception {
    float[] surf = Sounds.pink(12 * RATE, 12);
    for (int i = 0; i < surf.length; i++) {
      double t = (double) i / RATE;
      double splash = Math.pow(Math.max(0, Math.sin(2 * Math.PI * 3.1 * t)), 200);
      surf[i] *= (float) (0.004 + 0.016 * splash);
    }
    Audio tape = new MediaReader(folder.resolve("cache")).read(tape(surf), Progress.SILENT).audio();
    PauseNoise pauses = PauseNoise.of(tape);
    assertThat(pauses.steady()).isFalse();
    float[] made = pauses.of(20 * RATE, 7)[0];
    double want = 0;
    long n = 0;
    for (long[] p : pauses.pauses()) {
      for (float x : tape.samples(0, p[0], (int) (p[1] - p[0]))) {
        want += (double) x * x;
        n++;
      }
    }
    assertThat(10 * Math.log10(power(made) / (want / n))).isCloseTo(0, within(1.5));
    assertThat(pauses.of(20 * RATE, 8)[0]).isNotEqualTo(made);
  }

  @Test
  void theClippedShareIsThatOfGeometry() throws Exception {
    float[] sine = Sounds.sine(RATE, 4, 441, 0.8, 0.3);
    Sounds.write(clean, RATE, sine);
    PieceRecipe recipe = PieceRecipe.of(Job.DECLIP, clean).withClip(-6.0);
    float[] clipped = made(recipe).source().wholeChannel(0);
    double level = 0.8 * Math.pow(10, -6 / 20.0);
    int at = 0;
    for (float x : clipped) {
      at += Math.abs(Math.abs(x) - level) < 1e-4 ? 1 : 0;
      assertThat(Math.abs(x)).isLessThanOrEqualTo((float) level + 1e-5f);
    }
    // A sine lies above a share s of its peak for 1 − 2/π·asin(s) of the time.
    double share = 1 - 2 / Math.PI * Math.asin(Math.pow(10, -6 / 20.0));
    assertThat((double) at / clipped.length).isCloseTo(share, within(0.005));
    float[] upper = made(recipe.withUpperOnly(true)).source().wholeChannel(0);
    float lowest = 0;
    for (float x : upper) {
      lowest = Math.min(lowest, x);
      assertThat(x).isLessThanOrEqualTo((float) level + 1e-5f);
    }
    assertThat(lowest).isCloseTo(-0.8f, within(1e-3f));
    float[] soft = made(recipe.withSoft(true)).source().wholeChannel(0);
    double peak = 0;
    for (float x : soft) {
      peak = Math.max(peak, Math.abs(x));
    }
    // tanh bends all along: its peak stays under the level.
    assertThat(peak).isCloseTo(level * Math.tanh(0.8 / level), within(1e-3));
  }

  @ParameterizedTest
  @ValueSource(doubles = {0.3, 0.8, 2.0})
  void theMadeRoomDecaysAsAsked(double decay) throws Exception {
    float[] impulse = new float[3 * RATE];
    impulse[0] = 1;
    Sounds.write(clean, RATE, impulse);
    float[] h =
        made(PieceRecipe.of(Job.DEREVERB, clean).withDecay(decay).withSeed(4))
            .source()
            .wholeChannel(0);
    // Backward integration, −5 to −35 dB, as ISO 3382-1 has it; from the tail on.
    double[] left = new double[h.length + 1];
    for (int i = h.length - 1; i >= 0; i--) {
      left[i] = left[i + 1] + (double) h[i] * h[i];
    }
    int from = (int) (0.08 * RATE);
    int first = from;
    int last = from;
    for (int i = from; i < h.length; i++) {
      double db = 10 * Math.log10(left[i] / left[from]);
      first = db > -5 ? i : first;
      last = db > -35 ? i : last;
    }
    double measured = 2.0 * (last - first) / RATE;
    assertThat(measured).isCloseTo(decay, within(0.05 * decay));
    assertThat(h[0]).isEqualTo(1f);
  }

  @Test
  void aRoomFromAFileLeavesTheDirectSoundWhereItWas() throws Exception {
    float[] response = new float[RATE / 2];
    response[800] = 0.5f;
    response[1600] = 0.25f;
    Path room = folder.resolve("room.wav");
    Sounds.write(room, RATE, response);
    float[] heard =
        made(PieceRecipe.of(Job.DEREVERB, clean).withRoom(room)).source().wholeChannel(0);
    for (int i = 0; i < 5 * RATE; i += 97) {
      float want = speech[i] + (i >= 800 ? 0.5f * speech[i - 800] : 0);
      assertThat(heard[i]).isCloseTo(want, within(2e-4f));
    }
  }

  @Test
  void stemsSumToTheMix() throws Exception {
    Path bass = folder.resolve("bass.wav");
    Sounds.write(bass, 22_050, Sounds.sine(22_050, 4, 80, 0.4, 0));
    Map<String, PieceRecipe.StemShare> stems = new LinkedHashMap<>();
    stems.put("vocals", new PieceRecipe.StemShare(clean, -3, -0.5));
    stems.put("bass", new PieceRecipe.StemShare(bass, 2, null));
    PieceRecipe recipe = PieceRecipe.of(Job.STEMS, null).withStems(stems);
    Path file = folder.resolve("mix.sieve");
    Comparison c = PieceFiles.write(made(recipe), recipe, file, List.of("band"), Progress.SILENT);
    MediaReader reader = new MediaReader(folder.resolve("cache"));
    Audio mix = reader.read(c.source().file(), Progress.SILENT).audio();
    Audio one = reader.read(c.trueStems().get("vocals").file(), Progress.SILENT).audio();
    Audio other = reader.read(c.trueStems().get("bass").file(), Progress.SILENT).audio();
    assertThat(mix.channels()).isEqualTo(2);
    assertThat(mix.sampleRate()).isEqualTo(22_050);
    for (int ch = 0; ch < 2; ch++) {
      float[] m = mix.wholeChannel(ch);
      float[] rest = minus(minus(m, one.wholeChannel(ch)), other.samples(ch, 0, m.length));
      assertThat(10 * Math.log10(power(rest) / power(m))).isLessThan(-120);
    }
    // Constant power: half to the left is cos(22.5°) there and sin(22.5°) here.
    double left = Math.sqrt(power(one.wholeChannel(0)));
    double right = Math.sqrt(power(one.wholeChannel(1)));
    assertThat(right / left).isCloseTo(Math.tan(Math.PI / 8), within(1e-3));
    assertThat(c.tags()).containsExactly("band");
    assertThat(ComparisonFile.load(file).made().mix().get("vocals"))
        .isEqualTo("clean.wav at -3 dB, pan -0.5");
  }

  @Test
  void codingLevelAndRateLeaveItInPlace() throws Exception {
    PieceRecipe plain = noisy("white", 40);
    float[] before = made(plain).source().wholeChannel(0);
    float[] coded = made(plain.withCoding(64)).source().wholeChannel(0);
    assertThat(coded).hasSameSizeAs(before);
    double rest = 10 * Math.log10(power(minus(coded, before)) / power(before));
    // Something was lost, and nothing was moved: a shift of one sample leaves some −10 dB.
    assertThat(rest).isBetween(-45.0, -15.0);
    assertThat(power(made(plain.withLevel(-6.0)).source().wholeChannel(0)))
        .isCloseTo(power(before) * Math.pow(10, -0.6), within(1e-6));
    TestPiece slower = made(plain.withRate(22_050));
    assertThat(slower.source().sampleRate()).isEqualTo(22_050);
    assertThat(slower.cleanIsFile()).isFalse();
    assertThat(snr(slower)).isCloseTo(40, within(0.05));
  }

  @Test
  void theComparisonSaysHowItWasMadeAndTheFilesTellNothing() throws Exception {
    PieceRecipe recipe = noisy("pink", 5).withSeed(9);
    Path file = folder.resolve("p.sieve");
    PieceFiles.write(made(recipe), recipe, file, List.of(), Progress.SILENT);
    Comparison c = ComparisonFile.load(file);
    assertThat(c.made().from()).isEqualTo("clean.wav");
    assertThat(c.made().snr()).isEqualTo(5.0);
    assertThat(c.made().seed()).isEqualTo(9L);
    assertThat(c.name()).isEqualTo("p, 5 dB");
    assertThat(c.source().file().getFileName()).hasToString("p-source.wav");
    assertThat(c.reference().file()).isEqualTo(clean.toAbsolutePath());
    // 32-bit float: the format tag is 3.
    assertThat(Files.readAllBytes(c.source().file())[20]).isEqualTo((byte) 3);
    byte[] first = Files.readAllBytes(c.source().file());
    PieceFiles.write(made(recipe), recipe, folder.resolve("q.sieve"), List.of(), Progress.SILENT);
    assertThat(Files.readAllBytes(folder.resolve("q-source.wav"))).isEqualTo(first);
  }

  @Test
  void whatIsMissingIsSaid() {
    assertThatThrownBy(() -> PieceRecipe.of(Job.DENOISE, null).check())
        .hasMessageContaining("clean recording");
    assertThatThrownBy(() -> PieceRecipe.of(Job.DENOISE, clean).check())
        .hasMessageContaining("which noise");
    assertThatThrownBy(() -> noisy("pause:", 3).check()).hasMessageContaining("recording");
    assertThatThrownBy(() -> PieceRecipe.of(Job.DECLIP, clean).withClip(3.0).check())
        .hasMessageContaining("between −60 and 0");
    assertThatThrownBy(() -> PieceRecipe.of(Job.DEREVERB, clean).check())
        .hasMessageContaining("which room");
    assertThatThrownBy(() -> PieceRecipe.of(Job.STEMS, null).check())
        .hasMessageContaining("two stems");
    assertThatThrownBy(() -> PieceRecipe.of(Job.STRETCH, clean).at(3))
        .hasMessageContaining("sweep");
  }
}
