package kettlesieve.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.ListeningSheet;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.AnswerFile;
import kettlesieve.core.report.EarTable;
import kettlesieve.core.report.RoundsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code answers}: takes in what listeners sent back. */
@Command(
    name = "answers",
    description = {
      "Takes answers to a listening sheet into its comparison, and prints what all of them say.",
      "A file that is none, foreign or altered is refused; the others are taken."
    },
    exitCodeListHeading = "Exit status:%n",
    exitCodeList = {
      "0:done",
      "1:an error of the program itself",
      "2:the words are off",
      "3:an answer was refused, or the comparison cannot be read or written"
    })
final class AnswersCommand implements Callable<Integer> {
  private static final int UNUSABLE = 3;

  @Spec private CommandSpec spec;

  @Parameters(index = "0", arity = "1", paramLabel = "FILE.sieve", description = "the comparison")
  private Path file;

  @Parameters(index = "1..*", arity = "1..*", paramLabel = "ANSWER.json", description = "answers")
  private List<Path> answers = new ArrayList<>();

  @Option(names = "--csv", paramLabel = "OUT", description = "every trial of all rounds as CSV")
  private String csv;

  @Option(names = "--json", paramLabel = "OUT", description = "the rounds and results as JSON")
  private String json;

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  @Override
  public Integer call() {
    PrintWriter err = spec.commandLine().getErr();
    PrintWriter to = spec.commandLine().getOut();
    List<String> refused = new ArrayList<>();
    try {
      // What is refused is told before anything is written: with nothing to take, nothing is.
      Comparison before = ComparisonFile.load(file);
      Outputs outputs = new Outputs();
      outputs.keep(before);
      outputs.keep(answers);
      outputs.keep(List.of(file));
      for (String out : new String[] {csv, json}) {
        if (out != null) {
          outputs.check(out);
        }
      }
      Comparison taken = with(before, refused);
      refused.forEach(words -> err.println("kettle: " + words));
      if (!taken.equals(before)) {
        taken = ComparisonFile.update(file, c -> with(c, new ArrayList<>()));
      }
      for (ListeningSheet sheet : taken.sheets()) {
        to.print(EarTable.of(taken, sheet));
      }
      to.flush();
      Comparison all = taken;
      boolean written =
          csv == null || outputs.write(csv, out -> WholeFile.write(out, RoundsFile.csv(all)), err);
      written &=
          json == null
              || outputs.write(json, out -> WholeFile.write(out, RoundsFile.json(all, null)), err);
      return written && refused.isEmpty() ? 0 : UNUSABLE;
    } catch (ComparisonFileException e) {
      err.println("kettle: " + e.getMessage());
      return UNUSABLE;
    }
  }

  private Comparison with(Comparison comparison, List<String> refused) {
    Comparison taken = comparison;
    for (Path answer : answers) {
      try {
        taken = AnswerFile.take(taken, answer);
      } catch (AnswerFile.RefusedException e) {
        refused.add(e.getMessage());
      }
    }
    return taken;
  }
}
