package kettlesieve.core.measure.pass;

import kettlesieve.core.ground.Ground;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;

/**
 * A kind of {@link Gatherer}, found as a service: a {@link CellPass} asks each whether it is wanted
 * and knows none of them by name.
 */
public interface Gathering {
  /** What it begins. */
  Class<? extends Gatherer> gives();

  /** Whether a pass over this pair and ground is to feed it. */
  boolean wanted(Pair pair, Ground ground);

  /**
   * A gatherer that has seen nothing yet.
   *
   * @throws NotMeasurableException with the reason in plain words
   */
  Gatherer begin(Pair pair) throws NotMeasurableException;
}
