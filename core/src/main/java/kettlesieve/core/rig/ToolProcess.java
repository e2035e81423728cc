package kettlesieve.core.rig;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A process of an outside tool: what it says is listened to, its processor time is asked for now
 * and then, and it ends when it is told to.
 */
final class ToolProcess {
  private static final Logger LOG = LoggerFactory.getLogger(ToolProcess.class);
  private static final int MESSAGE_LINES = 40;

  /** Tools that run now: none of them outlives the program. */
  private static final Set<Process> RUNNING = ConcurrentHashMap.newKeySet();

  private static boolean ending;

  static {
    Runtime.getRuntime().addShutdownHook(new Thread(ToolProcess::stopAll, "tools"));
  }

  private static final int LINE_LENGTH = 500;

  private final Process process;
  private final Deque<String> messages = new ArrayDeque<>();
  private final Thread listener;
  private Duration processor;
  private long memory;

  private ToolProcess(Process process) {
    this.process = process;
    this.listener = listen(process, messages);
  }

  /**
   * Starts a command.
   *
   * @throws IOException if there is no such program
   */
  static ToolProcess start(List<String> command, Path folder) throws IOException {
    ProcessBuilder builder =
        new ProcessBuilder(program(command))
            .directory(folder.toFile())
            .redirectErrorStream(true)
            .redirectInput(ProcessBuilder.Redirect.from(nothing()));
    // As one step: a tool that was started while the program ends must be known, or not be.
    synchronized (RUNNING) {
      if (ending) {
        throw new IOException("the program is ending");
      }
      Process started = builder.start();
      RUNNING.add(started);
      return new ToolProcess(started);
    }
  }

  private static void stopAll() {
    List<Process> all;
    synchronized (RUNNING) {
      ending = true;
      all = List.copyOf(RUNNING);
    }
    all.forEach(ToolProcess::stop);
  }

  /** A path is meant from where the program was started, not from the tool's own folder. */
  private static List<String> program(List<String> command) {
    Path path = Path.of(command.get(0));
    if (path.isAbsolute() || path.getNameCount() < 2) {
      return command;
    }
    List<String> absolute = new ArrayList<>(command);
    absolute.set(0, path.toAbsolutePath().normalize().toString());
    return absolute;
  }

  /** Waits a little; whether the process has ended. */
  boolean ended(long millis) throws InterruptedException {
    boolean ended = process.waitFor(millis, TimeUnit.MILLISECONDS);
    if (ended) {
      RUNNING.remove(process);
    } else {
      processor = longer(processor, used(process));
      memory = Math.max(memory, held(process));
    }
    return ended;
  }

  /** Waits until everything that was said has been heard. */
  void settle() throws InterruptedException {
    process.waitFor(5, TimeUnit.SECONDS);
    listener.join(2000);
  }

  int status() {
    return process.exitValue();
  }

  /** The last lines that the tool wrote. */
  List<String> said() {
    synchronized (messages) {
      return List.copyOf(messages);
    }
  }

  /** Processor time in seconds; null where the system did not tell. */
  Double processorSeconds() {
    return processor == null ? null : (Double) (processor.toMillis() / 1e3);
  }

  /** The most that it and those it started held at once; null where the system does not tell. */
  Long memoryBytes() {
    return memory == 0 ? null : (Long) memory;
  }

  /** Ends the process and all that it has started. */
  void stop() {
    stop(process);
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

  /** Memory of a process and those it started, in bytes; 0 where the system does not tell. */
  private static long held(Process process) {
    long sum = resident(process.pid());
    for (ProcessHandle child : process.descendants().toList()) {
      sum += resident(child.pid());
    }
    return sum;
  }

  private static long resident(long pid) {
    // Linux alone tells it without a further program.
    Path status = Path.of("/proc/" + pid + "/status");
    if (!Files.isReadable(status)) {
      return 0;
    }
    try {
      for (String line : Files.readAllLines(status, StandardCharsets.ISO_8859_1)) {
        if (line.startsWith("VmHWM:")) {
          return 1024 * Long.parseLong(line.replaceAll("[^0-9]", ""));
        }
      }
    } catch (IOException | NumberFormatException e) {
      LOG.debug("the process has just ended", e);
    }
    return 0;
  }

  private static Duration longer(Duration a, Duration b) {
    return a == null || b != null && b.compareTo(a) > 0 ? b : a;
  }

  private static void stop(Process process) {
    try {
      // Held still while its children are counted: it must not start another meanwhile.
      signal(process, "STOP");
      List<ProcessHandle> children = process.descendants().toList();
      children.forEach(ProcessHandle::destroyForcibly);
      process.destroy();
      signal(process, "CONT");
      if (!process.waitFor(1, TimeUnit.SECONDS)) {
        process.descendants().forEach(ProcessHandle::destroyForcibly);
        process.destroyForcibly();
      }
    } catch (InterruptedException e) {
      process.descendants().forEach(ProcessHandle::destroyForcibly);
      process.destroyForcibly();
      Thread.currentThread().interrupt();
    }
  }

  private static void signal(Process process, String name) throws InterruptedException {
    try {
      new ProcessBuilder("kill", "-" + name, Long.toString(process.pid()))
          .redirectErrorStream(true)
          .redirectOutput(ProcessBuilder.Redirect.DISCARD)
          .start()
          .waitFor(1, TimeUnit.SECONDS);
    } catch (IOException e) {
      // Where there is no such program, children that begin in this very moment may be missed.
      LOG.debug("no signal could be sent", e);
    }
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
}
