package kettlesieve.core.measure;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;
import java.util.concurrent.CancellationException;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Stop;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** All measures that are on the class path. */
public final class Measures {
  /** Why there is no reading where a measure failed by a fault of its own. */
  public static final String BROKE_DOWN = "this measure broke down; the log says more";

  private static final Logger LOG = LoggerFactory.getLogger(Measures.class);
  private static final List<Measure> ALL =
      ServiceLoader.load(Measure.class).stream().map(ServiceLoader.Provider::get).toList();
  private static final Map<String, Declaration> BY_ID = byId();

  private Measures() {}

  private static Map<String, Declaration> byId() {
    Map<String, Declaration> byId = new HashMap<>();
    for (Measure measure : ALL) {
      Declaration declaration = measure.declaration();
      if (byId.put(declaration.id(), declaration) != null) {
        throw new IllegalStateException("two measures are called " + declaration.id());
      }
    }
    return byId;
  }

  /** All of them, in no particular order. */
  public static List<Measure> all() {
    return ALL;
  }

  /** The measures of a job, in no particular order. */
  public static List<Measure> of(Job job) {
    return ALL.stream().filter(m -> m.declaration().jobs().contains(job)).toList();
  }

  /** What a measure declares; null if it is not known here. */
  public static Declaration declaration(String id) {
    return BY_ID.get(id);
  }

  /**
   * The unit that a measure's scale is in.
   *
   * @throws IllegalArgumentException if the measure is not known here
   */
  public static String scoredUnit(String id) {
    return ALL.stream()
        .filter(m -> m.declaration().id().equals(id))
        .findFirst()
        .orElseThrow(() -> new IllegalArgumentException("no measure is called " + id))
        .scoredUnit();
  }

  /** Takes all readings of a job. */
  public static Readings take(Job job, Subject subject) {
    return take(of(job), subject, Stop.NEVER);
  }

  /**
   * Takes some readings. A measure that breaks down is reported as not measured, and the others go
   * on; every one of them gives a reading or a reason.
   *
   * @param stop asked before each measure; see {@link Stop}
   */
  public static Readings take(List<Measure> measures, Subject subject, Stop stop) {
    return take(measures, subject, "", stop);
  }

  /**
   * The same of one stem.
   *
   * @param role the stem that is judged; empty for all of it
   */
  public static Readings take(List<Measure> measures, Subject subject, String role, Stop stop) {
    List<Reading> readings = new ArrayList<>();
    List<NotMeasured> missing = new ArrayList<>();
    for (Measure measure : measures) {
      stop.check();
      Declaration declaration = measure.declaration();
      try {
        if (declaration.needsReference() && !subject.hasReference()) {
          throw new NotMeasurableException("no reference");
        }
        Reading reading = reading(measure, subject, role);
        if (!reading.figure().finite()) {
          throw new NotMeasurableException("there is too little to measure here");
        }
        readings.add(reading);
      } catch (NotMeasurableException e) {
        missing.add(new NotMeasured(declaration.id(), e.getMessage()));
      } catch (CancellationException e) {
        throw e;
      } catch (RuntimeException e) {
        LOG.error("measure {} broke down", declaration.id(), e);
        missing.add(new NotMeasured(declaration.id(), BROKE_DOWN));
      }
    }
    return new Readings(readings, missing);
  }

  /** The one place where kinds of measures meet kinds of subjects. */
  private static Reading reading(Measure measure, Subject subject, String role)
      throws NotMeasurableException {
    if (subject instanceof Pair pair && measure instanceof PairMeasure m) {
      return m.measure(pair).varied(m.variation(pair.job()));
    }
    if (subject instanceof StemSet set && measure instanceof SetMeasure m) {
      return m.measure(set, role);
    }
    if (subject instanceof StretchedPair warp && measure instanceof StretchMeasure m) {
      return m.measure(warp);
    }
    throw new NotMeasurableException(
        "it is declared for this job, but cannot be taken of " + subject.words());
  }
}
