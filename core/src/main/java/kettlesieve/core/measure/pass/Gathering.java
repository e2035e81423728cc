package kettlesieve.core.measure.pass;

import java.util.function.BiPredicate;
import kettlesieve.core.ground.Ground;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;

/**
 * A kind of {@link Gatherer}, found as a service: a {@link CellPass} asks each whether it is wanted
 * and knows none of them by name.
 */
public abstract class Gathering {
  /** Makes a gatherer that has seen nothing yet. */
  @FunctionalInterface
  public interface Begin {
    /**
     * A new one.
     *
     * @throws NotMeasurableException with the reason in plain words
     */
    Gatherer of(Pair pair) throws NotMeasurableException;
  }

  private final Class<? extends Gatherer> gives;
  private final BiPredicate<Pair, Ground> wanted;
  private final Begin begin;

  /**
   * @param gives what it begins
   * @param wanted whether a pass over a pair and a ground is to feed it
   * @param begin makes one
   */
  protected Gathering(
      Class<? extends Gatherer> gives, BiPredicate<Pair, Ground> wanted, Begin begin) {
    this.gives = gives;
    this.wanted = wanted;
    this.begin = begin;
  }

  /** What it begins. */
  Class<? extends Gatherer> gives() {
    return gives;
  }

  boolean wanted(Pair pair, Ground ground) {
    return wanted.test(pair, ground);
  }

  Gatherer begin(Pair pair) throws NotMeasurableException {
    return begin.of(pair);
  }
}
