package kettlesieve.core.measure.pass;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;

/** The arithmetic of a tile: S = D + N of the source, V of the version. */
class VoiceTilesTest {
  private static final double VOICE = 9;
  private static final double NOISE = 1;

  /** V = gD + aN, where D and N have nothing to do with each other. */
  private static VoiceTiles.Tile tile(double g, double a) {
    double after = g * g * VOICE + a * a * NOISE;
    double along = g * VOICE + a * NOISE;
    return new VoiceTiles.Tile(0, 0, 8, VOICE + NOISE, after, along, NOISE, NOISE);
  }

  @Test
  void theVoiceIsWhatStandsOverTheNoise() {
    assertThat(tile(1, 1).own()).isEqualTo(VOICE);
    assertThat(tile(1, 1).stands(8.9)).isTrue();
    assertThat(tile(1, 1).stands(9)).isFalse();
    assertThat(tile(1, 1).noise()).isEqualTo(NOISE);
  }

  @Test
  void theGainIsThatOfTheVoice() {
    assertThat(tile(1, 0).gain()).isCloseTo(1, within(1e-9));
    assertThat(tile(1, 1).gain()).isCloseTo(1, within(1e-9));
    assertThat(tile(0.25, 0.25).gain()).isCloseTo(0.25, within(1e-9));
  }

  /** Half-way in decibels between what the pauses have and what it rose to. */
  @Test
  void theNoiseIsBetweenItsTwoLevels() {
    assertThat(new VoiceTiles.Tile(0, 0, 8, 20, 20, 20, 4, 1).noise()).isCloseTo(2, within(1e-9));
  }
}
