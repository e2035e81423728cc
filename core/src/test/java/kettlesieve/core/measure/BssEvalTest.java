package kettlesieve.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.Outside;
import kettlesieve.core.Sounds;
import kettlesieve.core.measure.reference.BssEval;
import kettlesieve.core.signal.Audio;
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

  /** Ratios of one channel: sdr, isr, sir, sar; {@code wanted} null for the sources form. */
  private static double[] add(BssEval eval, Audio estimate, int channel, float[] wanted) {
    double[] e = new double[7];
    eval.split(
        List.of(new BssEval.Judged(estimate, channel, 0)),
        (judged, from, v, target, all, length) -> {
          for (int i = 0; i < length; i++) {
            int at = (int) from + i;
            double w = wanted == null ? target[i] : at < wanted.length ? wanted[at] : 0;
            e[0] += w * w;
            e[1] += (v[i] - w) * (v[i] - w);
            e[2] += (target[i] - w) * (target[i] - w);
            e[3] += (double) target[i] * target[i];
            e[4] += ((double) all[i] - target[i]) * ((double) all[i] - target[i]);
            e[5] += (double) all[i] * all[i];
            e[6] += ((double) v[i] - all[i]) * ((double) v[i] - all[i]);
          }
        });
    return e;
  }

  @Test
  void sourcesAgreeWithMirEval() {
    float[] estimate = sum(1, sum(0.8f, A, 0, 0.2f, B, 3), 0, 0.1f, C, 0);
    BssEval eval = BssEval.ofSources(List.of(Audio.of(8000, A), Audio.of(8000, B)));
    double[] e = add(eval, Audio.of(8000, estimate), 0, null);
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
    BssEval eval = BssEval.ofImages(List.of(imageA, imageB));
    double[] e = add(eval, estimate, 0, A);
    double[] second = add(eval, estimate, 1, right);
    for (int i = 0; i < e.length; i++) {
      e[i] += second[i];
    }
    JsonNode expected = OUTSIDE.path("images");
    assertThat(Db.ofPower(e[0] / e[1])).isCloseTo(expected.path("sdr").asDouble(), within(0.01));
    assertThat(Db.ofPower(e[0] / e[2])).isCloseTo(expected.path("isr").asDouble(), within(0.01));
    assertThat(Db.ofPower(e[3] / e[4])).isCloseTo(expected.path("sir").asDouble(), within(0.01));
    assertThat(Db.ofPower(e[5] / e[6])).isCloseTo(expected.path("sar").asDouble(), within(0.01));
  }

  @Test
  void filteringTheWantedSourceIsForgiven() {
    // Silent at its end, so that nothing of the filtered copy is cut off.
    float[] quietEnd = Arrays.copyOf(Arrays.copyOf(A, N - 600), N);
    Audio wanted = Audio.of(8000, quietEnd);
    BssEval eval = BssEval.ofSources(List.of(wanted, Audio.of(8000, B)));
    double[] e = add(eval, Audio.of(8000, sum(0.5f, quietEnd, 40, -0.3f, quietEnd, 300)), 0, null);
    assertThat(Db.ofPower(e[0] / e[1])).isGreaterThan(60);
  }

  @Test
  void aMonoRecordingInStereoIsNoObstacle() {
    Audio twice = Audio.of(8000, A, A);
    Audio other = Audio.of(8000, B, B);
    BssEval eval = BssEval.ofImages(List.of(twice, other));
    float[] mixed = sum(1, A, 0, 0.1f, B, 0);
    double[] e = add(eval, Audio.of(8000, mixed, mixed), 0, A);
    double expected = Db.ofPower(Math.pow(Sounds.rms(A), 2) / Math.pow(0.1 * Sounds.rms(B), 2));
    assertThat(Db.ofPower(e[3] / e[4])).isCloseTo(expected, within(0.6));
    assertThat(Db.ofPower(e[5] / e[6])).isGreaterThan(60);
  }

  @Test
  void silentSourcesAreLeftOutAndASilentWantedOneIsRefused() {
    Audio silent = Audio.of(8000, new float[N]);
    BssEval eval = BssEval.ofSources(List.of(Audio.of(8000, A), silent));
    double[] e = add(eval, Audio.of(8000, sum(1, A, 0, 0.1f, C, 0)), 0, null);
    assertThat(e[4]).isZero();
    BssEval last = BssEval.ofSources(List.of(silent, Audio.of(8000, A)));
    assertThat(last.silent(0)).isTrue();
    assertThatThrownBy(() -> add(last, Audio.of(8000, A), 0, null))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("silent");
    assertThatThrownBy(
            () -> BssEval.ofSources(List.of(Audio.of(8000, A), Audio.of(8000, new float[10]))))
        .isInstanceOf(IllegalArgumentException.class);
  }

  /** Of one set of sources any may be the wanted one; what each has in an estimate is its share. */
  @Test
  void anySourceCanBeTheWantedOneAndEachHasItsShare() {
    Audio a = Audio.of(8000, A);
    Audio b = Audio.of(8000, B);
    Audio ofA = Audio.of(8000, sum(0.8f, A, 0, 0.2f, B, 3));
    Audio ofB = Audio.of(8000, sum(1, sum(0.1f, A, 0, 0.9f, B, 3), 0, 0.1f, C, 0));
    double[] alone = add(BssEval.ofSources(List.of(b, a)), ofB, 0, null);
    double[] target = new double[2];
    double[] interference = new double[2];
    double[][] shares =
        BssEval.ofSources(List.of(a, b))
            .split(
                List.of(new BssEval.Judged(ofA, 0, 0), new BssEval.Judged(ofB, 0, 1)),
                (judged, from, v, t, all, length) -> {
                  for (int i = 0; i < length; i++) {
                    target[judged] += (double) t[i] * t[i];
                    interference[judged] += Math.pow((double) all[i] - t[i], 2);
                  }
                });
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
