package kettlesieve.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** The program as a process of its own, as the script starts it, with folders of its own. */
final class Program {
  private static final long PATIENCE_SECONDS = 120;

  /**
   * How it ended.
   *
   * @param status its exit status
   * @param out what it wrote to standard output
   * @param err what it wrote to standard error
   */
  record Ended(int status, String out, String err) {
    /** Whether a person would see a trace of the program's insides. */
    boolean trace() {
      return (out + err).contains("\tat ") || (out + err).contains("Exception");
    }
  }

  private final Path folder;
  private final Process process;

  private Program(Path folder, Process process) {
    this.folder = folder;
    this.process = process;
  }

  /** Starts it; words before {@code score} or {@code run} that begin with a dash go to Java. */
  static Program start(Path folder, List<String> before, List<String> words) throws IOException {
    Files.createDirectories(folder);
    List<String> command = new ArrayList<>(before);
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    if (words.stream().noneMatch(w -> w.startsWith("-Xmx"))) {
      command.add("-Xmx256m");
    }
    // Libraries are unpacked once for all, unless that is what is tried.
    Path libraries = Path.of(System.getProperty("kettle.kept", "target/kept"), "libraries");
    command.add("-Dorg.bytedeco.javacpp.cachedir=" + libraries.toAbsolutePath());
    command.addAll(words.stream().takeWhile(w -> w.startsWith("-")).toList());
    command.addAll(List.of("-XX:+UseSerialGC", "-XX:TieredStopAtLevel=1"));
    String classes = System.getProperty("java.class.path");
    // Its own way to log, not that of the tests.
    String own =
        String.join(
            ":",
            java.util.Arrays.stream(classes.split(":"))
                .filter(c -> !c.endsWith("test-classes"))
                .toList());
    command.addAll(List.of("-cp", own, "kettlesieve.cli.Kettle"));
    command.addAll(words.stream().dropWhile(w -> w.startsWith("-")).toList());
    ProcessBuilder builder = new ProcessBuilder(command);
    builder.environment().put("KETTLE_CACHE", folder.resolve("cache").toString());
    builder.environment().putIfAbsent("KETTLE_STATE", folder.resolve("state").toString());
    builder.redirectOutput(folder.resolve("out").toFile());
    builder.redirectError(folder.resolve("err").toFile());
    return new Program(folder, builder.start());
  }

  /** Starts it and waits. */
  static Ended run(Path folder, String... words) throws Exception {
    return start(folder, List.of(), List.of(words)).ended();
  }

  Process process() {
    return process;
  }

  /** Waits for its end. */
  Ended ended() throws Exception {
    if (!process.waitFor(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
      process.destroyForcibly();
      throw new AssertionError("it hangs");
    }
    return new Ended(
        process.exitValue(),
        Files.readString(folder.resolve("out"), StandardCharsets.UTF_8),
        Files.readString(folder.resolve("err"), StandardCharsets.UTF_8));
  }
}
