package kettlesieve.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
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
import kettlesieve.core.signal.Progress;
import kettlesieve.core.signal.Stop;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.ResultStore;
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

  @Option(
      names = "--job",
      paramLabel = "JOB",
      description = "denoise, dereverb, declip, stems, stretch or pitch")
  private String job;

  @Option(names = "--source", paramLabel = "FILE", description = "the unprocessed recording")
  private Path source;

  @Option(names = "--version", paramLabel = "LABEL=FILE", description = "a processed version")
  private List<String> versions = new ArrayList<>();

  @Option(names = "--stem", paramLabel = "LABEL/ROLE=FILE", description = "a stem of a version")
  private List<String> stems = new ArrayList<>();

  @Option(
      names = "--reference",
      paramLabel = "[ROLE=]FILE",
      description = "the clean recording; for stems the true stem of a role")
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

  @Option(names = "--csv", paramLabel = "OUT", description = "write CSV to a file, or - to print")
  private String csv;

  @Option(names = "--all", description = "in the table for people: every reading, however wide")
  private boolean all;

  @Option(names = "--again", description = "measure again what was measured before")
  private boolean again;

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  private final Set<Path> inputs = new LinkedHashSet<>();
  private boolean besideRead = true;

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
    Optional<RankTests> tests;
    try (Conductor conductor = new Conductor(MediaReader.standard(), store())) {
      sheet = conductor.run(comparison, listener(progress), Stop.NEVER).sheet();
      tests = tests(sheet, conductor, err);
    } catch (MediaException e) {
      progress.clear();
      err.println("kettle: " + e.getMessage());
      return INPUT_UNUSABLE;
    }
    progress.clear();
    inputs(comparison);
    Path base = file == null ? null : file.toAbsolutePath().normalize().getParent();
    boolean written = besideRead;
    if (json != null) {
      written &= write(json, ScoresJson.write(sheet, base, tests), out, err);
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

  /** Over the excerpts of the comparison, and the further comparisons. */
  private Optional<RankTests> tests(ScoreSheet sheet, Conductor conductor, PrintWriter err) {
    List<List<Entry>> sheets = new ArrayList<>(occasions(sheet));
    for (Path further : beside) {
      try {
        Comparison comparison = ComparisonFile.load(further);
        inputs(comparison);
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

  /** Notes the files that an export must not be written over. */
  private void inputs(Comparison comparison) {
    comparison.files().forEach(ref -> inputs.add(ref.file()));
    inputs.addAll(beside);
    if (file != null) {
      inputs.add(file);
    }
  }

  private boolean isInput(Path target) throws IOException {
    for (Path input : inputs) {
      if (Files.exists(target) && Files.exists(input) && Files.isSameFile(target, input)) {
        return true;
      }
    }
    return false;
  }

  private static List<List<Entry>> occasions(ScoreSheet sheet) {
    return sheet.excerpts().isEmpty()
        ? List.of(sheet.entries())
        : sheet.excerpts().stream().map(e -> sheet.entries(Part.ofExcerpt(e))).toList();
  }

  /** What was measured before is taken from the cache, unless it is to be measured again. */
  private ResultStore store() {
    return again ? ResultStore.inMemory() : ResultStore.standard();
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
    try {
      if (isInput(Path.of(target))) {
        err.println(
            "kettle: " + target + ": this is one of the files compared. Choose another name.");
        return false;
      }
      WholeFile.write(Path.of(target), text);
      return true;
    } catch (IOException | InvalidPathException e) {
      err.println(
          "kettle: "
              + target
              + ": it could not be written. Check the folder and the room on disk.");
      return false;
    }
  }

  /** Width of the terminal, which the script tells. */
  private static int width() {
    Integer told = Integer.getInteger("kettle.columns");
    return told == null || told < 20 ? ScoresTable.USUAL_WIDTH : told;
  }

  private Comparison fromFile() throws ComparisonFileException {
    if (job != null
        || source != null
        || !versions.isEmpty()
        || !stems.isEmpty()
        || !references.isEmpty()) {
      throw new UsageException(
          "give either a comparison file or --job, --source and --version, not both");
    }
    Comparison comparison = ComparisonFile.load(file);
    if (comparison.source() == null) {
      throw new UsageException(file + " has no source yet; open it and bring one in");
    }
    return comparison;
  }

  private Comparison fromWords() {
    if (job == null || source == null) {
      throw new UsageException(
          "say what to score: a comparison file, or --job, --source and --version."
              + " See 'kettle score --help'.");
    }
    Comparison comparison =
        Comparison.empty("", parsedJob()).withSource(asGiven(source.toString()));
    boolean inStems = comparison.job() == Job.STEMS;
    if (inStems && !versions.isEmpty()) {
      throw new UsageException("the job stems takes --stem LABEL/ROLE=FILE in place of --version");
    }
    if (!inStems && !stems.isEmpty()) {
      throw new UsageException("--stem goes with --job stems");
    }
    if ((inStems ? stems : versions).isEmpty()) {
      throw new UsageException(
          inStems
              ? "name at least one stem: --stem LABEL/ROLE=FILE"
              : "name at least one version: --version LABEL=FILE");
    }
    comparison = withReferences(comparison);
    return inStems ? withStems(comparison) : withVersions(comparison);
  }

  private Comparison withReferences(Comparison comparison) {
    if (comparison.job() == Job.STEMS) {
      Comparison changed = comparison;
      for (String words : references) {
        String[] parts = parted(words, "--reference wants ROLE=FILE for stems");
        changed = changed.withTrueStem(parts[0], asGiven(parts[1]));
      }
      return changed;
    }
    if (references.size() > 1) {
      throw new UsageException("one --reference is enough here");
    }
    return references.isEmpty() ? comparison : comparison.withReference(asGiven(references.get(0)));
  }

  private Comparison withVersions(Comparison start) {
    Comparison comparison = start;
    List<String> labels = new ArrayList<>();
    for (String words : versions) {
      String[] parts = parted(words, "--version wants LABEL=FILE");
      if (labels.contains(parts[0])) {
        throw new UsageException("two versions are both called '" + parts[0] + "'");
      }
      labels.add(parts[0]);
      comparison = comparison.plus(Version.of(comparison.freshId(), parts[0], asGiven(parts[1])));
    }
    return comparison;
  }

  private Comparison withStems(Comparison start) {
    Map<String, Map<String, Stem>> byLabel = new LinkedHashMap<>();
    for (String words : stems) {
      String[] parts = parted(words, "--stem wants LABEL/ROLE=FILE");
      int slash = parts[0].lastIndexOf('/');
      if (slash < 1 || slash == parts[0].length() - 1) {
        throw new UsageException("--stem wants LABEL/ROLE=FILE, not '" + words + "'");
      }
      String label = parts[0].substring(0, slash);
      String role = parts[0].substring(slash + 1);
      Stem former =
          byLabel
              .computeIfAbsent(label, l -> new LinkedHashMap<>())
              .putIfAbsent(role, Stem.of(asGiven(parts[1])));
      if (former != null) {
        throw new UsageException("'" + label + "' has two stems for the role '" + role + "'");
      }
    }
    Comparison comparison = start;
    for (var version : byLabel.entrySet()) {
      comparison =
          comparison.plus(
              Version.ofStems(comparison.freshId(), version.getKey(), version.getValue()));
    }
    return comparison;
  }

  private static String[] parted(String words, String wish) {
    int equals = words.indexOf('=');
    if (equals < 1 || equals == words.length() - 1) {
      throw new UsageException(wish + ", not '" + words + "'");
    }
    return new String[] {words.substring(0, equals), words.substring(equals + 1)};
  }

  /** A file by the words it was given in: they come back in the JSON. */
  private static MediaRef asGiven(String path) {
    return new MediaRef(path, null);
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

  private Comparison withOptions(Comparison comparison) {
    Comparison changed = comparison;
    if (profile != null) {
      if (Scoring.of(comparison).profile(profile).isEmpty()) {
        throw new UsageException(
            "--profile is one of "
                + Scoring.of(comparison).profiles().stream()
                    .map(Profile::name)
                    .collect(Collectors.joining(", ")));
      }
      changed = changed.withProfile(profile);
    }
    if (excerpt != null) {
      var named = changed.excerpt(excerpt);
      TimeSpan place = named.isPresent() ? named.get().span() : span("--excerpt", excerpt);
      changed = changed.withTogether(false).withExcerpt(place);
    }
    changed = withTarget(changed);
    if (pauses != null) {
      List<TimeSpan> spans = new ArrayList<>();
      for (String part : pauses.split(",")) {
        spans.add(span("--pauses", part));
      }
      changed = changed.withPauses(spans);
    }
    return changed;
  }

  private Comparison withTarget(Comparison comparison) {
    if (ratio != null && comparison.job() != Job.STRETCH
        || semitones != null && comparison.job() != Job.PITCH) {
      throw new UsageException("--ratio goes with --job stretch, --semitones with --job pitch");
    }
    try {
      Comparison changed = ratio == null ? comparison : comparison.withRatio(ratio);
      return semitones == null ? changed : changed.withSemitones(semitones);
    } catch (IllegalArgumentException e) {
      throw new UsageException(e.getMessage());
    }
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
