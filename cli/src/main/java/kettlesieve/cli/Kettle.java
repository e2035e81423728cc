package kettlesieve.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** The command line without a window. */
@Command(
    name = "kettle",
    description = "Compares processed versions of a recording.",
    subcommands = {ScoreCommand.class, BenchCommand.class, CalibrateCommand.class})
public final class Kettle {
  private static final Logger LOG = LoggerFactory.getLogger(Kettle.class);

  /** Runs a command and ends the program with its exit status. */
  public static void main(String[] arguments) {
    System.exit(
        run(arguments, new PrintWriter(System.out, true), new PrintWriter(System.err, true)));
  }

  /** Runs a command; 0 done, 1 an error of the program, 2 words off, 3 an input unusable. */
  static int run(String[] arguments, PrintWriter out, PrintWriter err) {
    List<String> behind = new ArrayList<>();
    RunCommand run = new RunCommand();
    String[] words = RunCommand.beforeCommand(arguments, behind);
    run.setCommand(behind);
    CommandLine line = new CommandLine(new Kettle()).addSubcommand(run);
    line.setOut(out).setErr(err);
    line.setExecutionExceptionHandler(
        (e, command, parsed) -> {
          if (e instanceof UsageException) {
            err.println("kettle: " + e.getMessage());
            return CommandLine.ExitCode.USAGE;
          }
          LOG.error("the program broke down", e);
          err.println("kettle: the program made an error of its own; its log says more.");
          return CommandLine.ExitCode.SOFTWARE;
        });
    return line.execute(words);
  }

  Kettle() {}
}
