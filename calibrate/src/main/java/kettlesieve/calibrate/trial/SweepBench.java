package kettlesieve.calibrate.trial;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.WorkFolder;
import kettlesieve.calibrate.corpus.Catalogue;
import kettlesieve.calibrate.corpus.Material;
import kettlesieve.calibrate.corpus.Packages;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.corpus.SceneMaker;
import kettlesieve.calibrate.makers.Denoisers;
import kettlesieve.calibrate.truth.Truth;
import kettlesieve.calibrate.truth.Truths;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.score.Notice;
import kettlesieve.core.work.CodeVersion;
import kettlesieve.core.work.PreparedExcerpt;

/** Lets the program judge denoisers from too little to far too much. */
public final class SweepBench {
  private static final double SILENT = 1e-8;

  /** What is true of silence: worse than all else. */
  private static final Truth NOTHING = new Truth(-100, 0, -100, -100, -100, -100, -100, 100);

  private final SceneMaker scenes;
  private final Path work;
  private final Kept<Scene, SweepTrial> kept;

  /**
   * @param cache where recordings and results are kept between runs
   */
  public SweepBench(Path cache) {
    Packages packages = new Packages(cache.resolve("packages"));
    this.scenes = new SceneMaker(Catalogue.shipped(), packages, cache.resolve("decoded"));
    this.work = cache.resolve("work");
    Path results = cache.resolve("results").resolve(CodeVersion.OWN).resolve("sweeps");
    this.kept = new Kept<>(results, SweepTrial.class, Scene::id, this::judge);
  }

  /**
   * Judges scenes.
   *
   * @param choice which sources
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public List<SweepTrial> run(Choice choice, Consumer<String> said) throws CalibrationException {
    return kept.run(Scene.all(Catalogue.shipped()), choice, said);
  }

  /** Far too much of a processor may leave nothing, of which no truth can be taken. */
  private static boolean silent(Audio version, Audio source) {
    return power(version) < SILENT * power(source);
  }

  private static double power(Audio audio) {
    double sum = 0;
    for (float x : audio.wholeChannel(0)) {
      sum += (double) x * x;
    }
    return sum;
  }

  private SweepTrial judge(Scene scene) throws CalibrationException {
    Material material = scenes.make(scene);
    Truths truths = new Truths(material);
    PreparedExcerpt source;
    List<SweepTrial.Sweep> sweeps = new ArrayList<>();
    try {
      source = PreparedExcerpt.of(material.source(), null, null, null);
      for (Denoisers.Sweep sweep : Denoisers.sweeps()) {
        List<Truth> truth = new ArrayList<>();
        List<Readings> taken = new ArrayList<>();
        for (int step = 0; step < Denoisers.AMOUNTS; step++) {
          try (WorkFolder folder = WorkFolder.in(work)) {
            Audio version = sweep.way().make(material, folder.path(), step);
            truth.add(silent(version, material.source()) ? NOTHING : truths.of(version));
            taken.add(source.measure(source.match(version, MatchOverride.NONE)));
          }
        }
        List<Verdict> verdicts = Verdict.of(taken, Job.DENOISE);
        List<SweepTrial.Step> steps = new ArrayList<>();
        for (int step = 0; step < verdicts.size(); step++) {
          steps.add(new SweepTrial.Step(truth.get(step), verdicts.get(step)));
        }
        sweeps.add(new SweepTrial.Sweep(sweep.id(), steps));
      }
    } catch (MatchException e) {
      throw new CalibrationException(scene.id() + ": " + e.getMessage(), e);
    } catch (IOException e) {
      throw new CalibrationException("no room for temporary files: " + e.getMessage(), e);
    }
    return new SweepTrial(scene, source.warnings().stream().map(Notice::line).toList(), sweeps);
  }
}
