package kettlesieve.core.signal;

/**
 * Where long work asks whether it is still wanted. Work asks often; what a newer request has made
 * useless ends with a {@link java.util.concurrent.CancellationException}.
 */
@FunctionalInterface
public interface Stop {
  /** Work that is always wanted. */
  Stop NEVER = () -> {};

  /**
   * Goes on, or ends the work.
   *
   * @throws java.util.concurrent.CancellationException if the work is no longer wanted
   */
  void check();
}
