package kettlesieve.app.shared;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.app.model.Numbers;
import kettlesieve.core.comparison.Cost;

/** What making a version took, in words. */
public final class Costs {
  private Costs() {}

  /** Time, price and mode as far as they are known; empty for nothing. */
  public static String words(Cost cost) {
    List<String> parts = new ArrayList<>();
    if (cost.seconds() != null) {
      parts.add(seconds(cost.seconds()));
    }
    if (cost.processorSeconds() != null) {
      parts.add("processor " + seconds(cost.processorSeconds()));
    }
    if (cost.price() != null) {
      parts.add(cost.price());
    }
    if (cost.realTime() != null) {
      parts.add(cost.realTime() ? "real time" : "offline");
    }
    return String.join(", ", parts);
  }

  private static String seconds(double value) {
    return value >= 120
        ? Numbers.fixed(value / 60, 1) + " min"
        : Numbers.fixed(value, value < 10 ? 1 : 0) + " s";
  }
}
