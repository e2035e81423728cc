package kettlesieve.app.shared;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.app.model.Numbers;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.report.RoundupWords;
import kettlesieve.core.roundup.RoundupCost;

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
    if (cost.memoryBytes() != null) {
      parts.add(Math.max(1, Math.round(cost.memoryBytes() / 1048576.0)) + " MiB");
    }
    if (cost.price() != null) {
      parts.add(cost.price());
    }
    if (cost.realTime() != null) {
      parts.add(cost.realTime() ? "real time" : "offline");
    }
    return String.join(", ", parts);
  }

  /**
   * The same with what it is over the audio's length, and how many at once this machine carries.
   *
   * @param seconds length of the source; 0 if it is not known
   */
  public static String words(Cost cost, double seconds) {
    RoundupCost over = RoundupCost.of(cost, seconds);
    if (Double.isNaN(over.timeRatio()) && Double.isNaN(over.processorRatio())) {
      return words(cost);
    }
    String own = cost.seconds() == null ? "" : seconds(cost.seconds()) + ", ";
    return own + RoundupWords.cost(over, Runtime.getRuntime().availableProcessors());
  }

  private static String seconds(double value) {
    return value >= 120
        ? Numbers.fixed(value / 60, 1) + " min"
        : Numbers.fixed(value, value < 10 ? 1 : 0) + " s";
  }
}
