package kettlesieve.calibrate.trial;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.corpus.BandMaker;
import kettlesieve.calibrate.corpus.BandScene;
import kettlesieve.calibrate.corpus.Catalogue;
import kettlesieve.calibrate.corpus.Packages;
import kettlesieve.calibrate.corpus.StemMaterial;
import kettlesieve.calibrate.makers.Separators;
import kettlesieve.calibrate.truth.StemTruth;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.measure.stems.StemCells;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.CodeVersion;
import kettlesieve.core.work.PreparedExcerpt;

/** Lets the program judge separated stems. */
public final class StemBench {
  private static final MatchSettings SETTINGS =
      new MatchSettings(Job.STEMS, LevelMode.WANTED, null, null);
  private static final double[] LEAKS = {-60, -40, -30, -20, -10};

  private final BandMaker scenes;
  private final Kept<BandScene, StemTrial> kept;

  /**
   * @param cache where recordings and results are kept between runs
   */
  public StemBench(Path cache) {
    Packages packages = new Packages(cache.resolve("packages"));
    this.scenes = new BandMaker(Catalogue.shipped(), packages, cache.resolve("decoded"));
    Path results = cache.resolve("results").resolve(CodeVersion.OWN).resolve("stems");
    this.kept = new Kept<>(results, StemTrial.class, BandScene::id, this::judge);
  }

  /**
   * Judges scenes.
   *
   * @param choice which sources
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public List<StemTrial> run(Choice choice, Consumer<String> said) throws CalibrationException {
    return kept.run(BandScene.all(Catalogue.shipped()), choice, said);
  }

  private StemTrial judge(BandScene scene) throws CalibrationException {
    StemMaterial material = scenes.make(scene);
    try {
      PreparedExcerpt preparedExcerpt =
          PreparedExcerpt.of(material.mix(), null, null, null, SETTINGS);
      return new StemTrial(
          scene, separated(preparedExcerpt, material), leaking(preparedExcerpt, material));
    } catch (MatchException e) {
      throw new CalibrationException(scene.id() + ": " + e.getMessage(), e);
    }
  }

  private static List<StemTrial.Judged> separated(
      PreparedExcerpt preparedExcerpt, StemMaterial material) throws MatchException {
    Map<String, Map<String, Audio>> tools = new LinkedHashMap<>();
    for (Separators s : Separators.all()) {
      tools.put(s.id(), s.way().apply(material).stems());
    }
    List<StemTrial.Judged> judged = new ArrayList<>();
    measured(preparedExcerpt, tools, Map.of())
        .forEach(
            (tool, taken) -> {
              for (String role : material.stems().keySet()) {
                StemTruth truth = StemTruth.of(material.stems(), role, tools.get(tool).get(role));
                judged.add(
                    new StemTrial.Judged(
                        tool, role, truth, Verdict.of(taken.get(role), Job.STEMS)));
              }
            });
    return judged;
  }

  private static List<StemTrial.Leak> leaking(
      PreparedExcerpt preparedExcerpt, StemMaterial material) throws MatchException {
    List<StemTrial.Leak> leaks = new ArrayList<>();
    for (double db : LEAKS) {
      Map<String, Audio> stems = Separators.leaking(material, db).stems();
      Map<String, Readings> taken =
          measured(preparedExcerpt, Map.of("", stems), material.stems()).get("");
      for (String role : stems.keySet()) {
        Reading bleed = taken.get(role).reading("bleed").orElse(null);
        leaks.add(
            new StemTrial.Leak(
                db,
                role,
                bleed == null ? Double.NaN : bleed.value(),
                bleed == null ? Double.NaN : bleed.detail("floor"),
                Verdict.of(taken.get(role), Job.STEMS)));
      }
    }
    return leaks;
  }

  private static Map<String, Map<String, Readings>> measured(
      PreparedExcerpt preparedExcerpt,
      Map<String, Map<String, Audio>> tools,
      Map<String, Audio> truth)
      throws MatchException {
    Map<String, MatchedStems> matched = new LinkedHashMap<>();
    for (var tool : tools.entrySet()) {
      matched.put(
          tool.getKey(),
          preparedExcerpt.matchStems(tool.getValue(), MatchOverride.NONE, null, Stop.NEVER));
    }
    Map<String, StemCells> cells = preparedExcerpt.cells(matched, truth, Stop.NEVER);
    Map<String, Map<String, Readings>> taken = new LinkedHashMap<>();
    matched.forEach(
        (id, m) ->
            taken.put(
                id,
                preparedExcerpt.measureStems(
                    m, cells.get(id), Scoring.shipped().measures(Job.STEMS), Stop.NEVER)));
    return taken;
  }
}
