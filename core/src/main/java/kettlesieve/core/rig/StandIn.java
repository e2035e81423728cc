package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Progress;

/**
 * A small processor by a published method, to try, to teach and to test with. It is no restoration
 * tool and does not pretend to be one.
 */
public interface StandIn {
  /** What stands for a role where the result is one recording. */
  String WHOLE = "";

  /** Longest recording that is taken, in samples over all channels. */
  long LARGEST = 120_000_000L;

  /** Stable name, in lower case with hyphens. */
  String id();

  /** Plain name for people. */
  String title();

  /** What it does and by which paper. */
  String description();

  /** The jobs it does. */
  Set<Job> jobs();

  /** Whether the amount changes anything. */
  default boolean hasAmount() {
    return true;
  }

  /**
   * Processes a recording.
   *
   * @return the results by role; one recording stands under {@link #WHOLE}
   * @throws IllegalArgumentException if the setup is outside its range, or the recording is too
   *     long for memory or has the wrong number of channels; the message is for people
   */
  Map<String, Audio> make(Audio in, Setup setup, Progress progress);

  /** The single result for an amount alone. */
  default Audio process(Audio in, double amount, Progress progress) {
    return make(in, Setup.of(amount), progress).get(WHOLE);
  }

  /**
   * Refuses what would not fit into memory.
   *
   * @throws IllegalArgumentException if the recording is too long
   */
  static void checkLength(Audio in) {
    if (in.frames() * in.channels() > LARGEST) {
      throw new IllegalArgumentException(
          "the recording is too long for a stand-in; choose one of at most 20 minutes in stereo");
    }
  }
}
