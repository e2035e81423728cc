package kettlesieve.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HexFormat;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.report.BlindCopies;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code sheet}: blind copies and a page for other listeners. */
@Command(
    name = "sheet",
    description = {
      "Makes a folder for other listeners: blind copies at matched level under letters, and one page",
      "that plays them and takes their answers. What the letters stand for stays in the comparison."
    },
    exitCodeListHeading = "Exit status:%n",
    exitCodeList = {
      "0:done",
      "1:an error of the program itself",
      "2:the words are off",
      "3:an input cannot be used, or the folder cannot be written"
    })
final class SheetCommand implements Callable<Integer> {
  private static final int UNUSABLE = 3;
  private static final int ID_BYTES = 6;

  @Spec private CommandSpec spec;

  @Parameters(arity = "1", paramLabel = "FILE.sieve", description = "the comparison")
  private Path file;

  @Option(
      names = "--out",
      paramLabel = "DIR",
      required = true,
      description = "the folder to make; it must be empty or not there yet")
  private Path out;

  @Option(
      names = "--kind",
      paramLabel = "rating|pairs",
      description = "rating puts all letters along a line, pairs sets two at a time side by side")
  private String kind = "rating";

  @Option(
      names = "--with-source",
      description = {
        "the untouched source takes part;",
        "in ratings without a clean recording it does anyway, hidden"
      })
  private boolean withSource;

  @Option(
      names = "--question",
      paramLabel = "overall|missed|added|lost",
      description = "what is to be listened for")
  private String question = "overall";

  @Option(names = "--role", paramLabel = "ROLE", description = "stems: which of them is heard")
  private String role = "";

  @Mixin private TerminalProgress shown = new TerminalProgress();

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  @Override
  public Integer call() {
    PrintWriter err = spec.commandLine().getErr();
    Round.Kind asked = kind();
    Round.Question about = question();
    try {
      Comparison comparison = ComparisonFile.load(file);
      check(comparison);
      MatchedComparison done = MatchedComparison.of(comparison, shown.to(err));
      done.sheet()
          .failed()
          .forEach(f -> err.println("kettle: " + f.label() + ": " + f.file() + ": " + f.reason()));
      SecureRandom random = new SecureRandom();
      byte[] id = new byte[ID_BYTES];
      random.nextBytes(id);
      BlindCopies copies =
          BlindCopies.of(
              comparison,
              done.source(),
              done.reference(),
              done.matched(),
              new BlindCopies.Wish(
                  HexFormat.of().formatHex(id),
                  asked,
                  about,
                  Instant.now().truncatedTo(ChronoUnit.SECONDS).toString(),
                  withSource,
                  role,
                  random.nextLong()));
      copies.write(out);
      ComparisonFile.update(file, c -> c.withSheet(copies.key()));
      PrintWriter to = spec.commandLine().getOut();
      to.println(
          copies.copies().size()
              + " letters stand in "
              + out
              + ". Hand the whole folder out; take what comes back in with: ./kettle answers "
              + file
              + " ANSWER.json");
      to.flush();
      return done.sheet().failed().isEmpty() ? 0 : UNUSABLE;
    } catch (IllegalArgumentException e) {
      err.println("kettle: " + file + ": " + e.getMessage() + ".");
      return UNUSABLE;
    } catch (MediaException | ComparisonFileException e) {
      err.println("kettle: " + e.getMessage());
      return UNUSABLE;
    } catch (IOException e) {
      err.println(
          "kettle: "
              + out
              + ": it could not be written. Check the folder and the room on disk; nothing stays.");
      return UNUSABLE;
    }
  }

  private void check(Comparison comparison) {
    if (comparison.source() == null) {
      throw new UsageException(file + " has no source yet; open it and bring one in");
    }
    if (!role.isEmpty() && !comparison.job().inStems()) {
      throw new UsageException("--role goes with stems");
    }
    if (!role.isEmpty()
        && comparison.versions().stream().noneMatch(v -> v.stems().containsKey(role))) {
      throw new UsageException("no version in " + file + " has a stem for the role '" + role + "'");
    }
    try {
      if (Files.exists(out)) {
        if (!Files.isDirectory(out)) {
          throw new UsageException(out + ": this is a file. Name a folder");
        }
        try (Stream<Path> inside = Files.list(out)) {
          if (inside.findAny().isPresent()) {
            throw new UsageException(out + ": this folder is not empty. Name another");
          }
        }
      }
    } catch (IOException e) {
      throw new UsageException(out + ": this folder cannot be looked into. Name another");
    }
  }

  private Round.Kind kind() {
    return switch (kind) {
      case "rating" -> Round.Kind.RATING;
      case "pairs" -> Round.Kind.PAIRS;
      default -> throw new UsageException("--kind is rating or pairs, not '" + kind + "'");
    };
  }

  private Round.Question question() {
    return Stream.of(Round.Question.values())
        .filter(q -> q.id().equals(question))
        .findFirst()
        .orElseThrow(() -> new UsageException("--question is overall, missed, added or lost"));
  }
}
