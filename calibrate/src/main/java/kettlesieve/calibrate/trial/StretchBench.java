package kettlesieve.calibrate.trial;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Stream;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.corpus.BandMaker;
import kettlesieve.calibrate.corpus.BandScene;
import kettlesieve.calibrate.corpus.Catalogue;
import kettlesieve.calibrate.corpus.Packages;
import kettlesieve.calibrate.makers.FreePhases;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.CodeVersion;
import kettlesieve.core.work.PreparedExcerpt;

/** Lets the program judge stretched or shifted versions of loops, notes and voices. */
public final class StretchBench {
  /** Windows of the vocoder whose phases run free, samples at 44.1 kHz. */
  public static final List<Integer> WINDOWS = List.of(1024, 2048, 4096, 8192);

  private static final String CHORDS = "chords";

  /** What is shifted; stretched are held chords as well. */
  private static final List<String> MATERIALS = List.of("drums", "vocals", "other");

  private static final double[] RATIOS = {0.67, 0.8, 1, 1.25, 1.5};
  private static final double[] SEMITONES = {-5, -2, 0, 2, 5};
  private static final int LATE = 4000;

  private final Job job;
  private final BandMaker scenes;
  private final Kept<BandScene, StretchTrial> kept;

  /**
   * @param job stretch or pitch
   * @param cache where recordings and results are kept between runs
   */
  public StretchBench(Job job, Path cache) {
    this.job = job;
    Packages packages = new Packages(cache.resolve("packages"));
    this.scenes = new BandMaker(Catalogue.shipped(), packages, cache.resolve("decoded"));
    Path results = cache.resolve("results").resolve(CodeVersion.OWN).resolve(job.id());
    this.kept = new Kept<>(results, StretchTrial.class, BandScene::id, this::judge);
  }

  /** What is judged in a job. */
  public static List<String> materials(Job job) {
    return job == Job.STRETCH
        ? Stream.concat(MATERIALS.stream(), Stream.of(CHORDS)).toList()
        : MATERIALS;
  }

  /** How the vocoder with one of the {@link #WINDOWS} is called. */
  public static String free(int window) {
    return "free-phases-" + window;
  }

  /**
   * Judges scenes.
   *
   * @param choice which sources
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public List<StretchTrial> run(Choice choice, Consumer<String> said) throws CalibrationException {
    return kept.run(BandScene.all(Catalogue.shipped()), choice, said);
  }

  private StretchTrial judge(BandScene scene) throws CalibrationException {
    Map<String, Audio> stems = new HashMap<>(scenes.make(scene).stems());
    stems.put(CHORDS, scenes.chords(scene));
    List<StretchTrial.Judged> judged = new ArrayList<>();
    for (String material : materials(job)) {
      float[] x = stems.get(material).downmix().wholeChannel(0);
      Audio source = Audio.of(stems.get(material).sampleRate(), x);
      for (double amount : job == Job.STRETCH ? RATIOS : SEMITONES) {
        judged.addAll(versions(scene, material, source, amount));
      }
    }
    return new StretchTrial(scene, judged);
  }

  private List<StretchTrial.Judged> versions(
      BandScene scene, String material, Audio source, double amount) throws CalibrationException {
    boolean stretch = job == Job.STRETCH;
    MatchSettings settings =
        new MatchSettings(job, LevelMode.WANTED, stretch ? amount : null, stretch ? null : amount);
    List<StretchTrial.Judged> judged = new ArrayList<>();
    try {
      PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(source, null, null, null, settings);
      Map<String, Readings> taken = new LinkedHashMap<>();
      for (var way : ways(source, amount).entrySet()) {
        taken.put(
            way.getKey(),
            preparedExcerpt.measure(
                preparedExcerpt.matchAny(way.getValue(), MatchOverride.NONE, null, Stop.NEVER)));
      }
      List<String> names = new ArrayList<>(taken.keySet());
      List<Verdict> verdicts = Verdict.of(new ArrayList<>(taken.values()), job);
      for (int i = 0; i < names.size(); i++) {
        judged.add(new StretchTrial.Judged(material, names.get(i), amount, verdicts.get(i)));
      }
      return judged;
    } catch (MatchException e) {
      throw new CalibrationException(scene.id() + " " + material + ": " + e.getMessage(), e);
    }
  }

  private Map<String, Audio> ways(Audio source, double amount) {
    Map<String, Audio> ways = new LinkedHashMap<>();
    boolean stretch = job == Job.STRETCH;
    if (amount == (stretch ? 1 : 0)) {
      ways.put("untouched", source);
      float[] x = source.wholeChannel(0);
      float[] late = new float[x.length];
      for (int i = LATE; i < late.length; i++) {
        late[i] = 0.5f * x[i - LATE];
      }
      ways.put("late-at-half-level", Audio.of(source.sampleRate(), late));
      return ways;
    }
    Setup setup = new Setup(100, stretch ? amount : 1, stretch ? 0 : amount);
    for (StandIn standIn : StandIns.ALL) {
      if (standIn.jobs().contains(job)) {
        ways.put(
            standIn.id(), standIn.make(source, setup, Progress.SILENT).values().iterator().next());
      }
    }
    for (int window : stretch ? WINDOWS : List.<Integer>of()) {
      ways.put(free(window), FreePhases.stretched(source, amount, window));
    }
    return ways;
  }
}
