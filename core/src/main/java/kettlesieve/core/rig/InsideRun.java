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
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Progress;

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
    try {
      for (var part : made.entrySet()) {
        Path file = ResultFiles.free(order, part.getKey());
        files.put(part.getKey(), file);
        WavWriter.write(part.getValue(), file, WavWriter.Format.FLOAT, Progress.SILENT);
      }
    } catch (IOException e) {
      for (Path file : files.values()) {
        Files.deleteIfExists(file);
      }
      throw e;
    }
    return new Run(order, Run.Outcome.DONE, null, seconds, used, files, List.of());
  }
}
