package kettlesieve.core.task;

/** The stop over each thread; see {@link Stop#over(Stop, Stop.Task)}. */
final class OverThread {
  static final ThreadLocal<Stop> STOP = ThreadLocal.withInitial(() -> Stop.NEVER);

  private OverThread() {}
}
