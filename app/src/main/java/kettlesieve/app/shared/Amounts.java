package kettlesieve.app.shared;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Amounts of a tool as they are typed: numbers from 0 to 100 with commas or spaces between. */
public final class Amounts {
  /** What is said of anything else. */
  public static final String WISH = "Amounts are numbers from 0 to 100, such as 30, 60, 90.";

  private Amounts() {}

  /** The numbers, one or more; empty where that is not what stands there. */
  public static Optional<List<Double>> of(String text) {
    List<Double> list = new ArrayList<>();
    for (String part : text.trim().split("[,;\\s]+")) {
      try {
        double amount = Double.parseDouble(part);
        if (!(amount >= 0 && amount <= 100)) {
          return Optional.empty();
        }
        list.add(amount);
      } catch (NumberFormatException e) {
        return Optional.empty();
      }
    }
    return Optional.of(list);
  }
}
