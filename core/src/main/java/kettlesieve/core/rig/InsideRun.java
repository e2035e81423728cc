package kettlesieve.core.rig;

import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.Unfinished;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;

/** Runs a stand-in within the program. */
final class InsideRun {
  private final Order order;
  private final BooleanSupplier cancelled;
  private final Progress progress;

  /**
   * @param cancelled whether the run is no longer wanted
   */
  InsideRun(Order order, BooleanSupplier cancelled, Progress progress) {
    this.order = order;
    this.cancelled = cancelled;
    this.progress = progress;
  }

  /** Runs it; files of a run that cannot be written whole are deleted. */
  Run of(StandIn standIn, Elapsed begun) throws IOException {
    var threads = ManagementFactory.getThreadMXBean();
    long processor = threads.getCurrentThreadCpuTime();
    Map<String, Audio> made =
        standIn.make(
            order.subject(),
            order.setup(),
            (what, share) -> {
              if (cancelled.getAsBoolean()) {
                throw new CancellationException();
              }
              progress.at(order.label(), share);
            });
    Double used =
        processor < 0 ? null : (Double) ((threads.getCurrentThreadCpuTime() - processor) / 1e9);
    double seconds = begun.seconds();
    Map<String, Path> files = new LinkedHashMap<>();
    Path work = Unfinished.folder(order.folder());
    try {
      Map<String, Path> written = new LinkedHashMap<>();
      for (var part : made.entrySet()) {
        Path file = work.resolve(written.size() + ".wav");
        WavWriter.write(part.getValue(), file, WavWriter.Format.FLOAT, Progress.SILENT);
        written.put(part.getKey(), file);
      }
      for (var part : written.entrySet()) {
        files.put(part.getKey(), ResultFiles.place(part.getValue(), order, part.getKey()));
      }
    } catch (IOException e) {
      for (Path file : files.values()) {
        Files.deleteIfExists(file);
      }
      throw e;
    } finally {
      Unfinished.done(work);
    }
    return new Run(order, Run.Outcome.DONE, null, seconds, used, files, List.of());
  }
}
