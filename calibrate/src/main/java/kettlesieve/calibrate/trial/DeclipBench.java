package kettlesieve.calibrate.trial;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.corpus.Catalogue;
import kettlesieve.calibrate.corpus.ClipMaker;
import kettlesieve.calibrate.corpus.ClipScene;
import kettlesieve.calibrate.corpus.Material;
import kettlesieve.calibrate.corpus.Packages;
import kettlesieve.calibrate.makers.Declippers;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.work.CodeVersion;
import kettlesieve.core.work.PreparedExcerpt;

/** Lets the program judge declipped versions. */
public final class DeclipBench {
  private static final MatchSettings SETTINGS =
      new MatchSettings(Job.DECLIP, LevelMode.WANTED, null, null);

  private final ClipMaker scenes;
  private final List<Maker<Material>> makers;
  private final Kept<ClipScene, ClipTrial> kept;

  /**
   * @param cache where recordings and results are kept between runs
   * @param quick whether the one processor that takes minutes a source is left out
   */
  public DeclipBench(Path cache, boolean quick) {
    Packages packages = new Packages(cache.resolve("packages"));
    this.scenes = new ClipMaker(Catalogue.shipped(), packages, cache.resolve("decoded"));
    this.makers =
        Declippers.all(cache).stream()
            .filter(m -> !quick || !m.id().equals(Declippers.SLOW))
            .toList();
    Path results =
        cache
            .resolve("results")
            .resolve(CodeVersion.OWN)
            .resolve(quick ? "declip-quick" : "declip");
    this.kept = new Kept<>(results, ClipTrial.class, ClipScene::id, this::judge);
  }

  /**
   * Judges scenes.
   *
   * @param choice which sources
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public List<ClipTrial> run(Choice choice, Consumer<String> said) throws CalibrationException {
    return kept.run(ClipScene.all(Catalogue.shipped()), choice, said);
  }

  private ClipTrial judge(ClipScene scene) throws CalibrationException {
    Material material = scenes.make(scene);
    try {
      Path work = Files.createTempDirectory("kettle-declip");
      PreparedExcerpt preparedExcerpt =
          PreparedExcerpt.of(material.source(), null, null, null, SETTINGS);
      List<MatchedVersion> all = new ArrayList<>();
      List<Readings> taken = new ArrayList<>();
      for (Maker<Material> maker : makers) {
        MatchedVersion matched =
            preparedExcerpt.match(maker.way().make(material, work), MatchOverride.NONE);
        all.add(matched);
        taken.add(preparedExcerpt.measure(matched));
      }
      List<Verdict> verdicts = Verdict.of(taken, Job.DECLIP);
      List<ClipTrial.Judged> judged = new ArrayList<>();
      for (int i = 0; i < taken.size(); i++) {
        judged.add(judged(makers.get(i), material, all.get(i), taken.get(i), verdicts.get(i)));
      }
      Files.delete(work);
      return new ClipTrial(scene, judged);
    } catch (MatchException e) {
      throw new CalibrationException(scene.id() + ": " + e.getMessage(), e);
    } catch (IOException e) {
      throw new CalibrationException("no room for temporary files: " + e.getMessage(), e);
    }
  }

  private static ClipTrial.Judged judged(
      Maker<Material> maker,
      Material material,
      MatchedVersion matched,
      Readings taken,
      Verdict said) {
    return new ClipTrial.Judged(
        maker.id(),
        maker.kind(),
        deltaSdr(material, matched, true),
        deltaSdr(material, matched, false),
        taken.reading("est-delta-sdr").map(r -> r.detail("confidence")).orElse(Double.NaN),
        said);
  }

  /** Záviška, Rajmic et al. 2021: on the clipped or on all samples, version minus source. */
  private static double deltaSdr(Material material, MatchedVersion matched, boolean clippedAlone) {
    float[] clean = material.clean().wholeChannel(0);
    float[] source = material.source().wholeChannel(0);
    float[] version = matched.audio().samples(0, 0, clean.length);
    double before = 0;
    double after = 0;
    for (int i = 0; i < clean.length; i++) {
      before += Math.pow((double) source[i] - clean[i], 2);
      if (!clippedAlone || clean[i] != source[i]) {
        after += Math.pow((double) version[i] - clean[i], 2);
      }
    }
    return 10 * Math.log10(before / Math.max(after, 1e-10 * before));
  }
}
