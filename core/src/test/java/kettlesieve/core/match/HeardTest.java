package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import org.junit.jupiter.api.Test;

/** What of a version lies between two moments of its source. */
class HeardTest {
  private static final int RATE = 1000;

  private static Audio ramp() {
    float[] x = new float[4 * RATE];
    for (int i = 0; i < x.length; i++) {
      x[i] = i;
    }
    return Audio.of(RATE, x);
  }

  @Test
  void aPieceBeginsAndEndsWhereTheMapPutsIt() {
    Heard longer = new Heard(ramp(), TimeMap.line(0.25, 1.5), Map.of());
    Audio piece = longer.between(1, 2);
    assertThat(piece.frames()).isEqualTo(1500);
    assertThat(piece.samples(0, 0, 1)[0]).isEqualTo(1750f);
  }

  @Test
  void whatLiesOutsideIsCutOffAndSomethingIsAlwaysLeft() {
    Heard own = new Heard(ramp(), TimeMap.IDENTITY, Map.of("drums", ramp()));
    assertThat(own.between(3, 9).frames()).isEqualTo(RATE);
    assertThat(own.between(2, 2).frames()).isEqualTo(1);
    assertThat(own.between("drums", 1, 2).samples(0, 0, 1)[0]).isEqualTo(1000f);
    assertThat(own.between("bass", 1, 2)).isNull();
  }
}
