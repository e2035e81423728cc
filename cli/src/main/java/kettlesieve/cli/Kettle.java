package kettlesieve.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.media.Surroundings;
import kettlesieve.core.work.ProgramVersion;
import org.slf4j.LoggerFactory;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.IVersionProvider;
import picocli.CommandLine.Option;

/** The command line without a window. */
@Command(
    name = "kettle",
    description = "Compares processed versions of a recording.",
    versionProvider = Kettle.Version.class,
    subcommands = {
      ScoreCommand.class,
      ReportCommand.class,
      ReelCommand.class,
      SheetCommand.class,
      AnswersCommand.class,
      NewCommand.class,
      RoundupCommand.class,
      TestPieceCommand.class,
      BenchCommand.class,
      CalibrateCommand.class,
      ManualCommand.class
    })
public final class Kettle {
  /** Runs a command and ends the program with its exit status. */
  public static void main(String[] arguments) {
    int status = CommandLine.ExitCode.SOFTWARE;
    try {
      Surroundings.prepare();
      status = run(arguments, new PrintWriter(System.out, true), new PrintWriter(System.err, true));
    } catch (Throwable e) {
      // Whatever it is, no trace of it is of use to the person.
      System.err.println("kettle: " + Surroundings.words(e));
    }
    System.exit(status);
  }

  /** Runs a command; 0 done, 1 an error of the program, 2 words off, 3 an input unusable. */
  static int run(String[] arguments, PrintWriter out, PrintWriter err) {
    List<String> behind = new ArrayList<>();
    RunCommand run = new RunCommand();
    String[] words = RunCommand.beforeCommand(arguments, behind);
    run.setCommand(behind);
    CommandLine line = line(run);
    line.setOut(new HarmlessText(out)).setErr(new HarmlessText(err));
    line.setExecutionExceptionHandler(
        (e, command, parsed) -> {
          if (e instanceof UsageException) {
            command.getErr().println("kettle: " + e.getMessage());
            return CommandLine.ExitCode.USAGE;
          }
          LoggerFactory.getLogger(Kettle.class).error("the program broke down", e);
          command.getErr().println("kettle: " + Surroundings.words(e));
          return CommandLine.ExitCode.SOFTWARE;
        });
    return line.execute(words);
  }

  /** What can be asked for, under the name that the program was started by. */
  static CommandLine line(RunCommand run) {
    return new CommandLine(new Kettle())
        .addSubcommand(run)
        .setCommandName(System.getProperty("kettle.name", "kettle"));
  }

  @Option(names = "--version", versionHelp = true, description = "show the version")
  private boolean version;

  @Option(
      names = {"--help", "-h"},
      usageHelp = true,
      description = "show this help")
  private boolean help;

  /** Tells the version of the program. */
  static final class Version implements IVersionProvider {
    @Override
    public String[] getVersion() {
      return new String[] {ProgramVersion.words()};
    }
  }

  Kettle() {}
}
