package kettlesieve.calibrate.truth;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/** The split of a version into speech, noise and artifacts, where each is known. */
class DecompositionTest {
  private static final int RATE = 16_000;

  private static float[] noise(long seed, double factor) {
    SplittableRandom random = new SplittableRandom(seed);
    float[] x = new float[3 * RATE];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (factor * random.nextGaussian());
    }
    return x;
  }

  private static float[] sum(float[] a, double times, float[] b) {
    float[] y = a.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] += (float) (times * b[i]);
    }
    return y;
  }

  @Test
  void noiseThatIsLeftIsReadInDecibels() {
    float[] clean = noise(1, 0.1);
    float[] added = noise(2, 0.03);
    for (double db : new double[] {0, -10, -20}) {
      Decomposition d =
          Decomposition.of(clean, added, sum(clean, Math.pow(10, db / 20), added), RATE);
      assertThat(d.noiseLeft()).isCloseTo(db, within(0.01));
      assertThat(d.wantedDistortion()).isGreaterThan(34.9);
      assertThat(d.artifacts()).isLessThan(-60);
    }
  }

  @Test
  void speechThatIsTurnedDownIsDistortion() {
    float[] clean = noise(1, 0.1);
    float[] added = noise(2, 0.03);
    float[] quieter = sum(new float[clean.length], 0.9, clean);
    Decomposition d = Decomposition.of(clean, added, sum(quieter, 1, added), RATE);
    // |1 − 0.9|² is 20 dB under the speech.
    assertThat(d.wantedDistortion()).isCloseTo(20, within(0.05));
    assertThat(d.noiseLeft()).isCloseTo(0, within(0.01));
  }

  @Test
  void whatIsNeitherIsAnArtifact() {
    float[] clean = noise(1, 0.1);
    float[] added = noise(2, 0.03);
    Decomposition d = Decomposition.of(clean, added, sum(clean, 1, noise(3, 0.01)), RATE);
    // A twelfth of it fits into the tiles by chance.
    assertThat(d.artifacts()).isBetween(-22.0, -19.5);
  }

  @Test
  void theSegmentalRatioIsHeldBetweenItsEnds() {
    float[] clean = noise(1, 0.1);
    assertThat(FrequencyWeightedSnr.of(clean, clean, RATE)).isCloseTo(35, within(1e-9));
    assertThat(FrequencyWeightedSnr.of(clean, new float[clean.length], RATE))
        .isCloseTo(0, within(0.01));
    float[] much = sum(new float[clean.length], 20, clean);
    assertThat(FrequencyWeightedSnr.of(clean, much, RATE)).isCloseTo(-10, within(1e-9));
  }
}
