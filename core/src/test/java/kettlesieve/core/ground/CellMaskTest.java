package kettlesieve.core.ground;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class CellMaskTest {
  @Test
  void goingFromOneToTheNextMeetsEveryCellOfTheSetAndNoOther() {
    int bins = 1_025;
    SplittableRandom random = new SplittableRandom(9);
    for (double share : new double[] {0, 0.001, 0.02, 0.5, 1}) {
      CellMask mask = new CellMask(3, bins);
      for (int k = 0; k < bins; k++) {
        if (random.nextDouble() < share) {
          mask.set(1, k);
        }
      }
      int next = mask.next(1, 0);
      for (int k = 0; k < bins; k++) {
        if (mask.has(1, k)) {
          assertThat(next).isEqualTo(k);
          next = mask.next(1, k + 1);
        }
        if (k % 61 == 0) {
          int from = k;
          int expected = k;
          while (expected < bins && !mask.has(1, expected)) {
            expected++;
          }
          assertThat(mask.next(1, from)).isEqualTo(expected == bins ? -1 : expected);
        }
      }
      assertThat(next).isEqualTo(-1);
      assertThat(mask.next(0, 0)).isEqualTo(-1);
      assertThat(mask.next(1, bins)).isEqualTo(-1);
    }
  }
}
