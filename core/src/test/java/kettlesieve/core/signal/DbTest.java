package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class DbTest {
  @Test
  void theQuickLogarithmIsTheSlowOneWithinAHundredThousandthOfADecibel() {
    SplittableRandom random = new SplittableRandom(3);
    for (int i = 0; i < 100_000; i++) {
      float power = (float) Math.pow(10, random.nextDouble(-36, 36));
      assertThat(Db.nearlyOfPower(power)).isCloseTo(Db.ofPower(power), within(1e-5));
    }
    assertThat(Db.nearlyOfPower(1)).isZero();
    assertThat(Db.nearlyOfPower(Math.nextDown(1f))).isCloseTo(0, within(1e-5)).isNotPositive();
  }
}
