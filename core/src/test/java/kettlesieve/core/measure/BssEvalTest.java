package kettlesieve.core.measure;

import static kettlesieve.core.measure.reference.BssEval.Form.IMAGES;
import static kettlesieve.core.measure.reference.BssEval.Form.SOURCES;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.Outside;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.reference.BssEval;
import kettlesieve.core.signal.Db;
import org.junit.jupiter.api.Test;

/**
 * The separation evaluation against mir_eval 0.7, {@code bss_eval_sources} and {@code
 * bss_eval_images}, on the same arrays (script: fixtures/make_separation.py).
 */
class BssEvalTest {
  private static final int N = 6000;
  private static final JsonNode OUTSIDE = Outside.read("separation.json");
  private static final float[] RAW = Sounds.congruential(6 * N);
  private static final float[] A = coloured(Arrays.copyOfRange(RAW, 0, N), 0.9);
  private static final float[] B = coloured(Arrays.copyOfRange(RAW, N, 2 * N), -0.5);
  private static final float[] C = Arrays.copyOfRange(RAW, 2 * N, 3 * N);
  private static final float[] D = Arrays.copyOfRange(RAW, 3 * N, 4 * N);

  private static final float[] ROOM_A = Arrays.copyOfRange(RAW, 4 * N, 5 * N);
  private static final float[] ROOM_B = Arrays.copyOfRange(RAW, 5 * N, 6 * N);

  private static float[] coloured(float[] x, double pole) {
    float[] y = new float[x.length];
    double last = 0;
    for (int i = 0; i < x.length; i++) {
      last = pole * last + x[i];
      y[i] = (float) last;
    }
    return y;
  }

