package kettlesieve.calibrate;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.function.Consumer;
import kettlesieve.calibrate.odds.OddsCase;
import kettlesieve.calibrate.odds.OddsCases;
import kettlesieve.calibrate.odds.OddsTables;
import kettlesieve.calibrate.odds.SweepFit;
import kettlesieve.calibrate.tables.DeclipTables;
import kettlesieve.calibrate.tables.DenoiseTables;
import kettlesieve.calibrate.tables.DereverbTables;
import kettlesieve.calibrate.tables.PlayedTables;
import kettlesieve.calibrate.tables.ScaleSearch;
import kettlesieve.calibrate.tables.StemTables;
import kettlesieve.calibrate.tables.StretchTables;
import kettlesieve.calibrate.tables.SweepTables;
import kettlesieve.calibrate.trial.Bench;
import kettlesieve.calibrate.trial.Choice;
import kettlesieve.calibrate.trial.ClipTrial;
import kettlesieve.calibrate.trial.DeclipBench;
import kettlesieve.calibrate.trial.DereverbBench;
import kettlesieve.calibrate.trial.PlayedBench;
import kettlesieve.calibrate.trial.PlayedTrial;
import kettlesieve.calibrate.trial.RoomTrial;
import kettlesieve.calibrate.trial.StemBench;
import kettlesieve.calibrate.trial.StemTrial;
import kettlesieve.calibrate.trial.StretchBench;
import kettlesieve.calibrate.trial.StretchTrial;
import kettlesieve.calibrate.trial.SweepBench;
import kettlesieve.calibrate.trial.SweepTrial;
import kettlesieve.calibrate.trial.Trial;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.score.Scoring;

/** The calibration bench: how far the program's figures agree with the truth. */
public final class Calibration {
  private Calibration() {}

  /**
   * Judges denoised versions and prints the tables.
   *
   * @param cache where corpus and results are kept between runs
   * @param choice which sources
   * @param inHalves whether halves are set against each other
   * @param search whether scales and weights are searched for, too
   * @param out receives the tables
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public static void denoise(
      Path cache,
      Choice choice,
      boolean inHalves,
      boolean search,
      PrintWriter out,
      Consumer<String> said)
      throws CalibrationException {
    List<Trial> trials = new Bench(cache.toAbsolutePath(), inHalves, said).run(choice);
    new DenoiseTables(out, trials).print();
    if (search) {
      new ScaleSearch(trials).print(out);
    }
  }

  /**
   * Judges denoisers from too little to far too much and prints the tables.
   *
   * @param cache where corpus and results are kept between runs
   * @param choice which sources
   * @param out receives the tables
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public static void sweeps(Path cache, Choice choice, PrintWriter out, Consumer<String> said)
      throws CalibrationException {
    List<SweepTrial> trials = new SweepBench(cache.toAbsolutePath()).run(choice, said);
    new SweepTables(out, trials).print();
    new SweepFit(out, trials).print(Scoring.shipped().validity(Job.DENOISE, false));
  }

  /**
   * Judges dereverberated versions and prints the tables.
   *
   * @param cache where recordings and results are kept between runs
   * @param choice which sources
   * @param out receives the tables
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public static void dereverb(Path cache, Choice choice, PrintWriter out, Consumer<String> said)
      throws CalibrationException {
    List<RoomTrial> trials = new DereverbBench(cache.toAbsolutePath()).run(choice, said);
    new DereverbTables(out, trials).print();
  }

  /**
   * Judges declipped versions and prints the tables.
   *
   * @param cache where recordings and results are kept between runs
   * @param choice which sources
   * @param out receives the tables
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public static void declip(Path cache, Choice choice, PrintWriter out, Consumer<String> said)
      throws CalibrationException {
    List<ClipTrial> trials =
        new DeclipBench(cache.toAbsolutePath(), choice.quick()).run(choice, said);
    new DeclipTables(out, trials).print();
  }

  /**
   * Judges separated stems and prints the tables.
   *
   * @param cache where recordings and results are kept between runs
   * @param choice which sources
   * @param out receives the tables
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public static void stems(Path cache, Choice choice, PrintWriter out, Consumer<String> said)
      throws CalibrationException {
    List<StemTrial> trials = new StemBench(cache.toAbsolutePath()).run(choice, said);
    new StemTables(out, trials).print();
  }

  /**
   * Judges stretched or shifted versions and prints the tables.
   *
   * @param job stretch or pitch
   * @param cache where recordings and results are kept between runs
   * @param choice which sources
   * @param out receives the tables
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public static void warp(
      Job job, Path cache, Choice choice, PrintWriter out, Consumer<String> said)
      throws CalibrationException {
    List<StretchTrial> trials = new StretchBench(job, cache.toAbsolutePath()).run(choice, said);
    new StretchTables(out, job, trials).print();
  }

  /**
   * Judges versions of what can be played anew at the tempo or pitch asked for.
   *
   * @param job stretch or pitch
   * @param cache where results are kept between runs
   * @param choice which sources
   * @param out receives the tables
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public static void played(
      Job job, Path cache, Choice choice, PrintWriter out, Consumer<String> said)
      throws CalibrationException {
    List<PlayedTrial> trials = new PlayedBench(job, cache.toAbsolutePath()).run(choice, said);
    new PlayedTables(out, trials).print();
  }

  /**
   * Fits how far scores miss the truth on the setting half and prints what odds made of it come to.
   *
   * @param job which
   * @param cache where corpus and results are kept between runs
   * @param choice which sources
   * @param figures where pictures of what was said and got go; null for none
   * @param out receives the tables
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public static void odds(
      Job job, Path cache, Choice choice, Path figures, PrintWriter out, Consumer<String> said)
      throws CalibrationException {
    Path home = cache.toAbsolutePath();
    switch (job) {
      case DENOISE ->
          odds(out, figures, job.id(), OddsCases.denoise(new Bench(home, false, said).run(choice)));
      case DEREVERB ->
          odds(
              out,
              figures,
              job.id(),
              OddsCases.dereverb(new DereverbBench(home).run(choice, said)));
      case DECLIP ->
          odds(
              out,
              figures,
              job.id(),
              OddsCases.declip(new DeclipBench(home, choice.quick()).run(choice, said)));
      case STEMS -> {
        List<StemTrial> trials = new StemBench(home).run(choice, said);
        odds(out, figures, job.id(), OddsCases.stems(trials, false));
        odds(out, figures, job.id() + " beside true stems", OddsCases.stems(trials, true));
      }
      case STRETCH, PITCH ->
          odds(
              out,
              figures,
              job.id(),
              OddsCases.played(new PlayedBench(job, home).run(choice, said)));
    }
  }

  private static void odds(PrintWriter out, Path figures, String name, List<OddsCase> cases)
      throws CalibrationException {
    OddsTables tables = new OddsTables(out, cases, LocalDate.now(ZoneOffset.UTC).toString());
    tables.print(name);
    if (figures != null) {
      Path file = figures.resolve("odds-" + name.replace(' ', '-') + ".svg");
      try {
        Files.createDirectories(figures);
        WholeFile.write(file, tables.figure(name));
      } catch (IOException e) {
        throw new CalibrationException(file + " cannot be written: " + e.getMessage(), e);
      }
    }
  }
}
