package kettlesieve.cli;

import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.MediaRef;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code new}: a comparison from the command line. */
@Command(
    name = "new",
    description = "Writes a comparison file; its words are those of score.",
    exitCodeListHeading = "Exit status:%n",
    exitCodeList = {
      "0:done",
      "1:an error of the program itself",
      "2:the words are off",
      "3:a file is missing, or the comparison cannot be written"
    })
final class NewCommand implements Callable<Integer> {
  private static final int UNUSABLE = 3;

  @Spec private CommandSpec spec;

  @Parameters(arity = "1", paramLabel = "OUT.sieve", description = "the comparison to write")
  private String out;

  @Mixin private ComparisonWords words = new ComparisonWords();

  @Option(
      names = "--tag",
      paramLabel = "TAG",
      description = "a word of your own, by which round-ups tell recordings apart; repeatable")
  private List<String> tags = new ArrayList<>();

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  @Override
  public Integer call() {
    PrintWriter err = spec.commandLine().getErr();
    if (!out.endsWith(ComparisonFile.ENDING)) {
      throw new UsageException(out + ": a comparison ends in " + ComparisonFile.ENDING);
    }
    Comparison comparison =
        words.withTarget(words.comparison()).withName(name()).withTags(SharedWords.tags(tags));
    Outputs outputs = new Outputs();
    outputs.keep(comparison);
    outputs.check(out);
    Path file = Path.of(out);
    if (Files.exists(file)) {
      throw new UsageException(out + ": there is a file of this name already. Choose another");
    }
    List<Path> missing =
        comparison.files().stream()
            .map(MediaRef::file)
            .filter(f -> !Files.isRegularFile(f))
            .toList();
    if (!missing.isEmpty()) {
      missing.forEach(
          f -> err.println("kettle: " + f + ": there is no such file. Check the name."));
      return UNUSABLE;
    }
    try {
      ComparisonFile.save(comparison, file);
      return 0;
    } catch (ComparisonFileException e) {
      err.println("kettle: " + e.getMessage());
      return UNUSABLE;
    }
  }

  private String name() {
    String own = Path.of(out).getFileName().toString();
    return own.substring(0, own.length() - ComparisonFile.ENDING.length());
  }
}
