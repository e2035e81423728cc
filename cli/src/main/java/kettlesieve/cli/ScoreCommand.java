package kettlesieve.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Part;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.RankTable;
import kettlesieve.core.report.ScoresCsv;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.report.ScoresTable;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.RankTests;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.ManyComparisons;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code score}: matches, measures and scores without a window. */
@Command(
    name = "score",
    description = "Matches, measures and scores the versions of a recording.",
    exitCodeListHeading = "Exit status:%n",
    exitCodeList = {
      "0:done",
      "1:an error of the program itself",
      "2:the words are off",
      "3:an input cannot be used; the others are still scored"
    })
final class ScoreCommand implements Callable<Integer> {
  private static final int INPUT_UNUSABLE = 3;

  @Spec private CommandSpec spec;

  @Parameters(
      arity = "0..*",
      paramLabel = "FILE.sieve",
      description = "a comparison to score; several with --jsonl, or @LIST for a file of names")
  private List<Path> files = new ArrayList<>();

  private Path file;

  @Mixin private ComparisonWords words = new ComparisonWords();

  @Option(
      names = "--pauses",
      paramLabel = "FROM-TO,…",
      description = "seconds without wanted sound")
  private String pauses;

  @Option(
      names = "--excerpt",
      paramLabel = "FROM-TO|NAME",
      description = "seconds of the source, or the name of an excerpt, to score")
  private String excerpt;

  @Option(names = "--profile", paramLabel = "NAME", description = "the delivery profile")
  private String profile;

  @Option(
      names = "--beside",
      paramLabel = "FILE.sieve",
      description =
          "a further comparison with versions of the same labels: all are also compared by rank")
  private List<Path> beside = new ArrayList<>();

  @Option(names = "--json", paramLabel = "OUT", description = "write JSON to a file, or - to print")
  private String json;

  @Option(
      names = "--jsonl",
      paramLabel = "OUT",
      description = "write JSON, a comparison a line, to a file, or - to print")
  private String jsonl;

  @Option(
      names = "--jobs",
      paramLabel = "N",
      description = "with --jsonl: comparisons worked on at once; else as many as processors")
  private Integer jobs;

  @Option(names = "--csv", paramLabel = "OUT", description = "write CSV to a file, or - to print")
  private String csv;

  @Option(names = "--all", description = "in the table for people: every reading, however wide")
  private boolean all;

  @Option(names = "--again", description = "measure again what was measured before")
  private boolean again;

  @Mixin private TerminalProgress shown = new TerminalProgress();

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  private final Outputs outputs = new Outputs();
  private boolean besideRead = true;

  @Override
  public Integer call() {
    PrintWriter out = spec.commandLine().getOut();
    PrintWriter err = spec.commandLine().getErr();
    if (jsonl != null) {
      return lines(out, err);
    }
    if (files.size() > 1) {
      throw new UsageException("several comparisons want --jsonl OUT: a line each");
    }
    file = files.isEmpty() ? null : files.get(0);
    Comparison comparison;
    try {
      comparison = withOptions(file != null ? fromFile() : words.comparison());
    } catch (ComparisonFileException e) {
      err.println("kettle: " + e.getMessage());
      return INPUT_UNUSABLE;
    }
    checkOutputs(comparison);
    TerminalProgress progress = shown.to(err);
    ScoreSheet sheet;
    Optional<RankTests> tests;
    try (Conductor conductor = new Conductor(MediaReader.standard(), SharedWords.store(again))) {
      sheet = conductor.run(comparison, listener(progress), Stop.NEVER).sheet();
      tests = tests(sheet, conductor, err);
    } catch (MediaException e) {
      progress.clear();
      err.println("kettle: " + e.getMessage());
      return INPUT_UNUSABLE;
    }
    progress.clear();
    Path base = file == null ? null : file.toAbsolutePath().normalize().getParent();
    boolean written = besideRead;
    if (json != null) {
      written &=
          write(json, ScoresJson.write(sheet, comparison, named(file), base, tests), out, err);
    }
    if (csv != null) {
      written &= write(csv, ScoresCsv.write(sheet), out, err);
    }
    if (json == null && csv == null) {
      out.print(ScoresTable.write(sheet, width(), all));
      tests.ifPresent(t -> out.print(RankTable.write(t)));
      out.flush();
    }
    sheet
        .failed()
        .forEach(f -> err.println("kettle: " + f.label() + ": " + f.file() + ": " + f.reason()));
    return sheet.failed().isEmpty() && written ? 0 : INPUT_UNUSABLE;
  }

  private static String named(Path file) {
    return file == null ? null : file.normalize().toString().replace('\\', '/');
  }

