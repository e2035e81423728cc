package kettlesieve.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.RoundupCsv;
import kettlesieve.core.report.RoundupJson;
import kettlesieve.core.report.RoundupPage;
import kettlesieve.core.report.RoundupTable;
import kettlesieve.core.report.ScoreFiles;
import kettlesieve.core.roundup.Agreement;
import kettlesieve.core.roundup.Aspect;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.roundup.RoundupMaker;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.ManyComparisons;
import kettlesieve.core.work.ProgramVersion;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code roundup}: tools over many recordings. */
@Command(
    name = "roundup",
    description = {
      "Scores many comparisons of one job and says which tool is best over them, and how sure.",
      "What was measured before is not measured again."
    },
    exitCodeListHeading = "Exit status:%n",
    exitCodeList = {
      "0:done",
      "1:an error of the program itself",
      "2:the words are off",
      "3:a comparison cannot be used, or a file not written; the others are in it"
    })
final class RoundupCommand implements Callable<Integer> {
  private static final int UNUSABLE = 3;

  @Spec private CommandSpec spec;

  @Parameters(
      arity = "1..*",
      paramLabel = "FILE.sieve|DIR|SCORES.json",
      description =
          "comparisons, folders that hold some, and files of scores that 'score' wrote anywhere")
  private List<Path> places = new ArrayList<>();

  @Option(names = "--profile", paramLabel = "NAME", description = "the delivery profile, of all")
  private String profile;

  @Option(
      names = "--by",
      paramLabel = "tool|version",
      description = "what a row is: a tool at its best, or each of its versions")
  private String by = "version";

  @Option(names = "--job", paramLabel = "JOB", description = "only comparisons of this job")
  private String job;

  @Option(names = "--tag", paramLabel = "TAG", description = "only recordings with this tag")
  private String tag;

  @Option(names = "--role", paramLabel = "ROLE", description = "stems: of this role alone")
  private String role = "";

  @Option(
      names = "--of",
      paramLabel = "WHAT",
      description = "overall, missed, added, lost, or the name of a reading")
  private String what = Aspect.OVERALL;

  @Option(names = "--json", paramLabel = "OUT", description = "write JSON to a file, or - to print")
  private String json;

  @Option(names = "--csv", paramLabel = "OUT", description = "write CSV to a file, or - to print")
  private String csv;

  @Option(names = "--html", paramLabel = "OUT", description = "write a page to read")
  private String html;

  @Option(names = "--pdf", paramLabel = "OUT", description = "write the same as PDF")
  private String pdf;

  @Option(names = "--date", paramLabel = "YYYY-MM-DD", description = "the date that is shown")
  private String date;

  @Option(
      names = "--cores",
      paramLabel = "N",
      description = "processors that \"at once in real time\" is told for; else this machine's")
  private int cores = Runtime.getRuntime().availableProcessors();

  @Option(names = "--again", description = "measure again what was measured before")
  private boolean again;

  @Option(
      names = "--jobs",
      paramLabel = "N",
      description = "comparisons worked on at once; else as many as processors")
  private Integer jobs;

  @Mixin private TerminalProgress shown = new TerminalProgress();

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  private final Outputs outputs = new Outputs();

  @Override
  public Integer call() {
    PrintWriter out = spec.commandLine().getOut();
    PrintWriter err = spec.commandLine().getErr();
    Roundup.By rows = rows();
    day();
    if (cores < 1) {
      throw new UsageException("--cores is 1 or more");
    }
    SharedWords.checkProfile(profile, Scoring.shipped());
    Aspect aspect = new Aspect(what, role);
    if (Arrays.stream(Job.values()).noneMatch(aspect::knownIn)) {
      throw new UsageException("--of is overall, missed, added, lost or the name of a reading");
    }
    ScoreFiles kept = new ScoreFiles(r -> r.equals(what) || Agreement.asksFor(r));
    List<ManyComparisons.Named> wanted = wanted(aspect, kept);
    for (String target : new String[] {json, csv, html, pdf}) {
      if (target != null && !target.equals("-")) {
        outputs.check(target);
      }
    }
    TerminalProgress progress = shown.to(err);
    ManyComparisons many =
        new ManyComparisons(
            MediaReader::standard, SharedWords.store(again), SharedWords.jobs(jobs));
    ManyComparisons.Outcome outcome =
        many.run(
            wanted,
            c -> profile == null ? c : c.withProfile(profile),
            new ManyComparisons.Listener() {
              @Override
              public void at(int done, int of, String named) {
                progress.at(done + " of " + of + ": " + named, (double) done / of);
              }
            },
            Stop.NEVER);
    progress.clear();
    List<ScoredComparison> scored = new ArrayList<>(outcome.scored());
    List<ScoredComparison.Failed> failed = new ArrayList<>(outcome.failed());
    failed.addAll(kept.failed());
    take(kept, scored, failed);
    Roundup roundup = new RoundupMaker(rows, aspect).of(scored, failed);
    // Of nothing no page is made; what was wrong is said below.
    boolean well = scored.isEmpty() || write(roundup, out, err);
    for (ScoredComparison.Failed f : roundup.failed()) {
      err.println(
          "kettle: "
              + f.file()
              + (f.label().isEmpty() ? "" : ": " + f.label())
              + ": "
              + f.reason());
    }
    return well && roundup.failed().isEmpty() ? 0 : UNUSABLE;
  }

