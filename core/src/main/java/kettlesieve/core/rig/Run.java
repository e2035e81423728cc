package kettlesieve.core.rig;

import java.nio.file.Path;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.Version;

/**
 * How a run went.
 *
 * @param order what was to be done
 * @param outcome how it ended
 * @param problem what went wrong and what would mend it; null if nothing did
 * @param seconds time by the clock
 * @param processorSeconds processor time over all cores; null where the system does not tell
 * @param memoryBytes the most memory that an outside tool's processes held at once; null where the
 *     system does not tell, or it ended too soon to be asked
 * @param files the results by role; empty unless it is done
 * @param messages the last lines the tool wrote
 */
public record Run(
    Order order,
    Outcome outcome,
    String problem,
    double seconds,
    Double processorSeconds,
    Long memoryBytes,
    Map<String, Path> files,
    List<String> messages) {
  /** Where memory was not asked for. */
  Run(
      Order order,
      Outcome outcome,
      String problem,
      double seconds,
      Double processorSeconds,
      Map<String, Path> files,
      List<String> messages) {
    this(order, outcome, problem, seconds, processorSeconds, null, files, messages);
  }

  public Run {
    files = Collections.unmodifiableMap(new LinkedHashMap<>(files));
    messages = List.copyOf(messages);
  }

  /** How a run ends. */
  public enum Outcome {
    /** Its files are there. */
    DONE,
    /** It ended badly; nothing of it is kept. */
    FAILED,
    /** It was stopped by the person. */
    CANCELLED,
    /** It was stopped at its time limit. */
    TOO_LONG
  }

  /** The same as the answer to another order. */
  Run of(Order other) {
    return new Run(
        other, outcome, problem, seconds, processorSeconds, memoryBytes, files, messages);
  }

  /** With the processor time of a step before it; time by the clock runs on. */
  Run andBefore(Run step) {
    Double both =
        processorSeconds == null || step.processorSeconds == null
            ? null
            : (Double) (processorSeconds + step.processorSeconds);
    Long most =
        memoryBytes == null || step.memoryBytes == null
            ? null
            : (Long) Math.max(memoryBytes, step.memoryBytes);
    return new Run(order, outcome, problem, seconds, both, most, files, messages);
  }

  /** What it cost. */
  public Cost cost() {
    String price = order.tool() instanceof RigTool.Outside o ? o.tool().price() : null;
    Boolean realTime = order.tool() instanceof RigTool.Outside o ? o.tool().realTime() : null;
    return new Cost(
        rounded(seconds),
        processorSeconds == null ? null : rounded(processorSeconds),
        price,
        realTime,
        memoryBytes);
  }

  private static double rounded(double value) {
    return Math.round(value * 1000) / 1000.0;
  }

  /** The comparison with the result as a new version; empty unless the run is done. */
  public Optional<Comparison> addedTo(Comparison comparison) {
    if (outcome != Outcome.DONE) {
      return Optional.empty();
    }
    String id = comparison.freshId();
    Version version;
    Path single = files.get(StandIn.WHOLE);
    if (single != null) {
      version = Version.of(id, order.label(), MediaRef.of(single));
    } else {
      Map<String, Stem> stems = new LinkedHashMap<>();
      files.forEach((role, file) -> stems.put(role, new Stem(MediaRef.of(file), order.origin())));
      version = Version.ofStems(id, order.label(), stems);
    }
    Double amount = order.tool().hasAmount() ? (Double) order.setup().amount() : null;
    return Optional.of(
        comparison.plus(
            version
                .withTool(order.tool().title())
                .withAmount(amount)
                .withCost(cost())
                .withBack(order.setup().back())
                .withRatio(own(comparison, Job.STRETCH) ? (Double) order.setup().ratio() : null)
                .withSemitones(
                    own(comparison, Job.PITCH) ? (Double) order.setup().semitones() : null)));
  }

  private boolean own(Comparison comparison, Job job) {
    return order.setup().own() && comparison.job() == job;
  }

  /** A run that did not succeed. */
  static Run failed(Order order, Elapsed begun, String problem, List<String> messages) {
    return new Run(order, Outcome.FAILED, problem, begun.seconds(), null, Map.of(), messages);
  }
}
