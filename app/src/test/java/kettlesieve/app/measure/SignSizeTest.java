package kettlesieve.app.measure;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.score.TradeOff;
import org.junit.jupiter.api.Test;

/** Signs can only be sized by what somebody has noted or measured. */
class SignSizeTest {
  private static TradeOff of(Cost... costs) {
    List<TradeOff.Point> points = java.util.Arrays.stream(costs).map(SignSizeTest::point).toList();
    return new TradeOff(points, Map.of(), Map.of());
  }

  private static TradeOff.Point point(Cost cost) {
    Estimate even = Estimate.sure(50);
    return new TradeOff.Point("v", "V", even, even, even, cost, false);
  }

  @Test
  void onlyWhatIsKnownCanBeChosen() {
    assertThat(SignSize.known(of(Cost.NONE, Cost.NONE))).containsExactly(SignSize.ALIKE);
    assertThat(SignSize.known(of(Cost.NONE, new Cost(2.0, null, "12 €", true))))
        .containsExactly(SignSize.ALIKE, SignSize.TIME);
    Cost all = new Cost(2.0, 3.5, null, null, 4096L);
    assertThat(SignSize.known(of(all))).containsExactly(SignSize.values());
    assertThat(SignSize.ALIKE.of(all)).isNull();
    assertThat(SignSize.TIME.of(all)).isEqualTo(2.0);
    assertThat(SignSize.PROCESSOR.of(all)).isEqualTo(3.5);
    assertThat(SignSize.MEMORY.of(all)).isEqualTo(4096.0);
  }
}
