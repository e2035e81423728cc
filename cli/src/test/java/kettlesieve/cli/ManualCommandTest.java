package kettlesieve.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import picocli.CommandLine;
import picocli.CommandLine.Model.OptionSpec;

/** What the manual and the shells know is what the parser knows. */
class ManualCommandTest {
  @TempDir private Path folder;
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  @BeforeEach
  void named() {
    System.setProperty("kettle.name", "kettle-sieve");
  }

  @AfterEach
  void unnamed() {
    System.clearProperty("kettle.name");
  }

  private int run(String... words) {
    return Kettle.run(words, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  private String text(String name) throws Exception {
    return Files.readString(folder.resolve(name));
  }

  @Test
  void everyCommandAndOptionIsInThePagesAndInEveryShell() throws Exception {
    assertThat(run("manual", folder.toString())).isZero();
    CommandLine whole = Kettle.line(new RunCommand());
    List<CommandLine> commands = ManualPage.commands(whole);
    assertThat(commands)
        .extracting(CommandLine::getCommandName)
        .contains("score", "roundup", "testpiece", "run", "report")
        .doesNotContain("manual");
    String first = text("man/man1/kettle-sieve.1");
    String bash = text("bash-completion/completions/kettle-sieve");
    String zsh = text("zsh/vendor-completions/_kettle-sieve");
    String fish = text("fish/vendor_completions.d/kettle-sieve.fish");
    for (CommandLine command : commands) {
      String name = command.getCommandName();
      assertThat(first)
          .contains("\\fB" + name + "\\fR")
          .contains("kettle\\-sieve\\-" + name + "(1)");
      String page = text("man/man1/kettle-sieve-" + name + ".1");
      assertThat(page)
          .startsWith(".TH \"KETTLE-SIEVE-" + name.toUpperCase(java.util.Locale.ROOT) + "\" 1")
          .contains(".SH NAME", ".SH SYNOPSIS", ".SH OPTIONS");
      // No line of text is taken for a macro.
      assertThat(page.lines().filter(l -> l.startsWith(".")))
          .allMatch(l -> l.matches("\\.(TH|SH|TP|nf|fi)\\b.*"));
      int at = zsh.indexOf("\n    " + name + ")\n");
      assertThat(at).as(name).isPositive();
      String own = zsh.substring(at, zsh.indexOf(";;", at));
      for (OptionSpec option : command.getCommandSpec().options()) {
        for (String word : option.names()) {
          assertThat(page).as(name).contains(word.replace("-", "\\-"));
          assertThat(own).as(name).contains(word + "[");
          assertThat(bash).as(name).contains(word);
          assertThat(fish.lines())
              .anyMatch(
                  l ->
                      l.contains("__fish_seen_subcommand_from " + name + "'")
                          && l.contains(
                              word.startsWith("--")
                                  ? " -l " + word.substring(2) + " "
                                  : " -s " + word.substring(1) + " "));
        }
      }
    }
    // What is installed hands every command on.
    String starter = Files.readString(Path.of("../packaging/kettle-sieve.sh"));
    for (CommandLine command : commands) {
      assertThat(starter).containsPattern("[ |]" + command.getCommandName() + "[ |)]");
    }
    // The shell reads its part without complaint.
    Process process =
        new ProcessBuilder(
                "bash", "-n", folder.resolve("bash-completion/completions/kettle-sieve").toString())
            .redirectErrorStream(true)
            .start();
    assertThat(new String(process.getInputStream().readAllBytes())).isEmpty();
    assertThat(process.waitFor()).isZero();
  }

  @Test
  void theVersionIsTold() {
    assertThat(run("--version")).isZero();
    assertThat(out.toString()).matches("Kettle Sieve \\d+\\.\\d+\\.\\d+, state [0-9a-f]{12}\\R");
  }

  @Test
  void whatIsMistypedIsAnsweredWithWhatIsNearest() {
    assertThat(run("score", "--jsno", "x", "a.sieve")).isEqualTo(2);
    assertThat(err.toString()).contains("--jsno").contains("--json");
    assertThat(run("scroe", "a.sieve")).isEqualTo(2);
    assertThat(err.toString()).contains("scroe").contains("score");
  }
}