  private static float[] sum(float a, float[] x, int lateX, float b, float[] y, int lateY) {
    float[] sum = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      sum[i] = (i < lateX ? 0 : a * x[i - lateX]) + (i < lateY ? 0 : b * y[i - lateY]);
    }
    return sum;
  }

  /** Energies of an estimate of the first source, over all channels. */
  private static double[] add(BssEval eval, BssEval.Form form, Audio estimate) {
    double[] e = new double[7];
    eval.split(
        List.of(new BssEval.Judged(estimate, 0)),
        (of, judged, block) -> {
          for (int i = 0; of == form && i < block.length(); i++) {
            double v = block.estimate()[i];
            double t = block.target()[i];
            double all = block.all()[i];
            double w = form == BssEval.Form.IMAGES ? block.wanted()[i] : t;
            e[0] += w * w;
            e[1] += (v - w) * (v - w);
            e[2] += (t - w) * (t - w);
            e[3] += t * t;
            e[4] += (all - t) * (all - t);
            e[5] += all * all;
            e[6] += (v - all) * (v - all);
          }
        });
    return e;
  }

  private static BssEval sources(Audio... sources) {
    return new BssEval(List.of(sources), BssEval.Form.SOURCES);
  }

  private static BssEval images(Audio... sources) {
    return new BssEval(List.of(sources), BssEval.Form.IMAGES);
  }

  @Test
  void sourcesAgreeWithMirEval() {
    float[] estimate = sum(1, sum(0.8f, A, 0, 0.2f, B, 3), 0, 0.1f, C, 0);
    BssEval eval = sources(Audio.of(8000, A), Audio.of(8000, B));
    double[] e = add(eval, SOURCES, Audio.of(8000, estimate));
    JsonNode expected = OUTSIDE.path("sources");
    assertThat(Db.ofPower(e[0] / e[1])).isCloseTo(expected.path("sdr").asDouble(), within(0.01));
    assertThat(Db.ofPower(e[3] / e[4])).isCloseTo(expected.path("sir").asDouble(), within(0.01));
    assertThat(Db.ofPower(e[5] / e[6])).isCloseTo(expected.path("sar").asDouble(), within(0.01));
  }

  @Test
  void imagesAgreeWithMirEval() {
    float[] right = sum(0.6f, A, 2, 0.2f, ROOM_A, 0);
    float[] leftB = sum(0.3f, B, 0, 0.2f, ROOM_B, 0);
    Audio imageA = Audio.of(8000, A, right);
    Audio imageB = Audio.of(8000, leftB, B);
    Audio estimate =
        Audio.of(
            8000,
            sum(1, sum(0.9f, A, 0, 0.1f, leftB, 4), 0, 0.05f, C, 0),
            sum(1, sum(0.8f, right, 1, 0.15f, B, 0), 0, 0.05f, D, 0));
    BssEval eval = images(imageA, imageB);
    double[] e = add(eval, IMAGES, estimate);
    JsonNode expected = OUTSIDE.path("images");
    assertThat(Db.ofPower(e[0] / e[1])).isCloseTo(expected.path("sdr").asDouble(), within(0.01));
    assertThat(Db.ofPower(e[0] / e[2])).isCloseTo(expected.path("isr").asDouble(), within(0.01));
    assertThat(Db.ofPower(e[3] / e[4])).isCloseTo(expected.path("sir").asDouble(), within(0.01));
    assertThat(Db.ofPower(e[5] / e[6])).isCloseTo(expected.path("sar").asDouble(), within(0.01));
  }

  /** Channels at different levels and places, one source panned, one the same on both sides. */
  @Test
  void downmixesAreSplitBesideImagesAsTheyAreAlone() {
    Audio panned = Audio.of(8000, A, sum(0.4f, A, 0, 0, A, 0));
    Audio wide = Audio.of(8000, sum(0.3f, B, 0, 0.2f, ROOM_B, 0), B);
    Audio middle = Audio.of(8000, ROOM_A, ROOM_A);
    List<Audio> sources = List.of(panned, wide, middle);
    Audio estimate =
        Audio.of(
            8000,
            sum(1, sum(0.9f, A, 0, 0.1f, B, 4), 0, 0.05f, C, 0),
            sum(1, sum(0.3f, A, 1, 0.15f, ROOM_A, 0), 0, 0.05f, D, 0));
    BssEval both = new BssEval(sources, BssEval.Form.values());
    List<Audio> downmixes = sources.stream().map(Audio::downmix).toList();
    double[] alone = add(new BssEval(downmixes, SOURCES), SOURCES, estimate.downmix());
    double[] images = add(new BssEval(sources, IMAGES), IMAGES, estimate);
    double[] beside = add(both, SOURCES, estimate);
    for (int i = 0; i < alone.length; i++) {
      assertThat(beside[i]).isCloseTo(alone[i], within(1e-4 * alone[i]));
    }
    assertThat(add(both, IMAGES, estimate)).isEqualTo(images);
  }

  @Test
  void channelsThatCancelAreSilentInTheDownmixOnly() {
    Audio against = Audio.of(8000, A, sum(-1, A, 0, 0, A, 0));
    BssEval eval = new BssEval(List.of(against, Audio.of(8000, B, C)), BssEval.Form.values());
    assertThat(eval.silent(SOURCES, 0)).isTrue();
    assertThat(eval.silent(IMAGES, 0)).isFalse();
    double[] e = add(eval, IMAGES, against);
    assertThat(Db.ofPower(e[0] / e[1])).isGreaterThan(60);
  }

  @Test
  void filteringTheWantedSourceIsForgiven() {
    // Silent at its end, so that nothing of the filtered copy is cut off.
    float[] quietEnd = Arrays.copyOf(Arrays.copyOf(A, N - 600), N);
    Audio wanted = Audio.of(8000, quietEnd);
    BssEval eval = sources(wanted, Audio.of(8000, B));
    double[] e = add(eval, SOURCES, Audio.of(8000, sum(0.5f, quietEnd, 40, -0.3f, quietEnd, 300)));
    assertThat(Db.ofPower(e[0] / e[1])).isGreaterThan(60);
  }

  @Test
  void aMonoRecordingInStereoIsNoObstacle() {
    Audio twice = Audio.of(8000, A, A);
    Audio other = Audio.of(8000, B, B);
    BssEval eval = images(twice, other);
    float[] mixed = sum(1, A, 0, 0.1f, B, 0);
    double[] e = add(eval, IMAGES, Audio.of(8000, mixed, mixed));
    double expected = Db.ofPower(Math.pow(Sounds.rms(A), 2) / Math.pow(0.1 * Sounds.rms(B), 2));
    assertThat(Db.ofPower(e[3] / e[4])).isCloseTo(expected, within(0.6));
    assertThat(Db.ofPower(e[5] / e[6])).isGreaterThan(60);
  }

  @Test
  void silentSourcesAreLeftOutAndASilentWantedOneIsRefused() {
    Audio silent = Audio.of(8000, new float[N]);
    BssEval eval = sources(Audio.of(8000, A), silent);
    double[] e = add(eval, SOURCES, Audio.of(8000, sum(1, A, 0, 0.1f, C, 0)));
    assertThat(e[4]).isZero();
    BssEval last = sources(silent, Audio.of(8000, A));
    assertThat(last.silent(SOURCES, 0)).isTrue();
    assertThat(add(last, SOURCES, Audio.of(8000, A))).containsOnly(0);
    assertThatThrownBy(() -> sources(Audio.of(8000, A), Audio.of(8000, new float[10])))
        .isInstanceOf(IllegalArgumentException.class);
  }

  /** Of one set of sources any may be the wanted one; what each has in an estimate is its share. */
  @Test
  void anySourceCanBeTheWantedOneAndEachHasItsShare() {
    Audio a = Audio.of(8000, A);
    Audio b = Audio.of(8000, B);
    Audio ofA = Audio.of(8000, sum(0.8f, A, 0, 0.2f, B, 3));
    Audio ofB = Audio.of(8000, sum(1, sum(0.1f, A, 0, 0.9f, B, 3), 0, 0.1f, C, 0));
    double[] alone = add(sources(b, a), SOURCES, ofB);
    double[] target = new double[2];
    double[] interference = new double[2];
    double[][] shares =
        sources(a, b)
            .split(
                List.of(new BssEval.Judged(ofA, 0), new BssEval.Judged(ofB, 1)),
                (form, judged, block) -> {
                  for (int i = 0; i < block.length(); i++) {
                    double t = block.target()[i];
                    target[judged] += t * t;
                    interference[judged] += Math.pow(block.all()[i] - t, 2);
                  }
                })
            .get(SOURCES);
    assertThat(Db.ofPower(target[1] / interference[1]))
        .isCloseTo(Db.ofPower(alone[3] / alone[4]), within(1e-6));
    double energyA = Math.pow(Sounds.rms(A), 2) * N;
    double energyB = Math.pow(Sounds.rms(B), 2) * N;
    assertThat(shares[0][0]).isCloseTo(0.64 * energyA, within(0.02 * energyA));
    assertThat(shares[0][1]).isCloseTo(0.04 * energyB, within(0.003 * energyB));
    // Chance finds some of the noise, too: 512 taps explain about 512 of 6,000 of it.
    assertThat(shares[1][0]).isCloseTo(0.01 * energyA, within(0.01 * energyA));
  }
}
