package kettlesieve.core.rig;

import java.util.List;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Progress;

/**
 * A small denoiser by a published method, to try, to teach and to test with. It is no restoration
 * tool and does not pretend to be one.
 */
public interface StandIn {
  /** All that ship with the program. */
  List<StandIn> ALL = List.of(new PlainSubtraction(), new SmoothedWiener());

  /** Stable name, in lower case with hyphens. */
  String id();

  /** Plain name for people. */
  String title();

  /** What it does and by which paper. */
  String description();

  /**
   * Processes a recording.
   *
   * @param amount strength from 0 (nothing changes) to 100
   * @throws IllegalArgumentException if the amount is outside, or the recording is too long for
   *     memory
   */
  Audio process(Audio in, double amount, Progress progress);
}
