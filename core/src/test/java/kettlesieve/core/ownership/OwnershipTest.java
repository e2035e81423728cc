package kettlesieve.core.ownership;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.ground.CellMask;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/** A hum below 1 kHz and a hiss above 2 kHz: whose a cell is can be told by its frequency. */
class OwnershipTest {
  private static final int RATE = 16_000;
  private static final int LENGTH = 6 * RATE;
  private static final Map<String, Audio> TRUE = new LinkedHashMap<>();
  private static final PreparedExcerpt MIX;

  static {
    float[] hum = new float[LENGTH];
    float[] hiss = new float[LENGTH];
    SplittableRandom random = new SplittableRandom(5);
    for (int i = 0; i < LENGTH; i++) {
      for (int h = 1; h <= 8; h++) {
        hum[i] += (float) (0.05 * Math.sin(2 * Math.PI * 110 * h * i / RATE));
      }
      for (int tone = 0; tone < 16; tone++) {
        hiss[i] += (float) (0.02 * Math.sin(2 * Math.PI * (2100 + 353.7 * tone) * i / RATE + tone));
      }
      hum[i] += (float) (1e-4 * random.nextGaussian());
    }
    TRUE.put("hum", Audio.of(RATE, hum));
    TRUE.put("hiss", Audio.of(RATE, hiss));
    float[] mix = new float[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      mix[i] = hum[i] + hiss[i];
    }
    try {
      MIX =
          PreparedExcerpt.of(
              Audio.of(RATE, mix),
              null,
              null,
              null,
              new MatchSettings(Job.STEMS, LevelMode.WANTED, null, null));
    } catch (Exception e) {
      throw new AssertionError(e);
    }
  }

  private static MatchedStems stems(Map<String, Audio> given) throws Exception {
    return MIX.matchStems(given, MatchOverride.NONE, null, Stop.NEVER);
  }

  private static Map<String, Audio> swapped() {
    return Map.of("hum", TRUE.get("hiss"), "hiss", TRUE.get("hum"));
  }

  /** Share of a role's cells that lie under 1.5 kHz. */
  private static double low(CellMask mask, SourceMaterial mix) {
    int border = mix.framing().binAtOrAbove(1500);
    int below = 0;
    int all = 0;
    for (int t = 0; t < mix.framing().count(); t++) {
      for (int k = mask.next(t, 1); k >= 0; k = mask.next(t, k + 1)) {
        all++;
        below += k < border ? 1 : 0;
      }
    }
    assertThat(all).isPositive();
    return (double) below / all;
  }

  private static Map<String, RoleCells> told(
      Map<String, MatchedStems> versions, Map<String, Audio> truth) {
    return Ownership.of(MIX.source(), versions, truth, Stop.NEVER).told(Map.of());
  }

  @Test
  void trueStemsTellWhatever() throws Exception {
    RoleCells cells = told(Map.of("a", stems(swapped())), TRUE).get("a");
    assertThat(cells.by()).isEqualTo(RoleCells.By.TRUE_STEMS);
    assertThat(low(cells.cells("hum"), MIX.source())).isGreaterThan(0.98);
    assertThat(low(cells.cells("hiss"), MIX.source())).isLessThan(0.02);
  }

  /** The judged version is never its own judge as long as there is another. */
  @Test
  void theOthersTellAndNotTheJudgedOne() throws Exception {
    Map<String, MatchedStems> versions = new LinkedHashMap<>();
    versions.put("right", stems(TRUE));
    versions.put("again", stems(TRUE));
    versions.put("swapped", stems(swapped()));
    RoleCells cells = told(versions, Map.of()).get("swapped");
    assertThat(cells.by()).isEqualTo(RoleCells.By.OTHERS);
    assertThat(low(cells.cells("hum"), MIX.source())).isGreaterThan(0.98);
  }

  @Test
  void aloneItsOwnStemsTell() throws Exception {
    RoleCells cells = told(Map.of("a", stems(swapped())), Map.of()).get("a");
    assertThat(cells.by()).isEqualTo(RoleCells.By.OWN_STEMS);
    assertThat(low(cells.cells("hum"), MIX.source())).isLessThan(0.02);
  }
}
