package kettlesieve.calibrate.trial;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Stream;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.corpus.Catalogue;
import kettlesieve.calibrate.corpus.Packages;
import kettlesieve.calibrate.corpus.RoomMaker;
import kettlesieve.calibrate.corpus.RoomMaterial;
import kettlesieve.calibrate.corpus.RoomScene;
import kettlesieve.calibrate.makers.Dereverbers;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.truth.RoomTruth;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.score.Notice;
import kettlesieve.core.work.CodeVersion;
import kettlesieve.core.work.PreparedExcerpt;

/** Lets the program judge dereverberated versions. */
public final class DereverbBench {
  private static final MatchSettings SETTINGS =
      new MatchSettings(Job.DEREVERB, LevelMode.WANTED, null, null);

  private final RoomMaker scenes;
  private final List<Maker<RoomMaterial>> makers;
  private final Kept<RoomScene, RoomTrial> kept;

  /**
   * @param cache where recordings and results are kept between runs
   */
  public DereverbBench(Path cache) {
    Packages packages = new Packages(cache.resolve("packages"));
    this.scenes = new RoomMaker(Catalogue.shipped(), packages, cache.resolve("decoded"));
    this.makers = Dereverbers.all(cache);
    Path results = cache.resolve("results").resolve(CodeVersion.OWN).resolve("dereverb");
    this.kept = new Kept<>(results, RoomTrial.class, RoomScene::id, this::judge);
  }

  /**
   * Judges scenes.
   *
   * @param choice which sources
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public List<RoomTrial> run(Choice choice, Consumer<String> said) throws CalibrationException {
    return kept.run(RoomScene.all(Catalogue.shipped()), choice, said);
  }

  private RoomTrial judge(RoomScene scene) throws CalibrationException {
    RoomMaterial material = scenes.make(scene);
    RoomTruth truth = RoomTruth.of(material);
    try {
      Path work = Files.createTempDirectory("kettle-dereverb");
      PreparedExcerpt preparedExcerpt =
          PreparedExcerpt.of(material.source(), null, null, null, SETTINGS);
      List<RoomTruth.Figures> truths = new ArrayList<>();
      List<Readings> taken = new ArrayList<>();
      for (Maker<RoomMaterial> maker : makers) {
        Audio version = maker.way().make(material, work);
        MatchedVersion matched = preparedExcerpt.match(version, MatchOverride.NONE);
        RoomTruth.Figures figures =
            Dereverbers.LINEAR.contains(maker.id())
                ? truth.of(
                    matched,
                    maker.way().make(material.wantedAlone(), work).wholeChannel(0),
                    maker.way().make(material.unwantedAlone(), work).wholeChannel(0))
                : truth.of(matched);
        truths.add(figures);
        taken.add(preparedExcerpt.measure(matched));
      }
      List<Verdict> verdicts = Verdict.of(taken, Job.DEREVERB);
      List<RoomTrial.Judged> judged = new ArrayList<>();
      for (int i = 0; i < taken.size(); i++) {
        judged.add(judged(makers.get(i), truths.get(i), taken.get(i), verdicts.get(i)));
      }
      try (Stream<Path> left = Files.list(work)) {
        for (Path file : left.toList()) {
          Files.delete(file);
        }
      }
      Files.delete(work);
      return new RoomTrial(
          scene, preparedExcerpt.warnings().stream().map(Notice::line).toList(), judged);
    } catch (MatchException e) {
      throw new CalibrationException(scene.id() + ": " + e.getMessage(), e);
    } catch (IOException e) {
      throw new CalibrationException("no room for temporary files: " + e.getMessage(), e);
    }
  }

  private static RoomTrial.Judged judged(
      Maker<RoomMaterial> maker, RoomTruth.Figures truth, Readings taken, Verdict said) {
    Map<String, String> reasons = new LinkedHashMap<>();
    taken.notMeasured().forEach(n -> reasons.put(n.measure(), n.reason()));
    return new RoomTrial.Judged(
        maker.id(), maker.kind(), truth.siSdr(), truth.lateLeft(), said, reasons);
  }
}
