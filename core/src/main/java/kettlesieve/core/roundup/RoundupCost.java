package kettlesieve.core.roundup;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.signal.Statistics;

/**
 * What a tool takes, over the recordings where that was measured.
 *
 * @param timeRatio median of time by the clock over length of the audio; NaN if not known
 * @param processorRatio median of processor seconds over seconds of audio; NaN if not known
 * @param memoryBytes the most it held at once; 0 if not known
 * @param price as the person wrote it; several differ, joined; empty if not known
 * @param realTime whether it can run while the sound plays; null if not known
 * @param runs on how many recordings a time was measured
 */
public record RoundupCost(
    double timeRatio,
    double processorRatio,
    long memoryBytes,
    String price,
    Boolean realTime,
    int runs) {
  /** What one made here took. */
  record Made(Cost cost, double seconds) {}

  static RoundupCost of(List<Made> all) {
    List<Double> times = new ArrayList<>();
    List<Double> processor = new ArrayList<>();
    Set<String> prices = new LinkedHashSet<>();
    Boolean realTime = null;
    long memory = 0;
    for (Made m : all) {
      Cost c = m.cost();
      if (m.seconds() > 0 && c.seconds() != null) {
        times.add(c.seconds() / m.seconds());
      }
      if (m.seconds() > 0 && c.processorSeconds() != null) {
        processor.add(c.processorSeconds() / m.seconds());
      }
      if (c.price() != null) {
        prices.add(c.price());
      }
      realTime = c.realTime() != null ? c.realTime() : realTime;
      memory = Math.max(memory, c.memoryBytes() == null ? 0 : c.memoryBytes());
    }
    return new RoundupCost(
        median(times),
        median(processor),
        memory,
        String.join(" / ", prices),
        realTime,
        times.size());
  }

  /** The ratios of a single version. */
  public static RoundupCost of(Cost cost, double seconds) {
    return of(List.of(new Made(cost, seconds)));
  }

  private static double median(List<Double> values) {
    return values.isEmpty()
        ? Double.NaN
        : Statistics.median(values.stream().mapToDouble(Double::doubleValue).toArray());
  }

  /**
   * How many of it a machine would carry at once in real time.
   *
   * @param cores its processors
   * @return NaN if the processor's time is not known
   */
  public double atOnce(int cores) {
    return processorRatio > 0 ? cores / processorRatio : Double.NaN;
  }

  /** Whether nothing is known. */
  public boolean none() {
    return Double.isNaN(timeRatio)
        && Double.isNaN(processorRatio)
        && memoryBytes == 0
        && price.isEmpty()
        && realTime == null;
  }
}
