package kettlesieve.core.rig;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Unfinished;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;

/**
 * Runs an outside tool in a working folder of its own; what it wrote is decoded before it is taken.
 */
final class OutsideRun {
  private static final long POLL_MILLIS = 50;

  private final MediaReader reader;
  private final Order order;
  private final BooleanSupplier cancelled;
  private final Progress progress;

  /**
   * @param reader checks what the tool wrote
   * @param cancelled whether the run is no longer wanted
   */
  OutsideRun(MediaReader reader, Order order, BooleanSupplier cancelled, Progress progress) {
    this.reader = reader;
    this.order = order;
    this.cancelled = cancelled;
    this.progress = progress;
  }

  /** Runs it; its working folder is deleted whatever happens. */
  Run of(CommandTool tool, Elapsed begun) throws IOException {
    Path work = Unfinished.folder(order.folder());
    try {
      Path input = work.resolve("input.wav");
      if (order.inputFile() == null) {
        WavWriter.write(order.subject(), input, WavWriter.Format.FLOAT, Progress.SILENT);
      } else {
        // A copy: what a tool does to its input is its own affair.
        Path name = order.inputFile().getFileName();
        input = Files.createDirectory(work.resolve("in")).resolve(name);
        Files.copy(order.inputFile(), input);
      }
      Path results = Files.createDirectory(work.resolve("results"));
      Path output = results.resolve("output.wav");
      List<String> command =
          tool.filled(
              input.toAbsolutePath().toString(),
              output.toAbsolutePath().toString(),
              results.toAbsolutePath().toString(),
              order.setup());
      return execute(tool, command, results, output, begun);
    } finally {
      Unfinished.done(work);
    }
  }

  private Run execute(
      CommandTool tool, List<String> command, Path results, Path output, Elapsed begun)
      throws IOException {
    ToolProcess process;
    try {
      process = ToolProcess.start(command, results);
    } catch (IOException e) {
      return Run.failed(
          order,
          begun,
          "the program " + command.get(0) + " could not be started. Check its name and path.",
          List.of());
    }
    Run.Outcome stopped = null;
    try {
      while (stopped == null && !process.ended(POLL_MILLIS)) {
        if (cancelled.getAsBoolean()) {
          stopped = Run.Outcome.CANCELLED;
        } else if (begun.seconds() > tool.timeLimitSeconds()) {
          stopped = Run.Outcome.TOO_LONG;
        }
        if (stopped != null) {
          process.stop();
        } else {
          progress.at(order.label(), -1);
        }
      }
      process.settle();
    } catch (InterruptedException e) {
      process.stop();
      Thread.currentThread().interrupt();
      stopped = Run.Outcome.CANCELLED;
    }
    double seconds = begun.seconds();
    List<String> said = process.said();
    Double used = process.processorSeconds();
    if (stopped != null) {
      return new Run(order, stopped, why(stopped, tool), seconds, used, Map.of(), said);
    }
    if (process.status() != 0) {
      return Run.failed(
          order,
          begun,
          "the tool ended with status "
              + process.status()
              + (said.isEmpty() ? " and said nothing." : ": " + said.get(said.size() - 1)),
          said);
    }
    return collect(tool, results, output, begun, seconds, used, process.memoryBytes(), said);
  }

  private static String why(Run.Outcome stopped, CommandTool tool) {
    return stopped == Run.Outcome.CANCELLED
        ? "cancelled"
        : String.format(
            Locale.ROOT,
            "it took longer than %.0f s and was stopped. Raise the tool's time limit if it"
                + " needs more.",
            tool.timeLimitSeconds());
  }

  private Run collect(
      CommandTool tool,
      Path results,
      Path output,
      Elapsed begun,
      double seconds,
      Double used,
      Long memory,
      List<String> said)
      throws IOException {
    Map<String, Path> found = new LinkedHashMap<>();
    if (tool.writesFolder()) {
      try (Stream<Path> all = Files.walk(results)) {
        for (Path file :
            all.filter(Files::isRegularFile).filter(FileNames::audio).sorted().toList()) {
          String role = Roles.guess(FileNames.stem(file)).orElse(FileNames.stem(file));
          found.putIfAbsent(tool.job().inStems() ? role : StandIn.WHOLE, file);
        }
      }
    } else if (Files.isRegularFile(output)) {
      found.put(tool.job().inStems() ? "other" : StandIn.WHOLE, output);
    }
    if (found.isEmpty()) {
      return Run.failed(
          order,
          begun,
          "the tool ended well, but wrote no audio file. Check its arguments for {output}.",
          said);
    }
    Map<String, Path> files = new LinkedHashMap<>();
    for (var part : found.entrySet()) {
      try {
        reader.read(part.getValue(), Progress.SILENT);
      } catch (MediaException e) {
        return Run.failed(order, begun, "what the tool wrote cannot be used: " + e.problem(), said);
      }
    }
    for (var part : found.entrySet()) {
      files.put(part.getKey(), ResultFiles.place(part.getValue(), order, part.getKey()));
    }
    return new Run(order, Run.Outcome.DONE, null, seconds, used, memory, files, said);
  }
}
