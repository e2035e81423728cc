package kettlesieve.core.task;

/**
 * Where long work tells how far it has come, and learns that it is no longer wanted.
 *
 * <p>Work calls {@link #at} often; an implementation stops the work by throwing {@link
 * java.util.concurrent.CancellationException} from it.
 */
@FunctionalInterface
public interface Progress {
  /** Tells nobody and never stops the work. */
  Progress SILENT = (what, share) -> {};

  /**
   * @param what what is being done, for people, in lower case
   * @param share how much of it is done, from 0 to 1, or −1 where that is not known
   * @throws java.util.concurrent.CancellationException if the work is to stop
   */
  void at(String what, double share);
}
