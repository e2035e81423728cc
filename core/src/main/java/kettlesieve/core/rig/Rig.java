package kettlesieve.core.rig;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.lang.management.ManagementFactory;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.stream.Stream;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Progress;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Makes versions by running tools, two at a time. Whatever a tool does, the outcome is a {@link
 * Run} and nothing else: results of a run that did not succeed are deleted.
 */
public final class Rig implements AutoCloseable {
  /** How many runs go on at once. */
  public static final int AT_ONCE = 2;

  private static final Logger LOG = LoggerFactory.getLogger(Rig.class);
  private static final int MESSAGE_LINES = 40;
  private static final int LINE_LENGTH = 500;
  private static final long POLL_MILLIS = 50;

  private final MediaReader reader;
  private final ExecutorService pool =
      Executors.newFixedThreadPool(
          AT_ONCE,
          task -> {
            Thread thread = new Thread(task, "rig");
            thread.setDaemon(true);
            thread.setPriority(Thread.NORM_PRIORITY - 1);
            return thread;
          });

  /**
   * @param reader checks what outside tools wrote
   */
  public Rig(MediaReader reader) {
    this.reader = reader;
  }

  /** A run that was ordered. */
  public static final class Ticket {
    private final Order order;
    private final AtomicBoolean cancelled = new AtomicBoolean();
    private volatile Future<Run> future;

    private Ticket(Order order) {
      this.order = order;
    }

    public Order order() {
      return order;
    }

    /** Stops the run as soon as possible. */
    public void cancel() {
      cancelled.set(true);
    }

    /** Waits for the end. */
    public Run await() throws InterruptedException {
      try {
        return future.get();
      } catch (java.util.concurrent.ExecutionException e) {
        throw new IllegalStateException(e.getCause());
      }
    }
  }

  /**
   * Orders a run.
   *
   * @param progress told how far it is; 0 when it begins
   * @param ended told of the outcome, on a thread of the rig
   */
  public Ticket submit(Order order, Progress progress, Consumer<Run> ended) {
    Ticket ticket = new Ticket(order);
    ticket.future =
        pool.submit(
            () -> {
              Run run = perform(ticket, progress);
              ended.accept(run);
              return run;
            });
    return ticket;
  }

  private Run perform(Ticket ticket, Progress progress) {
    Order order = ticket.order;
    long begun = System.nanoTime();
    if (ticket.cancelled.get()) {
      return new Run(order, Run.Outcome.CANCELLED, "cancelled", 0, 0.0, Map.of(), List.of());
    }
    progress.at(order.label(), 0);
    try {
      Files.createDirectories(order.folder());
      return order.tool() instanceof RigTool.Outside outside
          ? outside(ticket, outside.tool(), begun, progress)
          : inside(ticket, ((RigTool.Inside) order.tool()).standIn(), begun, progress);
    } catch (IOException e) {
      return failed(
          order,
          begun,
          "it could not write to "
              + order.folder()
              + ". Check the room on the disk and whether writing there is allowed.",
          List.of());
    } catch (IllegalArgumentException e) {
      return failed(order, begun, e.getMessage(), List.of());
    } catch (CancellationException e) {
      return new Run(
          order, Run.Outcome.CANCELLED, "cancelled", since(begun), null, Map.of(), List.of());
    } catch (RuntimeException | OutOfMemoryError e) {
      LOG.error("a run broke down", e);
      String reason =
          e instanceof OutOfMemoryError
              ? "there is not enough memory for it; choose a shorter recording"
              : "it broke down; the log says more";
      return failed(order, begun, reason, List.of());
    }
  }

  private static Run failed(Order order, long begun, String problem, List<String> messages) {
    return new Run(order, Run.Outcome.FAILED, problem, since(begun), null, Map.of(), messages);
  }

  private static double since(long nanos) {
    return (System.nanoTime() - nanos) / 1e9;
  }

  // --- stand-ins ---

