package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Progress;

/**
 * The demo comparisons, one a job: a made-up harbour museum works on a lighthouse keeper's tapes
 * and on a boathouse band.
 *
 * @param title for people
 * @param job what was done
 * @param name of its folder
 * @param maker makes it
 */
public record Demo(String title, Job job, String name, Maker maker) {
  /** Makes a comparison in a folder. */
  @FunctionalInterface
  public interface Maker {
    /** Makes the comparison or finds it there, and returns its file. */
    Path make(Path folder, Progress progress) throws IOException;
  }

  /** All of them, in the order of the jobs. */
  public static final List<Demo> ALL =
      List.of(
          new Demo("The keeper's log", Job.DENOISE, "", KeepersLog::make),
          new Demo("Second watch in the lamp room", Job.DEREVERB, "lamp-room", LampRoom::make),
          new Demo("Call from the pilot boat", Job.DECLIP, "radio-call", RadioCall::make),
          new Demo("Boathouse waltz", Job.STEMS, "boathouse-waltz", BoathouseWaltz::make),
          new Demo("Tide table, a fifth shorter", Job.STRETCH, "tide-table", TideTable::make),
          new Demo(
              "Harbour verse, three semitones up", Job.PITCH, "harbour-verse", HarbourVerse::make),
          new Demo("Boathouse waltz, slowed down", Job.STRETCH, "slow-waltz", SlowWaltz::make));

  /** Makes it below a folder, or finds it there. */
  public Path make(Path folder, Progress progress) throws IOException {
    return maker.make(name.isEmpty() ? folder : folder.resolve(name), progress);
  }
}