  private int lines(PrintWriter out, PrintWriter err) {
    if (files.isEmpty() || words.given()) {
      throw new UsageException("--jsonl takes comparison files; name one or more");
    }
    if (json != null || csv != null || !beside.isEmpty() || excerpt != null || pauses != null) {
      throw new UsageException(
          "--jsonl takes comparisons as they stand; beside it --profile, --jobs and --again may be"
              + " given");
    }
    if (profile != null) {
      SharedWords.checkProfile(profile, Scoring.shipped());
    }
    outputs.keep(files);
    for (Path each : files) {
      try {
        outputs.keep(ComparisonFile.load(each));
      } catch (ComparisonFileException e) {
        // It becomes a line that says so.
      }
    }
    if (!jsonl.equals("-")) {
      outputs.check(jsonl);
    }
    ManyComparisons many =
        new ManyComparisons(
            MediaReader::standard, SharedWords.store(again), SharedWords.jobs(jobs));
    return new ScoreLines(many, this::withOptions, shown.to(err), err)
            .write(files, jsonl, out, outputs)
        ? 0
        : INPUT_UNUSABLE;
  }

  /** An export is never written over an input; that is found out before anything is measured. */
  private void checkOutputs(Comparison comparison) {
    outputs.keep(comparison);
    outputs.keep(beside);
    for (Path further : beside) {
      try {
        outputs.keep(ComparisonFile.load(further));
      } catch (ComparisonFileException e) {
        // Said when it is scored.
      }
    }
    if (file != null) {
      outputs.keep(List.of(file));
    }
    for (String target : new String[] {json, csv}) {
      if (target != null && !target.equals("-")) {
        outputs.check(target);
      }
    }
  }

  /** Over the excerpts of the comparison, and the further comparisons. */
  private Optional<RankTests> tests(ScoreSheet sheet, Conductor conductor, PrintWriter err) {
    List<List<Entry>> sheets = new ArrayList<>(occasions(sheet));
    for (Path further : beside) {
      try {
        Comparison comparison = ComparisonFile.load(further);
        if (comparison.source() == null) {
          throw new UsageException(further + " has no source yet; open it and bring one in");
        }
        if (profile != null) {
          comparison = comparison.withProfile(profile);
        }
        sheets.addAll(occasions(conductor.run(comparison).sheet()));
      } catch (MediaException | ComparisonFileException e) {
        // What was measured already is worth having all the same.
        err.println("kettle: " + e.getMessage());
        besideRead = false;
      }
    }
    return RankTests.over(sheets);
  }

  private static List<List<Entry>> occasions(ScoreSheet sheet) {
    return sheet.excerpts().isEmpty()
        ? List.of(sheet.entries())
        : sheet.excerpts().stream().map(e -> sheet.entries(Part.ofExcerpt(e))).toList();
  }

  private static Conductor.Listener listener(Progress progress) {
    return new Conductor.Listener() {
      @Override
      public void progress(String what, double share) {
        progress.at(what, share);
      }
    };
  }

  private boolean write(String target, String text, PrintWriter out, PrintWriter err) {
    if (target.equals("-")) {
      HarmlessText.raw(out).print(text);
      HarmlessText.raw(out).flush();
      return true;
    }
    return outputs.write(target, file -> WholeFile.write(file, text), err);
  }

  /** Width of the terminal, which the script tells. */
  private static int width() {
    Integer told = Integer.getInteger("kettle.columns");
    return told == null || told < 20 ? ScoresTable.USUAL_WIDTH : told;
  }

  private Comparison fromFile() throws ComparisonFileException {
    if (words.given()) {
      throw new UsageException(
          "give either a comparison file or --job, --source and --version, not both");
    }
    Comparison comparison = ComparisonFile.load(file);
    if (comparison.source() == null) {
      throw new UsageException(file + " has no source yet; open it and bring one in");
    }
    return comparison;
  }

  private Comparison withOptions(Comparison comparison) {
    Comparison changed = comparison;
    if (profile != null) {
      SharedWords.checkProfile(profile, Scoring.of(comparison));
      changed = changed.withProfile(profile);
    }
    if (excerpt != null) {
      var named = changed.excerpt(excerpt);
      TimeSpan place = named.isPresent() ? named.get().span() : span("--excerpt", excerpt);
      changed = changed.withTogether(false).withExcerpt(place);
    }
    changed = words.withTarget(changed);
    if (pauses != null) {
      List<TimeSpan> spans = new ArrayList<>();
      for (String part : pauses.split(",")) {
        spans.add(span("--pauses", part));
      }
      changed = changed.withPauses(spans);
    }
    return changed;
  }

  private static TimeSpan span(String option, String words) {
    String[] ends = words.trim().split("-");
    try {
      if (ends.length == 2) {
        return new TimeSpan(Double.parseDouble(ends[0]), Double.parseDouble(ends[1]));
      }
    } catch (IllegalArgumentException e) {
      // Said below, with the words that were given.
    }
    throw new UsageException(
        option + " wants seconds as FROM-TO, such as 2.0-9.5, not '" + words + "'");
  }
}
