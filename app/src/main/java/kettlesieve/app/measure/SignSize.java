package kettlesieve.app.measure;

import java.util.Arrays;
import java.util.List;
import java.util.function.Function;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.score.TradeOff;

/** What the size of a sign stands for. */
enum SignSize {
  ALIKE("Signs of one size", c -> null),
  TIME("Size: time it took", Cost::seconds),
  PROCESSOR("Size: processor time", Cost::processorSeconds),
  MEMORY("Size: peak memory", c -> c.memoryBytes() == null ? null : (double) c.memoryBytes());

  private final String words;
  private final Function<Cost, Double> figure;

  SignSize(String words, Function<Cost, Double> figure) {
    this.words = words;
    this.figure = figure;
  }

  String words() {
    return words;
  }

  /** The figure of what a version took; null where it is not known. */
  Double of(Cost cost) {
    return figure.apply(cost);
  }

  /** Those that are known of some version, after {@link #ALIKE}. */
  static List<SignSize> known(TradeOff tradeOff) {
    return Arrays.stream(values())
        .filter(s -> s == ALIKE || tradeOff.points().stream().anyMatch(p -> s.of(p.cost()) != null))
        .toList();
  }
}