  /** What score files hold of what is asked for, and comparisons that are here do not say anew. */
  private void take(
      ScoreFiles kept, List<ScoredComparison> scored, List<ScoredComparison.Failed> failed) {
    Set<List<String>> here = new HashSet<>();
    scored.forEach(c -> here.add(List.of(c.file(), c.sha256())));
    for (ScoredComparison c : kept.scored()) {
      if (!asked(c.job(), c.tags()) || here.contains(List.of(c.file(), c.sha256()))) {
        continue;
      }
      if (profile == null || profile.equals(c.profile())) {
        scored.add(c);
      } else {
        failed.add(
            new ScoredComparison.Failed(
                c.file(),
                "",
                "its scores are of the profile "
                    + c.profile()
                    + ". Score it again with --profile "
                    + profile
                    + "."));
      }
    }
  }

  private Roundup.By rows() {
    return Arrays.stream(Roundup.By.values())
        .filter(b -> b.id().equals(by))
        .findFirst()
        .orElseThrow(() -> new UsageException("--by is tool or version"));
  }

  private boolean write(Roundup roundup, PrintWriter out, PrintWriter err) {
    boolean written = true;
    if (json != null) {
      written &=
          json.equals("-")
              ? text(json, RoundupJson.write(roundup, cores), out, err)
              : outputs.write(
                  json,
                  file -> WholeFile.write(file, to -> RoundupJson.write(roundup, cores, to)),
                  err);
    }
    if (csv != null) {
      written &= text(csv, RoundupCsv.write(roundup), out, err);
    }
    if (html != null) {
      written &=
          outputs.write(
              html,
              to -> WholeFile.write(to, RoundupPage.html(roundup, cores, day(), program())),
              err);
    }
    if (pdf != null) {
      written &=
          outputs.write(
              pdf,
              to ->
                  WholeFile.write(
                      to, into -> RoundupPage.pdf(roundup, cores, day(), program(), into)),
              err);
    }
    if (json == null && csv == null && html == null && pdf == null) {
      out.print(RoundupTable.write(roundup, cores));
      out.flush();
    }
    return written;
  }

  private static String program() {
    return ProgramVersion.words();
  }

  private LocalDate day() {
    return SharedWords.day(date);
  }

  private boolean text(String target, String text, PrintWriter out, PrintWriter err) {
    if (target.equals("-")) {
      HarmlessText.raw(out).print(text);
      HarmlessText.raw(out).flush();
      return true;
    }
    return outputs.write(target, file -> WholeFile.write(file, text), err);
  }

  /** The comparisons of one job that are asked for; those that cannot be read go on, to be told. */
  private List<ManyComparisons.Named> wanted(Aspect aspect, ScoreFiles kept) {
    List<ManyComparisons.Named> wanted = new ArrayList<>();
    Set<String> kinds = new TreeSet<>();
    Set<String> roles = new TreeSet<>();
    List<Path> comparisons = new ArrayList<>();
    List<Path> ofScores = new ArrayList<>();
    for (Path file : files()) {
      if (ScoreFiles.named(file)) {
        ofScores.add(file);
      } else {
        comparisons.add(file);
      }
    }
    outputs.keep(ofScores);
    kept.read(ofScores);
    for (ScoredComparison c : kept.scored()) {
      if (asked(c.job(), c.tags())) {
        kinds.add(c.job().id());
        c.versions().forEach(v -> roles.addAll(v.roles().keySet()));
      }
    }
    for (ManyComparisons.Named each : ManyComparisons.named(comparisons)) {
      Path file = each.file();
      try {
        Comparison c = ComparisonFile.load(file);
        outputs.keep(c);
        outputs.keep(List.of(file));
        if (asked(c.job(), c.tags())) {
          kinds.add(c.job().id());
          roles.addAll(c.roles());
          wanted.add(each);
        }
      } catch (ComparisonFileException e) {
        wanted.add(each);
      }
    }
    if (kinds.size() > 1) {
      throw new UsageException(
          "these comparisons are of several jobs ("
              + String.join(", ", kinds)
              + "); a round-up is of one. Say which: --job JOB");
    }
    if (wanted.isEmpty() && kinds.isEmpty() && kept.failed().isEmpty()) {
      throw new UsageException(
          "there is no comparison"
              + (job == null ? "" : " of the job " + job)
              + (tag == null ? "" : " with the tag " + tag)
              + " here");
    }
    for (String one : kinds) {
      if (!aspect.knownIn(Job.of(one))) {
        throw new UsageException("there is no reading " + what + " in the job " + one);
      }
    }
    if (!role.isEmpty() && !kinds.isEmpty() && !roles.contains(role)) {
      throw new UsageException(
          roles.isEmpty()
              ? "--role is for stems; here are none"
              : "no stem here is called '"
                  + role
                  + "'; --role is one of "
                  + String.join(", ", roles));
    }
    return wanted;
  }

  private boolean asked(Job one, List<String> tags) {
    return (job == null || one.id().equals(job)) && (tag == null || tags.contains(tag));
  }

  private List<Path> files() {
    Set<Path> files = new LinkedHashSet<>();
    for (Path place : places) {
      if (Files.isDirectory(place)) {
        try {
          files.addAll(ManyComparisons.in(place));
          files.addAll(ScoreFiles.in(place));
        } catch (IOException e) {
          throw new UsageException(place + ": this folder cannot be read");
        }
      } else {
        files.add(place.toAbsolutePath().normalize());
      }
    }
    return new ArrayList<>(files);
  }
}
