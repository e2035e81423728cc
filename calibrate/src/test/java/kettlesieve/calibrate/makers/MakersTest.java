package kettlesieve.calibrate.makers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.SplittableRandom;
import kettlesieve.calibrate.corpus.Material;
import kettlesieve.calibrate.corpus.RoomMaterial;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The makers that need nothing from outside do to known parts what their names say. */
class MakersTest {
  private static final int RATE = 16_000;

  @TempDir Path folder;

  private static float[] noise(long seed, double sigma) {
    SplittableRandom random = new SplittableRandom(seed);
    float[] x = new float[4 * RATE];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (sigma * random.nextGaussian());
    }
    return x;
  }

  /** Two seconds of hum, two of nothing. */
  private static float[] half() {
    float[] x = new float[4 * RATE];
    for (int i = 0; i < 2 * RATE; i++) {
      x[i] = (float) (0.4 * Math.sin(2 * Math.PI * 160 * i / RATE));
    }
    return x;
  }

  private static float[] sum(float[] a, float[] b, double times) {
    float[] y = a.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] += (float) (times * b[i]);
    }
    return y;
  }

  private static double db(float[] x, int from, int to) {
    double power = 0;
    for (int i = from; i < to; i++) {
      power += (double) x[i] * x[i];
    }
    return 10 * Math.log10(power / (to - from));
  }

  private static Material noisy() {
    float[] clean = half();
    float[] noise = noise(1, 0.01);
    return new Material(
        Audio.of(RATE, sum(clean, noise, 1)),
        Audio.of(RATE, clean),
        Audio.of(RATE, noise),
        Audio.of(RATE, Arrays.copyOf(noise(2, 0.01), RATE)));
  }

  private float[] denoised(String id, Material m) throws Exception {
    return Denoisers.all(folder).stream()
        .filter(x -> x.id().equals(id))
        .findFirst()
        .orElseThrow()
        .way()
        .make(m, folder)
        .wholeChannel(0);
  }

  @Test
  void idealVersionsHoldWhatTheyPromise() throws Exception {
    Material m = noisy();
    assertThat(denoised("untouched", m)).isEqualTo(m.source().wholeChannel(0));
    assertThat(denoised("clean", m)).isEqualTo(m.clean().wholeChannel(0));
    float[] left = sum(denoised("partial-14", m), m.clean().wholeChannel(0), -1);
    assertThat(db(left, 0, left.length) - db(m.noise().wholeChannel(0), 0, left.length))
        .isCloseTo(-14, within(0.01));
  }

  @Test
  void theGateClosesInThePauseAndIsOpenOverTheHum() throws Exception {
    Material m = noisy();
    float[] source = m.source().wholeChannel(0);
    float[] gated = denoised("gate", m);
    assertThat(db(gated, RATE, 2 * RATE) - db(source, RATE, 2 * RATE)).isCloseTo(0, within(0.05));
    assertThat(db(gated, 3 * RATE, 4 * RATE) - db(source, 3 * RATE, 4 * RATE))
        .isCloseTo(-26, within(0.5));
  }

  @Test
  void overSubtractionLeavesLessNoiseAndHurtsTheWeakParts() throws Exception {
    Material m = noisy();
    float[] out = denoised("over-subtraction", m);
    assertThat(db(out, 3 * RATE, 4 * RATE))
        .isLessThan(db(m.source().wholeChannel(0), 3 * RATE, 4 * RATE) - 8);
    assertThat(db(out, RATE, 2 * RATE))
        .isCloseTo(db(m.clean().wholeChannel(0), RATE, 2 * RATE), within(1.0));
  }

  private float[] dereverberated(String id, RoomMaterial m) throws Exception {
    return Dereverbers.all(folder).stream()
        .filter(x -> x.id().equals(id))
        .findFirst()
        .orElseThrow()
        .way()
        .make(m, folder)
        .wholeChannel(0);
  }

  @Test
  void roomsAreMixedAnewAndFlawsArePutInByHand() throws Exception {
    float[] direct = half();
    float[] late = noise(3, 0.02);
    RoomMaterial m =
        new RoomMaterial(
            Audio.of(RATE, sum(direct, late, 1)),
            Audio.of(RATE, direct),
            Audio.of(RATE, new float[direct.length]),
            Audio.of(RATE, late),
            Audio.of(RATE, new float[direct.length]));
    int from = 2 * RATE;
    int to = 4 * RATE;
    double room = db(m.source().wholeChannel(0), from, to);
    assertThat(db(dereverberated("late-6", m), from, to) - room).isCloseTo(-6.02, within(0.01));
    assertThat(db(dereverberated("late-12", m), from, to) - room).isCloseTo(-12.04, within(0.01));
    assertThat(db(dereverberated("more-room", m), from, to) - room).isCloseTo(4.08, within(0.01));
    assertThat(dereverberated("late-none", m)).isEqualTo(direct);
    float[] chopped = dereverberated("chopped", m);
    int dropped = (int) (0.37 * 6 * RATE) + 100;
    assertThat(db(chopped, dropped, dropped + 600) - room).isLessThan(-30);
    float[] wavering = dereverberated("wavering", m);
    // A quarter and three quarters of an eighth of a second: 4 dB up and 4 dB down.
    assertThat(gain(wavering, m, RATE / 32)).isCloseTo(4, within(0.05));
    assertThat(gain(wavering, m, 3 * RATE / 32)).isCloseTo(-4, within(0.05));
  }

  private static double gain(float[] version, RoomMaterial m, int at) {
    return 20 * Math.log10(version[at] / m.source().wholeChannel(0)[at]);
  }

  @Test
  void aVersionThatTookLongIsMadeOnceForEachInputAndEachWay() throws Exception {
    KeptVersions kept = new KeptVersions(folder.resolve("kept"));
    Audio one = Audio.of(RATE, new float[] {0.1f, -0.2f});
    Audio other = Audio.of(RATE, new float[] {0.1f, -0.3f});
    int[] made = new int[1];
    KeptVersions.Way way =
        () -> {
          made[0]++;
          return Audio.of(RATE, new float[] {made[0], 0.5f});
        };
    assertThat(kept.of(one, "a", way).wholeChannel(0)).containsExactly(1, 0.5f);
    assertThat(kept.of(one, "a", way).wholeChannel(0)).containsExactly(1, 0.5f);
    assertThat(kept.of(one, "b", way).wholeChannel(0)).containsExactly(2, 0.5f);
    assertThat(kept.of(other, "a", way).wholeChannel(0)).containsExactly(3, 0.5f);
    assertThat(made[0]).isEqualTo(3);
  }

  @Test
  void clippedTopsGoPartOfTheWayOrBeyond() throws Exception {
    float[] clean = half();
    float[] clipped = clean.clone();
    for (int i = 0; i < clipped.length; i++) {
      clipped[i] = Math.max(-0.3f, Math.min(0.3f, clipped[i]));
    }
    Material m =
        new Material(
            Audio.of(RATE, clipped),
            Audio.of(RATE, clean),
            Audio.of(RATE, sum(clipped, clean, -1)),
            Audio.of(RATE, clipped));
    for (Object[] way : new Object[][] {{"halfway", 0.5}, {"most-of-it", 0.8}, {"too-high", 2.3}}) {
      Maker<Material> maker =
          Declippers.all(folder).stream()
              .filter(x -> x.id().equals(way[0]))
              .findFirst()
              .orElseThrow();
      float[] out = maker.way().make(m, folder).wholeChannel(0);
      float most = 0;
      for (float x : out) {
        most = Math.max(most, x);
      }
      assertThat((double) most)
          .as((String) way[0])
          .isCloseTo(0.3 + (double) way[1] * 0.1, within(1e-3));
    }
  }

  /** A plain vocoder keeps pitch and level, and smears a click over its window. */
  @Test
  void freePhasesStretchAToneAndSmearAClick() {
    float[] tone = new float[4 * RATE];
    for (int i = 0; i < tone.length; i++) {
      tone[i] = (float) (0.4 * Math.sin(2 * Math.PI * 440 * i / RATE));
    }
    Audio longer = FreePhases.stretched(Audio.of(RATE, tone), 1.5, 1024);
    assertThat(longer.frames()).isEqualTo(6 * RATE);
    float[] y = longer.wholeChannel(0);
    int crossings = 0;
    for (int i = RATE + 1; i < 4 * RATE; i++) {
      crossings += y[i - 1] < 0 && y[i] >= 0 ? 1 : 0;
    }
    assertThat(crossings).isCloseTo(3 * 440, within(3));
    assertThat(db(y, RATE, 4 * RATE)).isCloseTo(db(tone, RATE, 3 * RATE), within(1.0));
    float[] click = new float[4 * RATE];
    click[2 * RATE] = 0.9f;
    double wide = loudest(FreePhases.stretched(Audio.of(RATE, click), 1.5, 4096));
    assertThat(wide).isLessThan(loudest(FreePhases.stretched(Audio.of(RATE, click), 1.5, 256)));
  }

  private static double loudest(Audio audio) {
    double most = 0;
    for (float v : audio.wholeChannel(0)) {
      most = Math.max(most, Math.abs(v));
    }
    return most;
  }
}
