package kettlesieve.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.concurrent.Callable;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.Report;
import kettlesieve.core.report.ReportMaker;
import kettlesieve.core.report.ReportPage;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.work.ProgramVersion;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code report}: what was found, to read, to hear and to check. */
@Command(
    name = "report",
    description = {
      "Writes what was found as one HTML page with pictures and sounds, or as PDF.",
      "Without --html and --pdf the page stands beside the comparison, under its name."
    },
    exitCodeListHeading = "Exit status:%n",
    exitCodeList = {
      "0:done",
      "1:an error of the program itself",
      "2:the words are off",
      "3:an input cannot be used, or the file cannot be written"
    })
final class ReportCommand implements Callable<Integer> {
  private static final int UNUSABLE = 3;

  @Spec private CommandSpec spec;

  @Parameters(arity = "1", paramLabel = "FILE.sieve", description = "the comparison")
  private Path file;

  @Option(names = "--profile", paramLabel = "NAME", description = "the delivery profile")
  private String profile;

  @Option(names = "--html", paramLabel = "OUT", description = "the page")
  private String html;

  @Option(names = "--pdf", paramLabel = "OUT", description = "the same as PDF, without sounds")
  private String pdf;

  @Option(names = "--no-sound", description = "a page without sounds")
  private boolean noSound;

  @Option(names = "--date", paramLabel = "YYYY-MM-DD", description = "the date that is shown")
  private String date;

  @Mixin private TerminalProgress shown = new TerminalProgress();

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  @Override
  public Integer call() {
    PrintWriter err = spec.commandLine().getErr();
    LocalDate day = SharedWords.day(date);
    try {
      Comparison comparison = withProfile(ComparisonFile.load(file));
      if (comparison.source() == null) {
        throw new UsageException(file + " has no source yet; open it and bring one in");
      }
      String page = html == null && pdf == null ? beside() : html;
      Outputs outputs = new Outputs();
      outputs.keep(comparison);
      outputs.keep(List.of(file));
      for (String target : new String[] {page, pdf}) {
        if (target != null) {
          outputs.check(target);
        }
      }
      MatchedComparison done = MatchedComparison.of(comparison, shown.to(err));
      ReportMaker maker =
          new ReportMaker(comparison, done.sheet(), done.source(), done.matched(), done.beside());
      String program = ProgramVersion.words();
      long sound = noSound || page == null ? 0 : ReportMaker.MOST_SOUND_BYTES;
      Report report = maker.make(day, sound, program);
      boolean written = true;
      if (page != null) {
        written = outputs.write(page, to -> WholeFile.write(to, ReportPage.html(report)), err);
      }
      if (pdf != null) {
        written &=
            outputs.write(pdf, to -> WholeFile.write(to, out -> ReportPage.pdf(report, out)), err);
      }
      done.sheet()
          .failed()
          .forEach(f -> err.println("kettle: " + f.label() + ": " + f.file() + ": " + f.reason()));
      return written && done.sheet().failed().isEmpty() ? 0 : UNUSABLE;
    } catch (MediaException | ComparisonFileException e) {
      err.println("kettle: " + e.getMessage());
      return UNUSABLE;
    } catch (IOException e) {
      err.println(
          "kettle: there is no room for the sounds of the report. Free some, or --no-sound");
      return UNUSABLE;
    }
  }

  private String beside() {
    String own = file.toString();
    return own.endsWith(ComparisonFile.ENDING)
        ? own.substring(0, own.length() - ComparisonFile.ENDING.length()) + ".html"
        : own + ".html";
  }

  private Comparison withProfile(Comparison comparison) {
    if (profile == null) {
      return comparison;
    }
    SharedWords.checkProfile(profile, Scoring.of(comparison));
    return comparison.withProfile(profile);
  }
}
