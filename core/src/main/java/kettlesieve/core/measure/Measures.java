package kettlesieve.core.measure;

import java.util.ArrayList;
import java.util.List;
import java.util.ServiceLoader;
import kettlesieve.core.comparison.Job;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** All measures that are on the class path, in the order in which they are shown. */
public final class Measures {
  private static final Logger LOG = LoggerFactory.getLogger(Measures.class);
  private static final List<Measure> ALL =
      ServiceLoader.load(Measure.class).stream().map(ServiceLoader.Provider::get).toList();

  private Measures() {}

  /** The measures of a job. */
  public static List<Measure> of(Job job) {
    return ALL.stream().filter(m -> m.declaration().jobs().contains(job)).toList();
  }

  /** What all measures declare. */
  public static List<Declaration> declarations() {
    return ALL.stream().map(Measure::declaration).toList();
  }

  /** What a measure declares; null if it is not known here. */
  public static Declaration declaration(String id) {
    return declarations().stream().filter(d -> d.id().equals(id)).findFirst().orElse(null);
  }

  /** The readings of a version, and what could not be read. */
  public record Taken(List<Reading> readings, List<NotMeasured> notMeasured) {
    public Taken {
      readings = List.copyOf(readings);
      notMeasured = List.copyOf(notMeasured);
    }
  }

  /**
   * Takes all readings of a job. A measure that breaks down is reported as not measured, and the
   * others go on.
   */
  public static Taken take(Job job, Pair pair) {
    List<Reading> readings = new ArrayList<>();
    List<NotMeasured> missing = new ArrayList<>();
    for (Measure measure : of(job)) {
      Declaration declaration = measure.declaration();
      if (declaration.needsReference() && pair.reference().isEmpty()) {
        missing.add(new NotMeasured(declaration.id(), "no reference"));
        continue;
      }
      try {
        Reading reading = measure.measure(pair);
        if (Double.isFinite(reading.value())) {
          readings.add(reading);
        } else {
          missing.add(new NotMeasured(declaration.id(), "there is too little to measure here"));
        }
      } catch (NotMeasurableException e) {
        missing.add(new NotMeasured(declaration.id(), e.getMessage()));
      } catch (RuntimeException e) {
        if (e instanceof java.util.concurrent.CancellationException) {
          throw e;
        }
        LOG.error("measure {} broke down", declaration.id(), e);
        missing.add(
            new NotMeasured(declaration.id(), "this measure broke down; the log says more"));
      }
    }
    return new Taken(readings, missing);
  }
}