  private Run inside(Ticket ticket, StandIn standIn, long begun, Progress progress)
      throws IOException {
    Order order = ticket.order;
    var threads = ManagementFactory.getThreadMXBean();
    long processor = threads.getCurrentThreadCpuTime();
    Map<String, Audio> made =
        standIn.make(
            order.subject(),
            order.setup(),
            (what, share) -> {
              if (ticket.cancelled.get()) {
                throw new CancellationException();
              }
              progress.at(order.label(), share);
            });
    Double used =
        processor < 0 ? null : (Double) ((threads.getCurrentThreadCpuTime() - processor) / 1e9);
    double seconds = since(begun);
    Map<String, Path> files = new LinkedHashMap<>();
    try {
      for (var part : made.entrySet()) {
        Path file = free(order, part.getKey());
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

  /** A file name that nothing has yet; it is taken at once, so that two runs never share one. */
  private static synchronized Path free(Order order, String role) throws IOException {
    String name = order.name() + "-" + order.tool().fileWord();
    if (order.tool().hasAmount()) {
      double a = order.setup().amount();
      name += "-" + (a == Math.rint(a) ? Long.toString(Math.round(a)) : Double.toString(a));
    }
    if (!role.isEmpty()) {
      name += "-" + role.replaceAll("[^\\p{L}\\p{N}]+", "-");
    }
    Path file = order.folder().resolve(name + ".wav");
    for (int n = 2; Files.exists(file); n++) {
      file = order.folder().resolve(name + "-" + n + ".wav");
    }
    return Files.createFile(file);
  }

  // --- outside tools ---

  private Run outside(Ticket ticket, CommandTool tool, long begun, Progress progress)
      throws IOException {
    Order order = ticket.order;
    Path work = Files.createTempDirectory(order.folder(), ".run-");
    try {
      Path input = order.inputFile();
      if (input == null) {
        input = work.resolve("input.wav");
        WavWriter.write(order.subject(), input, WavWriter.Format.FLOAT, Progress.SILENT);
      }
      Path results = Files.createDirectory(work.resolve("results"));
      Path output = results.resolve("output.wav");
      List<String> command =
          tool.filled(
              input.toAbsolutePath().toString(),
              output.toAbsolutePath().toString(),
              results.toAbsolutePath().toString(),
              order.setup());
      return execute(ticket, tool, command, results, output, begun, progress);
    } finally {
      delete(work);
    }
  }

  private Run execute(
      Ticket ticket,
      CommandTool tool,
      List<String> command,
      Path results,
      Path output,
      long begun,
      Progress progress)
      throws IOException {
    Order order = ticket.order;
    Process process;
    try {
      process =
          new ProcessBuilder(command)
              .directory(results.toFile())
              .redirectErrorStream(true)
              .redirectInput(ProcessBuilder.Redirect.from(nothing()))
              .start();
    } catch (IOException e) {
      return failed(
          order,
          begun,
          "the program " + command.get(0) + " could not be started. Check its name and path.",
          List.of());
    }
    Deque<String> messages = new ArrayDeque<>();
    Thread listener = listen(process, messages);
    Duration processor = null;
    Run.Outcome stopped = null;
    try {
      while (!process.waitFor(POLL_MILLIS, TimeUnit.MILLISECONDS)) {
        processor = longer(processor, used(process));
        if (ticket.cancelled.get()) {
          stopped = Run.Outcome.CANCELLED;
        } else if (since(begun) > tool.timeLimitSeconds()) {
          stopped = Run.Outcome.TOO_LONG;
        }
        if (stopped != null) {
          stop(process);
          break;
        }
        progress.at(order.label(), -1);
      }
      process.waitFor(5, TimeUnit.SECONDS);
      listener.join(2000);
    } catch (InterruptedException e) {
      stop(process);
      Thread.currentThread().interrupt();
      stopped = Run.Outcome.CANCELLED;
    }
    double seconds = since(begun);
    List<String> said;
    synchronized (messages) {
      said = List.copyOf(messages);
    }
    Double used = processor == null ? null : (Double) (processor.toMillis() / 1e3);
    if (stopped != null) {
      String problem =
          stopped == Run.Outcome.CANCELLED
              ? "cancelled"
              : String.format(
                  java.util.Locale.ROOT,
                  "it took longer than %.0f s and was stopped. Raise the tool's time limit if it"
                      + " needs more.",
                  tool.timeLimitSeconds());
      return new Run(order, stopped, problem, seconds, used, Map.of(), said);
    }
    if (process.exitValue() != 0) {
      return failed(
          order,
          begun,
          "the tool ended with status "
              + process.exitValue()
              + (said.isEmpty() ? " and said nothing." : ": " + said.get(said.size() - 1)),
          said);
    }
    return collect(order, tool, results, output, begun, seconds, used, said);
  }

  private Run collect(
      Order order,
      CommandTool tool,
      Path results,
      Path output,
      long begun,
      double seconds,
      Double used,
      List<String> said)
      throws IOException {
    Map<String, Path> found = new LinkedHashMap<>();
    if (tool.writesFolder()) {
      try (Stream<Path> all = Files.walk(results)) {
        for (Path file :
            all.filter(Files::isRegularFile).filter(FileNames::audio).sorted().toList()) {
          String role = Roles.guess(FileNames.stem(file)).orElse(FileNames.stem(file));
          found.putIfAbsent(tool.job() == Job.STEMS ? role : StandIn.WHOLE, file);
        }
      }
    } else if (Files.isRegularFile(output)) {
      found.put(tool.job() == Job.STEMS ? "other" : StandIn.WHOLE, output);
    }
    if (found.isEmpty()) {
      return failed(
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
        return failed(order, begun, "what the tool wrote cannot be used: " + e.problem(), said);
      }
    }
    for (var part : found.entrySet()) {
      Path target = free(order, part.getKey());
      Files.move(part.getValue(), target, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
      files.put(part.getKey(), target);
    }
    return new Run(order, Run.Outcome.DONE, null, seconds, used, files, said);
  }

  private static java.io.File nothing() {
    boolean windows = System.getProperty("os.name").startsWith("Windows");
    return new java.io.File(windows ? "NUL" : "/dev/null");
  }

  /** Processor time of a process and those it started, as far as the system tells. */
  private static Duration used(Process process) {
    Duration sum = process.toHandle().info().totalCpuDuration().orElse(null);
    for (ProcessHandle child : process.descendants().toList()) {
      Duration own = child.info().totalCpuDuration().orElse(Duration.ZERO);
      sum = sum == null ? own : sum.plus(own);
    }
    return sum;
  }

  private static Duration longer(Duration a, Duration b) {
    return a == null || b != null && b.compareTo(a) > 0 ? b : a;
  }

  private static void stop(Process process) {
    List<ProcessHandle> children = process.descendants().toList();
    process.destroy();
    try {
      if (!process.waitFor(1, TimeUnit.SECONDS)) {
        process.destroyForcibly();
      }
    } catch (InterruptedException e) {
      process.destroyForcibly();
      Thread.currentThread().interrupt();
    }
    children.forEach(ProcessHandle::destroyForcibly);
  }

  private static Thread listen(Process process, Deque<String> messages) {
    Thread thread =
        new Thread(
            () -> {
              try (BufferedReader lines =
                  new BufferedReader(
                      new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
                StringBuilder line = new StringBuilder();
                for (int c = lines.read(); c >= 0; c = lines.read()) {
                  if (c == '\n' || c == '\r') {
                    keep(line, messages);
                  } else if (line.length() < LINE_LENGTH && !Character.isISOControl(c)) {
                    line.append((char) c);
                  }
                }
                keep(line, messages);
              } catch (IOException e) {
                LOG.debug("the tool's output ended", e);
              }
            },
            "tool messages");
    thread.setDaemon(true);
    thread.start();
    return thread;
  }

  private static void keep(StringBuilder line, Deque<String> messages) {
    String text = line.toString().strip();
    line.setLength(0);
    if (!text.isEmpty()) {
      synchronized (messages) {
        messages.addLast(text);
        if (messages.size() > MESSAGE_LINES) {
          messages.removeFirst();
        }
      }
    }
  }

  private static void delete(Path folder) {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path path : new ArrayList<>(all.sorted(Comparator.reverseOrder()).toList())) {
        Files.deleteIfExists(path);
      }
    } catch (IOException e) {
      LOG.warn("a working folder could not be deleted: {}", folder);
    }
  }

  @Override
  public void close() {
    pool.shutdownNow();
  }
}
