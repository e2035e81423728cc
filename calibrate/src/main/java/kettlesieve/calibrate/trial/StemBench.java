package kettlesieve.calibrate.trial;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.Consumer;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.corpus.Catalogue;
import kettlesieve.calibrate.corpus.Packages;
import kettlesieve.calibrate.corpus.StemMaterial;
import kettlesieve.calibrate.corpus.StemScene;
import kettlesieve.calibrate.makers.Flaws;
import kettlesieve.calibrate.makers.StemTools;
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

/** Lets the program judge separated stems, in sets of tools as people have them. */
public final class StemBench {
  private static final MatchSettings SETTINGS =
      new MatchSettings(Job.STEMS, LevelMode.WANTED, null, null);
  private static final double[] LEAKS = {-30, -25, -20, -15, -10};
  private static final String TRUE = "true";
  private static final double APART_DB = 1;

  private final StemScene.Maker scenes;
  private final Kept<StemScene, StemTrial> kept;

  /**
   * @param cache where recordings and results are kept between runs
   */
  public StemBench(Path cache) {
    Packages packages = new Packages(cache.resolve("packages"));
    this.scenes = new StemScene.Maker(Catalogue.shipped(), packages, cache.resolve("decoded"));
    Path results = cache.resolve("results").resolve(CodeVersion.OWN).resolve("stems");
    this.kept = new Kept<>(results, StemTrial.class, StemScene::id, this::judge);
  }

  /**
   * Judges scenes.
   *
   * @param choice which sources
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public List<StemTrial> run(Choice choice, Consumer<String> said) throws CalibrationException {
    return kept.run(StemScene.all(Catalogue.shipped()), choice, said);
  }

  /** A set of tools that are judged together. */
  private record ToolSet(String name, boolean byTruth, List<String> tools) {}

  private StemTrial judge(StemScene scene) throws CalibrationException {
    StemMaterial material = scenes.make(scene);
    Map<String, Map<String, Audio>> tools = new LinkedHashMap<>();
    Map<String, String> kinds = new LinkedHashMap<>();
    for (StemTools tool : StemTools.of(scene.half())) {
      tools.put(tool.id(), tool.way().apply(material).stems());
      kinds.put(tool.id(), tool.kind().name());
    }
    tools.put(TRUE, material.stems());
    kinds.put(TRUE, StemTools.Kind.TRUE_STEMS.name());
    var truth = StemTruth.of(material.stems(), tools);
    try {
      PreparedExcerpt mix = PreparedExcerpt.of(material.mix(), null, null, null, SETTINGS);
      Map<String, MatchedStems> matched = new LinkedHashMap<>();
      for (var tool : tools.entrySet()) {
        matched.put(tool.getKey(), matched(mix, tool.getValue()));
      }
      List<StemTrial.Judged> judged = new ArrayList<>();
      List<StemTrial.Pair> pairs = new ArrayList<>();
      List<ToolSet> sets = sets(scene, kinds);
      for (int group = 0; group < sets.size(); group++) {
        judgeSet(mix, material, sets.get(group), group, matched, truth, kinds, judged, pairs);
      }
      return new StemTrial(
          scene.id(), scene.half(), judged, pairs, leaking(mix, material, matched, kinds));
    } catch (MatchException e) {
      throw new CalibrationException(scene.id() + ": " + e.getMessage(), e);
    }
  }

  private static List<String> of(Map<String, String> kinds, StemTools.Kind kind) {
    return kinds.keySet().stream().filter(t -> kinds.get(t).equals(kind.name())).toList();
  }

  private static List<ToolSet> sets(StemScene scene, Map<String, String> kinds) {
    Random random = new Random(scene.id().hashCode());
    List<String> all = new ArrayList<>(kinds.keySet());
    all.remove(TRUE);
    List<ToolSet> sets = new ArrayList<>();
    for (int size : new int[] {8, 5, 3, 2}) {
      for (int i = 0; i < (size == 8 ? 2 : size == 5 ? 3 : 4); i++) {
        java.util.Collections.shuffle(all, random);
        sets.add(new ToolSet(size + " tools", false, List.copyOf(all.subList(0, size))));
      }
    }
    java.util.Collections.shuffle(all, random);
    sets.add(new ToolSet("with true stems", true, List.copyOf(all.subList(0, 8))));
    sets.add(new ToolSet("with true stems", true, List.copyOf(all.subList(8, 16))));
    List<String> unmarked = new ArrayList<>(all.subList(0, 5));
    unmarked.add(TRUE);
    sets.add(new ToolSet("true stems unmarked", false, unmarked));
    List<String> masks = new ArrayList<>(of(kinds, StemTools.Kind.MASK));
    java.util.Collections.shuffle(masks, random);
    List<String> leaks = of(kinds, StemTools.Kind.LEAK);
    for (String near : of(kinds, StemTools.Kind.NEAR)) {
      sets.add(
          new ToolSet("near + 3", false, List.of(near, masks.get(0), masks.get(1), masks.get(2))));
      sets.add(new ToolSet("near + 1", false, List.of(near, masks.get(3))));
      sets.add(new ToolSet("near + 1", false, List.of(near, masks.get(4))));
      sets.add(
          new ToolSet(
              "3 of 4 flawed", false, List.of(leaks.get(0), leaks.get(1), masks.get(0), near)));
      sets.add(
          new ToolSet(
              "3 kin + 1",
              false,
              List.of(near, masks.get(0) + "~", masks.get(0), masks.get(0) + "~~")));
    }
    return sets;
  }

