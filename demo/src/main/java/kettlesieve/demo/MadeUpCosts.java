package kettlesieve.demo;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Version;

/**
 * What the tools of a demo comparison would have cost: made up, so that plots and ranking have
 * something to show. Tools take their figures in the order in which they appear.
 */
final class MadeUpCosts {
  private static final double[] TIMES = {0.35, 1.9, 0.12, 4.2};
  private static final String[] PRICES = {"free", "39 €", "6 € a month", "free"};
  private static final boolean[] REAL_TIME = {true, false, true, false};

  private MadeUpCosts() {}

  /**
   * A comparison with costs.
   *
   * @param seconds length of its source
   */
  static Comparison in(Comparison comparison, double seconds) {
    List<String> tools = new ArrayList<>();
    Comparison c = comparison;
    for (Version v : comparison.versions()) {
      if (v.tool().isEmpty()) {
        continue;
      }
      if (!tools.contains(v.tool())) {
        tools.add(v.tool());
        int i = (tools.size() - 1) % TIMES.length;
        c = c.withCost(v.tool(), new Cost(null, null, PRICES[i], REAL_TIME[i]));
      }
      double time = TIMES[tools.indexOf(v.tool()) % TIMES.length] * seconds;
      // More of it takes a little longer.
      double amount = v.amount() == null ? 50 : v.amount();
      double made = Math.round(time * (0.9 + amount / 400) * 10) / 10.0;
      c = c.withVersion(v.withCost(Cost.NONE.withSeconds(made)));
    }
    return c;
  }
}
