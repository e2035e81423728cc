package kettlesieve.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.report.ScoresCsv;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.report.ScoresTable;
import kettlesieve.core.score.ComparisonScorer;
import kettlesieve.core.score.Profile;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import picocli.CommandLine.Command;
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

  @Parameters(arity = "0..1", paramLabel = "FILE.sieve", description = "a comparison to score")
  private Path file;

  @Option(names = "--job", paramLabel = "JOB", description = "denoise or dereverb")
  private String job;

  @Option(names = "--source", paramLabel = "FILE", description = "the unprocessed recording")
  private Path source;

  @Option(names = "--version", paramLabel = "LABEL=FILE", description = "a processed version")
  private List<String> versions = new ArrayList<>();

  @Option(names = "--stem", paramLabel = "LABEL/ROLE=FILE", description = "a stem of a version")
  private List<String> stems = new ArrayList<>();

  @Option(names = "--reference", paramLabel = "FILE", description = "the clean recording")
  private List<String> references = new ArrayList<>();

  @Option(names = "--ratio", paramLabel = "R", description = "target length over old length")
  private Double ratio;

  @Option(names = "--semitones", paramLabel = "S", description = "target shift")
  private Double semitones;

  @Option(
      names = "--pauses",
      paramLabel = "FROM-TO,…",
      description = "seconds without wanted sound")
  private String pauses;

  @Option(
      names = "--excerpt",
      paramLabel = "FROM-TO",
      description = "seconds of the source to score")
  private String excerpt;

  @Option(names = "--profile", paramLabel = "NAME", description = "the delivery profile")
  private String profile;

  @Option(names = "--json", paramLabel = "OUT", description = "write JSON to a file, or - to print")
  private String json;

  @Option(names = "--csv", paramLabel = "OUT", description = "write CSV to a file, or - to print")
  private String csv;

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  @Override
  public Integer call() {
    PrintWriter out = spec.commandLine().getOut();
    PrintWriter err = spec.commandLine().getErr();
    Comparison comparison;
    try {
      comparison = withOptions(file != null ? fromFile() : fromWords());
    } catch (ComparisonFileException e) {
      err.println("kettle: " + e.getMessage());
      return INPUT_UNUSABLE;
    }
    TerminalProgress progress = new TerminalProgress(err);
    ScoreSheet sheet;
    try {
      sheet = new ComparisonScorer(MediaReader.standard(), progress).score(comparison);
    } catch (MediaException e) {
      progress.clear();
      err.println("kettle: " + e.getMessage());
      return INPUT_UNUSABLE;
    }
    progress.clear();
    Path base = file == null ? null : file.toAbsolutePath().normalize().getParent();
    boolean written = true;
    if (json != null) {
      written &= write(json, ScoresJson.write(sheet, base), out, err);
    }
    if (csv != null) {
      written &= write(csv, ScoresCsv.write(sheet), out, err);
    }
    if (json == null && csv == null) {
      out.print(ScoresTable.write(sheet));
      out.flush();
    }
    sheet
        .failed()
        .forEach(f -> err.println("kettle: " + f.label() + ": " + f.file() + ": " + f.reason()));
    return sheet.failed().isEmpty() && written ? 0 : INPUT_UNUSABLE;
  }

  private static boolean write(String target, String text, PrintWriter out, PrintWriter err) {
    if (target.equals("-")) {
      out.print(text);
      out.flush();
      return true;
    }
    try {
      Files.writeString(Path.of(target), text, StandardCharsets.UTF_8);
      return true;
    } catch (IOException e) {
      err.println(
          "kettle: "
              + target
              + ": it could not be written. Check the folder and the room on disk.");
      return false;
    }
  }

  private Comparison fromFile() throws ComparisonFileException {
    if (job != null || source != null || !versions.isEmpty() || !references.isEmpty()) {
      throw new UsageException(
          "give either a comparison file or --job, --source and --version, not both");
    }
    Comparison comparison = ComparisonFile.load(file);
    if (comparison.source() == null) {
      throw new UsageException(file + " has no source yet; open it and bring one in");
    }
    return checked(comparison);
  }

  private Comparison fromWords() {
    if (job == null || source == null) {
      throw new UsageException(
          "say what to score: a comparison file, or --job, --source and --version."
              + " See 'kettle score --help'.");
    }
    Comparison comparison =
        checked(Comparison.empty("", parsedJob()).withSource(asGiven(source.toString())));
    if (versions.isEmpty()) {
      throw new UsageException("name at least one version: --version LABEL=FILE");
    }
    if (references.size() > 1) {
      throw new UsageException("one --reference is enough here");
    }
    for (String reference : references) {
      comparison = comparison.withReference(asGiven(reference));
    }
    List<String> labels = new ArrayList<>();
    for (String words : versions) {
      int equals = words.indexOf('=');
      if (equals < 1 || equals == words.length() - 1) {
        throw new UsageException("--version wants LABEL=FILE, not '" + words + "'");
      }
      String label = words.substring(0, equals);
      if (labels.contains(label)) {
        throw new UsageException("two versions are both called '" + label + "'");
      }
      labels.add(label);
      MediaRef media = asGiven(words.substring(equals + 1));
      comparison = comparison.plus(Version.of(comparison.freshId(), label, media));
    }
    return comparison;
  }

  /** A file by the words it was given in: they come back in the JSON. */
  private static MediaRef asGiven(String path) {
    return new MediaRef(path, null, Map.of());
  }

  private Job parsedJob() {
    try {
      return Job.of(job);
    } catch (IllegalArgumentException e) {
      throw new UsageException(
          "--job is one of "
              + List.of(Job.values()).stream().map(Job::id).collect(Collectors.joining(", ")));
    }
  }

  private Comparison checked(Comparison comparison) {
    if (comparison.job() != Job.DENOISE && comparison.job() != Job.DEREVERB) {
      throw new UsageException(
          "the measures of the job '"
              + comparison.job().id()
              + "' are not part of this version; denoise and dereverb can be scored");
    }
    if (!stems.isEmpty()) {
      throw new UsageException("--stem goes with --job stems");
    }
    if (ratio != null || semitones != null) {
      throw new UsageException("--ratio goes with --job stretch, --semitones with --job pitch");
    }
    return comparison;
  }

  private Comparison withOptions(Comparison comparison) {
    Comparison changed = comparison;
    if (profile != null) {
      if (Scoring.shipped().profile(profile).isEmpty()) {
        throw new UsageException(
            "--profile is one of "
                + Scoring.shipped().profiles().stream()
                    .map(Profile::name)
                    .collect(Collectors.joining(", ")));
      }
      changed = changed.withProfile(profile);
    }
    if (excerpt != null) {
      changed = changed.withExcerpt(span("--excerpt", excerpt));
    }
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
