package kettlesieve.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import picocli.CommandLine;

/** Progress is seen by who waits, where it can be seen, and nowhere else. */
class TerminalProgressTest {
  private final StringWriter text = new StringWriter();
  private final AtomicLong seconds = new AtomicLong();
  private final TerminalProgress progress =
      new TerminalProgress(() -> seconds.get() * 1_000_000_000L);

  @AfterEach
  void untold() {
    System.clearProperty("kettle.terminal");
  }

  private void run() {
    progress.to(new PrintWriter(text, true));
    for (int s = 0; s <= 30; s++) {
      seconds.set(s);
      progress.at("a.sieve", s / 40.0);
    }
    progress.clear();
  }

  @Test
  void aBarOnATerminalThatGoesAwayAgain() {
    System.setProperty("kettle.terminal", "true");
    run();
    assertThat(text.toString())
        .startsWith("[#...................] 5 %  a.sieve …")
        .contains("[##########..........] 50 %  a.sieve …")
        .endsWith("75 %  a.sieve …\r\u001b[K");
  }

  @Test
  void plainLinesElsewhereNowAndThen() {
    System.setProperty("kettle.terminal", "false");
    run();
    assertThat(text.toString().lines())
        .containsExactly("kettle: a.sieve, 5 %", "kettle: a.sieve, 30 %", "kettle: a.sieve, 55 %");
  }

  @Test
  void nothingWhereQuietIsAskedForOrNothingIsKnown() {
    run();
    System.setProperty("kettle.terminal", "false");
    new CommandLine(new Quiet(progress)).parseArgs("--quiet");
    run();
    assertThat(text.toString()).isEmpty();
  }

  @CommandLine.Command
  private static final class Quiet {
    @CommandLine.Mixin private final TerminalProgress shown;

    Quiet(TerminalProgress shown) {
      this.shown = shown;
    }
  }
}
