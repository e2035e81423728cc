package kettlesieve.calibrate.trial;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.corpus.Packages;
import kettlesieve.calibrate.corpus.ScoreMaker;
import kettlesieve.calibrate.corpus.ScoreScene;
import kettlesieve.calibrate.makers.Stretchers;
import kettlesieve.calibrate.truth.PlayedTruth;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.CodeVersion;
import kettlesieve.core.work.PreparedExcerpt;

/**
 * Lets the program judge versions of what can be played anew at the tempo or pitch that is asked
 * for: the true result is a version like any other.
 */
public final class PlayedBench {
  private static final double[] RATIOS = {0.5, 0.8, 1.25, 2};
  private static final double[] SEMITONES = {-7, -3, 4, 12};

  private final Job job;
  private final ScoreMaker scenes;
  private final Stretchers tools;
  private final Kept<ScoreScene, PlayedTrial> kept;

  /**
   * @param job stretch or pitch
   * @param cache where recordings and results are kept between runs
   */
  public PlayedBench(Job job, Path cache) {
    this.job = job;
    Path work = cache.resolve("work");
    this.scenes = new ScoreMaker(new Packages(cache.resolve("packages")), work);
    this.tools = new Stretchers(work);
    Path results = cache.resolve("results").resolve(CodeVersion.OWN).resolve(job.id() + "-played");
    this.kept = new Kept<>(results, PlayedTrial.class, ScoreScene::id, this::judge);
  }

  /**
   * Judges scenes.
   *
   * @param choice which sources
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public List<PlayedTrial> run(Choice choice, Consumer<String> said) throws CalibrationException {
    List<ScoreScene> all =
        ScoreScene.all().stream().filter(s -> job == Job.STRETCH || s.kind().pitched()).toList();
    return kept.run(all, choice, said);
  }

  private PlayedTrial judge(ScoreScene scene) throws CalibrationException {
    Audio source = scenes.play(scene, 1, 0);
    boolean stretch = job == Job.STRETCH;
    List<PlayedTrial.Judged> judged = new ArrayList<>();
    for (double amount : stretch ? RATIOS : SEMITONES) {
      Audio played = stretch ? scenes.play(scene, amount, 0) : scenes.play(scene, 1, (int) amount);
      Map<String, Audio> versions = new LinkedHashMap<>();
      versions.put(PlayedTrial.TRUE, played);
      versions.putAll(tools.versions(job, source, amount));
      MatchSettings settings =
          new MatchSettings(
              job, LevelMode.WANTED, stretch ? amount : null, stretch ? null : amount);
      try {
        PreparedExcerpt excerpt = PreparedExcerpt.of(source, null, null, null, settings);
        List<Readings> taken = new ArrayList<>();
        for (Audio version : versions.values()) {
          taken.add(
              excerpt.measure(excerpt.matchAny(version, MatchOverride.NONE, null, Stop.NEVER)));
        }
        judged.addAll(judged(amount, versions, played, taken));
      } catch (MatchException e) {
        throw new CalibrationException(scene.id() + ": " + e.getMessage(), e);
      }
    }
    return new PlayedTrial(scene, judged);
  }

  private List<PlayedTrial.Judged> judged(
      double amount, Map<String, Audio> versions, Audio played, List<Readings> taken) {
    List<Verdict> verdicts = Verdict.of(taken, job);
    List<PlayedTrial.Judged> judged = new ArrayList<>();
    for (var version : versions.entrySet()) {
      judged.add(
          new PlayedTrial.Judged(
              version.getKey(),
              amount,
              PlayedTruth.of(played, version.getValue()),
              verdicts.get(judged.size())));
    }
    return judged;
  }
}
