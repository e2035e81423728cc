package kettlesieve.core.task;

/**
 * Where long work asks whether it is still wanted. Work asks often; what a newer request has made
 * useless ends with a {@link java.util.concurrent.CancellationException}.
 *
 * <p>Who begins work puts its stop over the thread that does it ({@link #over(Stop, Task)}); what
 * is deep down and done thousands of times a second (Fourier transforms, draws of a bootstrap,
 * steps of a solver) asks {@link #checkHere}. So a stop is heeded also where no signature carries
 * one. A thread over which nobody put one is never stopped.
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

  /**
   * Some work.
   *
   * @param <T> what comes of it
   * @param <E> what it throws
   */
  interface Task<T, E extends Exception> {
    T run() throws E;
  }

  /** Does some work with a stop over this thread; afterwards the one before is there again. */
  static <T, E extends Exception> T over(Stop stop, Task<T, E> task) throws E {
    Stop before = OverThread.STOP.get();
    OverThread.STOP.set(stop);
    try {
      return task.run();
    } finally {
      OverThread.STOP.set(before);
    }
  }

  /** The stop over this thread, for whoever hands a part of its work to others. */
  static Stop here() {
    return OverThread.STOP.get();
  }

  /**
   * Asks the stop over this thread.
   *
   * @throws java.util.concurrent.CancellationException if its work is no longer wanted
   */
  static void checkHere() {
    OverThread.STOP.get().check();
  }
}