  /** A tool by its name; with tildes a setting of it that is nearly the same. */
  private static MatchedStems tool(
      PreparedExcerpt mix, Map<String, MatchedStems> matched, String name) throws MatchException {
    if (!name.endsWith("~")) {
      return matched.get(name);
    }
    String plain = name.replace("~", "");
    double share = name.endsWith("~~") ? 0.94 : 0.97;
    Map<String, Audio> stems = new LinkedHashMap<>();
    MatchedStems own = matched.get(plain);
    int roles = own.stems().size();
    own.stems()
        .forEach(
            (role, x) -> {
              float[][] out = new float[2][];
              for (int c = 0; c < 2; c++) {
                out[c] = x.wholeChannel(c);
                float[] all = own.mix().wholeChannel(c);
                for (int i = 0; i < all.length; i++) {
                  out[c][i] = (float) (share * out[c][i] + (1 - share) * all[i] / roles);
                }
              }
              stems.put(role, Audio.of(x.sampleRate(), out));
            });
    return matched(mix, stems);
  }

  private static MatchedStems matched(PreparedExcerpt mix, Map<String, Audio> stems)
      throws MatchException {
    return mix.matchStems(stems, MatchOverride.NONE, null, Stop.NEVER);
  }

  private static void judgeSet(
      PreparedExcerpt mix,
      StemMaterial material,
      ToolSet set,
      int group,
      Map<String, MatchedStems> matched,
      Map<String, Map<String, StemTruth>> truth,
      Map<String, String> kinds,
      List<StemTrial.Judged> judged,
      List<StemTrial.Pair> pairs)
      throws MatchException {
    Map<String, MatchedStems> tools = new LinkedHashMap<>();
    for (String name : set.tools()) {
      tools.put(name, tool(mix, matched, name));
    }
    var taken = measured(mix, tools, set.byTruth() ? material.stems() : Map.of());
    for (String role : material.stems().keySet()) {
      List<Readings> own = set.tools().stream().map(name -> taken.get(name).get(role)).toList();
      List<Verdict> verdicts = Verdict.of(own, Job.STEMS);
      for (int i = 0; i < verdicts.size(); i++) {
        String name = set.tools().get(i);
        String plain = name.replace("~", "");
        judged.add(
            new StemTrial.Judged(
                set.name(),
                group,
                name,
                kinds.get(plain),
                role,
                truth.get(plain).get(role),
                offender(own.get(i)),
                verdicts.get(i)));
        for (int j = 0; j < i; j++) {
          pairs.add(pair(set, role, i, j, verdicts, truth));
        }
      }
    }
  }

  private static StemTrial.Pair pair(
      ToolSet set,
      String role,
      int one,
      int other,
      List<Verdict> verdicts,
      Map<String, Map<String, StemTruth>> truth) {
    StemTruth a = truth.get(set.tools().get(one).replace("~", "")).get(role);
    StemTruth b = truth.get(set.tools().get(other).replace("~", "")).get(role);
    double sdr = a.sdr() - b.sdr();
    boolean clear = Math.abs(sdr) > APART_DB && sdr * (a.siSdr() - b.siSdr()) > 0;
    Verdict left = verdicts.get(one);
    Verdict right = verdicts.get(other);
    return new StemTrial.Pair(
        set.name(),
        role,
        set.tools().get(one),
        set.tools().get(other),
        clear,
        sdr > 0,
        left.overall() - right.overall(),
        left.against(right));
  }

  private static String offender(Readings taken) {
    Optional<Reading> bleed = taken.reading("bleed");
    return bleed
        .flatMap(
            r ->
                r.by().stream()
                    .max(java.util.Comparator.comparingDouble(s -> s.figure().estimate().value())))
        .map(s -> s.role())
        .orElse("");
  }

  private static List<StemTrial.Leak> leaking(
      PreparedExcerpt mix,
      StemMaterial material,
      Map<String, MatchedStems> matched,
      Map<String, String> kinds)
      throws MatchException {
    List<StemTrial.Leak> leaks = new ArrayList<>();
    List<String> masks = of(kinds, StemTools.Kind.MASK);
    for (double db : LEAKS) {
      for (boolean byTruth : new boolean[] {true, false}) {
        Map<String, MatchedStems> tools = new LinkedHashMap<>();
        tools.put("leak", matched(mix, Flaws.leaking(material, db, 0).stems()));
        tools.put("a", matched.get(masks.get(0)));
        tools.put("b", matched.get(masks.get(1)));
        tools.put("c", matched.get(of(kinds, StemTools.Kind.NEAR).get(0)));
        var taken = measured(mix, tools, byTruth ? material.stems() : Map.of()).get("leak");
        for (String role : material.stems().keySet()) {
          Map<String, Double> by = new LinkedHashMap<>();
          taken
              .get(role)
              .reading("bleed")
              .ifPresent(r -> r.by().forEach(s -> by.put(s.role(), s.figure().estimate().value())));
          leaks.add(new StemTrial.Leak(byTruth, db, role, by));
        }
      }
    }
    return leaks;
  }

  private static Map<String, Map<String, Readings>> measured(
      PreparedExcerpt mix, Map<String, MatchedStems> tools, Map<String, Audio> truth) {
    Map<String, StemCells> cells = mix.cells(tools, truth, Stop.NEVER);
    Map<String, Map<String, Readings>> taken = new LinkedHashMap<>();
    tools.forEach(
        (id, m) ->
            taken.put(
                id,
                mix.measureStems(
                    m, cells.get(id), Scoring.shipped().measures(Job.STEMS), Stop.NEVER)));
    return taken;
  }
}
