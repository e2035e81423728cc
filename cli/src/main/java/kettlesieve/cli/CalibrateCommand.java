package kettlesieve.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.function.Consumer;
import kettlesieve.calibrate.Calibration;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.trial.Choice;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.media.UserFolders;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** {@code kettle calibrate}: how far the figures agree with the truth. */
@Command(
    name = "calibrate",
    mixinStandardHelpOptions = true,
    description = {
      "Sets the figures against the truth on real voices and noises, and prints tables.",
      "Fetches some 650 MB of recordings the first time; corpus and results are kept between runs."
    })
final class CalibrateCommand implements Callable<Integer> {
  private static final List<String> JOBS =
      List.of("denoise", "dereverb", "declip", "stems", "stretch", "pitch");

  @Spec private CommandSpec spec;

  @Option(
      names = "--job",
      paramLabel = "JOB",
      description = "denoise, dereverb, declip, stems, stretch or pitch",
      defaultValue = "denoise")
  private String job;

  @Option(
      names = "--every",
      paramLabel = "N",
      description = "only every Nth source, for a quick look",
      defaultValue = "1")
  private int every;

  @Option(
      names = "--only",
      paramLabel = "WORD",
      description = "only sources whose name holds this: a noise, a voice, a half",
      defaultValue = "")
  private String only;

  @Option(
      names = "--whole",
      description = "leave out the table of first against second half: a third of the time")
  private boolean whole;

  @Option(
      names = "--quick",
      description = "of declip: leave out the one processor that takes minutes a source")
  private boolean quick;

  @Option(
      names = "--played",
      description = "of stretch and pitch: only what can be played anew at another tempo or pitch")
  private boolean played;

  @Option(
      names = "--sweeps",
      description = "of denoise: processors from too little to far too much, in place of the rest")
  private boolean sweeps;

  @Option(
      names = "--odds",
      description = "fit how far scores miss the truth, and print what odds made of it come to")
  private boolean odds;

  @Option(
      names = "--figures",
      paramLabel = "DIR",
      description = "with --odds: what was said against what was got, as SVG")
  private Path figures;

  @Option(names = "--search", description = "search for scales and weights on the setting half")
  private boolean search;

  @Option(names = "--cache", paramLabel = "DIR", description = "where corpus and results are kept")
  private Path cache;

  @Override
  public Integer call() throws UsageException {
    if (!JOBS.contains(job)) {
      throw new UsageException(
          "the bench knows the jobs " + String.join(", ", JOBS) + "; it was asked for " + job);
    }
    if (every < 1) {
      throw new UsageException("--every takes a whole number from 1 on");
    }
    if (sweeps && !job.equals(Job.DENOISE.id())) {
      throw new UsageException("--sweeps goes with --job denoise");
    }
    if (figures != null && !odds) {
      throw new UsageException("--figures goes with --odds");
    }
    PrintWriter out = spec.commandLine().getOut();
    PrintWriter err = spec.commandLine().getErr();
    Choice choice = new Choice(every, only, quick);
    Path home = cache == null ? UserFolders.cache().resolve("calibration") : cache;
    try {
      Consumer<String> said =
          words -> {
            err.println(words);
            err.flush();
          };
      if (odds) {
        Calibration.odds(Job.of(job), home, choice, figures, out, said);
        return 0;
      }
      switch (Job.of(job)) {
        case DECLIP -> Calibration.declip(home, choice, out, said);
        case STEMS -> Calibration.stems(home, choice, out, said);
        case STRETCH, PITCH -> {
          if (!played) {
            Calibration.warp(Job.of(job), home, choice, out, said);
          }
          Calibration.played(Job.of(job), home, choice, out, said);
        }
        case DEREVERB -> Calibration.dereverb(home, choice, out, said);
        case DENOISE -> {
          if (sweeps) {
            Calibration.sweeps(home, choice, out, said);
          } else {
            Calibration.denoise(home, choice, !whole, search, out, said);
          }
        }
      }
      return 0;
    } catch (CalibrationException e) {
      err.println(e.getMessage());
      err.flush();
      return 3;
    }
  }
}
