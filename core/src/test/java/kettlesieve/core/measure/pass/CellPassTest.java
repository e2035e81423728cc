package kettlesieve.core.measure.pass;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.Scene;
import kettlesieve.core.measure.room.RangeGains;
import kettlesieve.core.measure.voice.WantedBands;
import kettlesieve.core.measure.voice.WantedBins;
import org.junit.jupiter.api.Test;

class CellPassTest {
  private static float[] half(float[] x) {
    float[] y = x.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] *= 0.5f;
    }
    return y;
  }

  /** One walk for all: whoever asks twice gets what was gathered, of the same cells. */
  @Test
  void isWalkedOnceForAllWhoAsk() throws Exception {
    Pair pair = Scene.pair(Scene.NOISY);
    CellPass pass = pair.shared(CellPass.OF);
    assertThat(pair.shared(CellPass.OF)).isSameAs(pass);
    assertThat(pair.shared(CellPass.OF_PAUSES)).isSameAs(pass);
    assertThat(pass.get(WantedBins.class)).isSameAs(pair.shared(WantedBins.OF));
  }

  /** What one gatherer has of a bin another has of its band: they saw the same cells. */
  @Test
  void allSeeTheSameCells() throws Exception {
    Pair pair = Scene.pair(half(Scene.NOISY));
    CellPass pass = pair.shared(CellPass.OF);
    WantedBins bins = pass.get(WantedBins.class);
    WantedBands bands = pass.get(WantedBands.class);
    for (int b = 4; b < pair.bands().count(); b++) {
      double byBin = 0;
      for (int k = pair.bands().firstBin(b); k < pair.bands().endBin(b); k++) {
        for (int block = 0; block < pair.timeline().blocks(); block++) {
          byBin += bins.version(block, k);
        }
      }
      double byFrame = 0;
      for (int t = 0; t < pair.timeline().frames(); t++) {
        byFrame += bands.version(t, b);
      }
      if (byFrame > 0) {
        assertThat(byBin / byFrame).isCloseTo(1, within(1e-3));
      }
    }
  }

  /** What a job has no use for is not gathered, and asking for it is a mistake. */
  @Test
  void gathersWhatItsJobWants() throws Exception {
    CellPass pass = Scene.pair(Scene.NOISY).shared(CellPass.OF);
    assertThatThrownBy(() -> pass.get(RangeGains.class))
        .isInstanceOf(IllegalStateException.class)
        .hasMessageContaining("RangeGains");
  }
}
