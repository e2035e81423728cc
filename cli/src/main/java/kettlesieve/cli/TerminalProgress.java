package kettlesieve.cli;

import java.io.PrintWriter;
import kettlesieve.core.task.Progress;

/** Shows progress on one line of standard error, and only where that is a terminal. */
final class TerminalProgress implements Progress {
  private static final String CLEAR = "\r\u001b[K";

  private final PrintWriter err;
  private final boolean terminal = Boolean.getBoolean("kettle.terminal");

  TerminalProgress(PrintWriter err) {
    this.err = err;
  }

  @Override
  public synchronized void at(String what, double share) {
    if (terminal) {
      clear();
      err.print(what + (share > 0 ? " " + Math.round(100 * share) + " %" : "") + " …");
      err.flush();
    }
  }

  synchronized void clear() {
    if (terminal) {
      HarmlessText.raw(err).print(CLEAR);
      HarmlessText.raw(err).flush();
    }
  }
}
