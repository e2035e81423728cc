package kettlesieve.cli;

import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.Copies;
import kettlesieve.core.report.Reel;
import kettlesieve.core.task.Progress;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code reel}: source and versions back to back, at matched level, in one file. */
@Command(
    name = "reel",
    description = {
      "Writes source and versions back to back at matched level, as one WAV with a cue a piece,",
      "and the list of pieces beside it as CSV and as text."
    },
    exitCodeListHeading = "Exit status:%n",
    exitCodeList = {
      "0:done",
      "1:an error of the program itself",
      "2:the words are off",
      "3:an input cannot be used, or the file cannot be written"
    })
final class ReelCommand implements Callable<Integer> {
  private static final int UNUSABLE = 3;
  private static final double LONGEST_GAP = 60;

  @Spec private CommandSpec spec;

  @Parameters(arity = "1", paramLabel = "FILE.sieve", description = "the comparison")
  private Path file;

  @Option(
      names = "--out",
      paramLabel = "OUT",
      required = true,
      description = "the reel, a WAV; with --one-by-one a folder")
  private String out;

  @Option(
      names = "--excerpt",
      paramLabel = "NAME",
      description = "an excerpt to play; more than one can be named. Without any, all of them")
  private List<String> excerpts = new ArrayList<>();

  @Option(
      names = "--spots",
      paramLabel = "N",
      description = "in place of excerpts, the N places that cost most, over all versions")
  private Integer spots;

  @Option(names = "--role", paramLabel = "ROLE", description = "stems: which of them is played")
  private String role;

  @Option(names = "--source-before-each", description = "the source before every version")
  private boolean sourceBeforeEach;

  @Option(
      names = "--gap",
      paramLabel = "SECONDS",
      description = "silence between pieces; half a second without it")
  private double gap = Reel.GAP_SECONDS;

  @Option(
      names = "--one-by-one",
      description = {
        "in place of a reel, source and versions as whole copies at matched level,",
        "one WAV each with a cue an excerpt, into the folder that --out names"
      })
  private boolean oneByOne;

  @Mixin private TerminalProgress shown = new TerminalProgress();

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  @Override
  public Integer call() {
    PrintWriter err = spec.commandLine().getErr();
    try {
      Comparison comparison = ComparisonFile.load(file);
      Outputs outputs = new Outputs();
      check(comparison, outputs);
      MatchedComparison done = MatchedComparison.of(comparison, shown.to(err));
      if (oneByOne) {
        return copies(comparison, done, outputs, err);
      }
      List<Reel.Passage> passages =
          spots == null
              ? Reel.passages(comparison, done.source(), excerpts)
              : Reel.worst(done.sheet(), done.source(), spots);
      if (passages.isEmpty()) {
        err.println("kettle: " + file + ": no reading names a place. Leave --spots out.");
        return UNUSABLE;
      }
      Reel reel =
          Reel.of(
              comparison,
              done.source(),
              done.matched(),
              new Reel.Plan(passages, role == null ? "" : role, sourceBeforeEach, gap));
      done.sheet()
          .failed()
          .forEach(f -> err.println("kettle: " + f.label() + ": " + f.file() + ": " + f.reason()));
      if (reel.pieces().isEmpty()) {
        err.println("kettle: " + file + ": there is no version to play. See the reasons above.");
        return UNUSABLE;
      }
      boolean written =
          outputs.write(
              out,
              to ->
                  WavWriter.write(
                      reel.audio(), reel.cues(), to, WavWriter.Format.PCM_24, Progress.SILENT),
              err);
      written = written && outputs.write(beside("csv"), to -> WholeFile.write(to, reel.csv()), err);
      written =
          written && outputs.write(beside("txt"), to -> WholeFile.write(to, reel.text()), err);
      if (written) {
        sayLowered(reel.loweredDb());
      }
      return written && done.sheet().failed().isEmpty() ? 0 : UNUSABLE;
    } catch (MediaException | ComparisonFileException e) {
      err.println("kettle: " + e.getMessage());
      return UNUSABLE;
    }
  }

  private void sayLowered(double db) {
    if (db > 0) {
      PrintWriter to = spec.commandLine().getOut();
      to.println(
          String.format(
              Locale.ROOT, "It would have clipped: all pieces are lowered by %.1f dB.", db));
      to.flush();
    }
  }

  private int copies(
      Comparison comparison, MatchedComparison done, Outputs outputs, PrintWriter err) {
    Copies copies = Copies.of(comparison, done.source(), done.matched());
    for (Path target : copies.files(Path.of(out))) {
      outputs.check(target.toString());
      if (Files.exists(target)) {
        throw new UsageException(target + ": there is a file of this name already");
      }
    }
    done.sheet()
        .failed()
        .forEach(f -> err.println("kettle: " + f.label() + ": " + f.file() + ": " + f.reason()));
    boolean written = outputs.write(out, copies::write, err);
    if (written) {
      sayLowered(copies.loweredDb());
    }
    return written && done.sheet().failed().isEmpty() ? 0 : UNUSABLE;
  }

  private void check(Comparison comparison, Outputs outputs) {
    if (comparison.source() == null) {
      throw new UsageException(file + " has no source yet; open it and bring one in");
    }
    for (String name : excerpts) {
      if (comparison.excerpt(name).isEmpty()) {
        throw new UsageException(file + " has no excerpt called '" + name + "'");
      }
    }
    if (spots != null && (spots < 1 || spots > 100 || !excerpts.isEmpty())) {
      throw new UsageException("--spots takes a number from 1 to 100, and no --excerpt beside it");
    }
    if (!(gap >= 0 && gap <= LONGEST_GAP)) {
      throw new UsageException("--gap takes seconds from 0 to 60");
    }
    boolean stems = comparison.job().inStems();
    if (oneByOne && (spots != null || !excerpts.isEmpty() || sourceBeforeEach || role != null)) {
      throw new UsageException("--one-by-one writes all there is: only --out goes with it");
    }
    if (oneByOne && Files.exists(Path.of(out)) && !Files.isDirectory(Path.of(out))) {
      throw new UsageException(out + ": this is a file. Name a folder");
    }
    if (!oneByOne && stems == (role == null)) {
      throw new UsageException(
          stems ? "say which stem is played: --role ROLE" : "--role goes with stems");
    }
    if (stems
        && !oneByOne
        && comparison.versions().stream().noneMatch(v -> v.stems().containsKey(role))) {
      throw new UsageException("no version in " + file + " has a stem for the role '" + role + "'");
    }
    outputs.keep(comparison);
    outputs.keep(List.of(file));
    outputs.check(out);
    if (oneByOne) {
      return;
    }
    outputs.check(beside("csv"));
    outputs.check(beside("txt"));
  }

  /** The list's name: that of the reel with another ending. */
  private String beside(String ending) {
    return out.replaceFirst("\\.[^./\\\\]*$", "") + "." + ending;
  }
}
