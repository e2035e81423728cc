package kettlesieve.cli;

import java.io.PrintWriter;
import java.util.function.LongSupplier;
import kettlesieve.core.task.Progress;
import picocli.CommandLine.Option;

/**
 * Progress on standard error of whatever takes over two seconds: one line that is written over with
 * a bar where that is a terminal, else a plain line every ten seconds. Nothing with {@code
 * --quiet}, or where the script has not told what standard error is. Mixed into commands. May be
 * told from any thread.
 */
final class TerminalProgress implements Progress {
  private static final String CLEAR = "\r\u001b[K";
  private static final long PATIENCE = 2_000_000_000L;
  private static final long BETWEEN_LINES = 10_000_000_000L;
  private static final int BAR = 20;

  private enum To {
    TERMINAL,
    LINES,
    NOBODY
  }

  @Option(names = "--quiet", description = "no progress on standard error")
  private boolean quiet;

  private final LongSupplier nanos;
  private PrintWriter err = new PrintWriter(java.io.Writer.nullWriter());
  private long began;
  private long lastLine;
  private boolean shown;

  TerminalProgress() {
    this(System::nanoTime);
  }

  /**
   * @param nanos tells the time
   */
  TerminalProgress(LongSupplier nanos) {
    this.nanos = nanos;
  }

  /** Begins now, and writes there. */
  synchronized TerminalProgress to(PrintWriter writer) {
    err = writer;
    began = nanos.getAsLong();
    lastLine = began - BETWEEN_LINES;
    return this;
  }

  private To to() {
    String told = System.getProperty("kettle.terminal", System.getenv("KETTLE_TERMINAL"));
    return quiet || told == null ? To.NOBODY : Boolean.parseBoolean(told) ? To.TERMINAL : To.LINES;
  }

  @Override
  public synchronized void at(String what, double share) {
    To to = to();
    long now = nanos.getAsLong();
    if (to == To.NOBODY || now - began < PATIENCE) {
      return;
    }
    String percent = share > 0 ? Math.round(100 * Math.min(1, share)) + " %" : "";
    if (to == To.TERMINAL) {
      clear();
      int full = (int) Math.round(BAR * Math.min(1, share));
      String bar = share > 0 ? "[" + "#".repeat(full) + ".".repeat(BAR - full) + "] " : "";
      err.print(bar + (percent.isEmpty() ? "" : percent + "  ") + what + " …");
      err.flush();
      shown = true;
    } else if (now - lastLine >= BETWEEN_LINES) {
      lastLine = now;
      err.println("kettle: " + what + (percent.isEmpty() ? "" : ", " + percent));
    }
  }

  /** Takes the line away, where there is one. */
  synchronized void clear() {
    if (shown) {
      HarmlessText.raw(err).print(CLEAR);
      HarmlessText.raw(err).flush();
      shown = false;
    }
  }
}
