package kettlesieve.core.measure.pass;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.measure.Scene;
import org.junit.jupiter.api.Test;

/** Tiles of the voice, of versions that were made to have known gains. */
class PhasePassTest {
  private static VoiceTiles tiles(float[] version) throws Exception {
    return Scene.pair(version).shared(PhasePass.OF).tiles();
  }

  private static float[] all(double gain, float[] x) {
    float[] y = x.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] *= (float) gain;
    }
    return y;
  }

  /** All turned down alike is no more than another level: every tile has the usual gain. */
  @Test
  void turnedDownAsAWholeNoTileIsUnusual() throws Exception {
    VoiceTiles tiles = tiles(all(0.5, Scene.NOISY));
    assertThat(tiles.all()).hasSizeGreaterThan(100);
    for (VoiceTiles.Tile tile : tiles.all()) {
      assertThat(tiles.gain(tile)).isCloseTo(1, within(1e-3));
      assertThat(tiles.takenOff(tile)).isCloseTo(0, within(1e-3));
    }
  }

  /** First-order all-pass: y(n) = −a·x(n) + x(n−1) + a·y(n−1). */
  private static float[] allPass(float[] x, double a) {
    float[] y = new float[x.length];
    for (int i = 1; i < x.length; i++) {
      y[i] = (float) (-a * x[i] + x[i - 1] + a * y[i - 1]);
    }
    return y;
  }

  /** A constant turn of a frequency, as filters and delays make, is taken off first. */
  @Test
  void aFilterOfPhasesIsNotSeen() throws Exception {
    float[] turned = allPass(Scene.NOISY, 0.6);
    VoiceTiles tiles = tiles(turned);
    assertThat(median(tiles)).isLessThan(0.05);
  }

  /** Who takes the noise and leaves the voice has taken off all of it: about 1. */
  @Test
  void takingTheNoiseAwayIsToldFromTurningDown() throws Exception {
    VoiceTiles clean = tiles(Scene.SPEECH);
    VoiceTiles half = tiles(Scene.withNoiseTimes(0.5));
    assertThat(median(clean)).isBetween(0.6, 1.4);
    assertThat(median(half)).isBetween(0.12, 0.42);
    assertThat(clean.share()).isLessThan(0.2);
    assertThat(tiles(all(0.3, Scene.NOISY)).share()).isGreaterThan(0.8);
  }

  private static double median(VoiceTiles tiles) {
    return tiles.all().stream()
        .filter(t -> t.stands(1) && !t.stands(30))
        .mapToDouble(tiles::takenOff)
        .sorted()
        .skip(tiles.all().stream().filter(t -> t.stands(1) && !t.stands(30)).count() / 2)
        .findFirst()
        .orElseThrow();
  }
}
