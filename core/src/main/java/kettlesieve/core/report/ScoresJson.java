package kettlesieve.core.report;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.fairness.Fairness;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Limit;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.roundup.ScoredSheet;
import kettlesieve.core.roundup.ScoredVersion;
import kettlesieve.core.roundup.Scores;
import kettlesieve.core.score.BestSet;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.Notice;
import kettlesieve.core.score.RankTests;
import kettlesieve.core.score.ReferenceOrder;
import kettlesieve.core.score.Requirements;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.VersionFacts;
import kettlesieve.core.score.odds.Odds;

/**
 * Writes a score sheet as JSON, schema {@code kettle-sieve/scores/1}. Numbers are rounded to six
 * decimals, so that the text does not carry digits without meaning.
 */
public final class ScoresJson {
  /** The form that is written. */
  public static final String SCHEMA = "kettle-sieve/scores/1";

  private static final JsonNodeFactory NODES = JsonNodeFactory.instance;

  private ScoresJson() {}

  /**
   * The sheet as indented JSON with a line feed at the end.
   *
   * @param base files below this folder are named relative to it, so that the text is the same on
   *     every machine; null to name files as they are
   */
  public static String write(ScoreSheet sheet, Path base) {
    return write(sheet, base, RankTests.overExcerpts(sheet));
  }

  /** The same with rank tests over several excerpts or comparisons. */
  public static String write(ScoreSheet sheet, Path base, Optional<RankTests> tests) {
    ObjectNode root = tree(sheet, base);
    tests.ifPresent(t -> root.set("rankTests", tests(t)));
    return JsonText.indented(root);
  }

  /**
   * The same with what a round-up asks for beside the sheet: the comparison's file, name, tags and
   * making, of each version tool, setting and amount, and how much differences scatter.
   *
   * @param file the comparison's file as it is to be named; null for none
   */
  public static String write(
      ScoreSheet sheet, Comparison comparison, String file, Path base, Optional<RankTests> tests) {
    return JsonText.indented(whole(sheet, comparison, file, base, tests));
  }

  /** That in one line, without a line feed. */
  public static String line(ScoreSheet sheet, Comparison comparison, String file, Path base) {
    return JsonText.line(whole(sheet, comparison, file, base, RankTests.overExcerpts(sheet)));
  }

  /** A line that says that a comparison cannot be used. */
  public static String failedLine(String file, String reason) {
    ObjectNode root = NODES.objectNode();
    root.put("schema", SCHEMA);
    root.put("comparison", file);
    root.putArray("failed").addObject().put("label", "").put("file", file).put("reason", reason);
    return JsonText.line(root);
  }

  private static ObjectNode whole(
      ScoreSheet sheet, Comparison comparison, String file, Path base, Optional<RankTests> tests) {
    ObjectNode root = NODES.objectNode();
    root.put("schema", SCHEMA);
    if (file != null) {
      root.put("comparison", file);
    }
    ScoredComparison scored = ScoredSheet.of("", comparison, sheet);
    if (!scored.name().isEmpty()) {
      root.put("name", scored.name());
    }
    if (!scored.tags().isEmpty()) {
      JsonText.strings(root.putArray("tags"), scored.tags());
    }
    if (scored.made() != null) {
      root.putPOJO("made", scored.made());
    }
    root.putPOJO("validity", scored.validity());
    if (scored.doubt()) {
      root.put("doubt", true);
    }
    root.setAll(tree(sheet, base));
    JsonNode versions = root.get("versions");
    for (int i = 0; i < versions.size(); i++) {
      roundup((ObjectNode) versions.get(i), scored.versions().get(i));
    }
    tests.ifPresent(t -> root.set("rankTests", tests(t)));
    return root;
  }

  private static void roundup(ObjectNode node, ScoredVersion version) {
    if (!version.tool().isEmpty()) {
      node.put("tool", version.tool());
    }
    if (!version.setting().isEmpty()) {
      node.put("setting", version.setting());
    }
    if (version.amount() != null) {
      node.put("amount", version.amount());
    }
    if (!version.choice()) {
      node.put("choice", false);
    }
    deviations(node, version.all());
    version
        .roles()
        .forEach((role, scores) -> deviations((ObjectNode) node.get("roles").get(role), scores));
  }

  private static void deviations(ObjectNode node, Scores scores) {
    if (!scores.deviations().isEmpty()) {
      ObjectNode own = node.putObject("deviations");
      scores.deviations().forEach(own::put);
    }
  }

  private static ObjectNode tree(ScoreSheet sheet, Path base) {
    ObjectNode root = NODES.objectNode();
    root.put("schema", SCHEMA);
    root.put("job", sheet.job().id());
    root.put("profile", sheet.profile().name());
    ObjectNode source = root.putObject("source");
    source.put("file", name(sheet.heading().sourceFile(), base));
    source.put("sha256", sheet.heading().source().sha256());
    source.put("sampleRate", sheet.heading().source().sampleRate());
    source.put("channels", sheet.heading().source().channels());
    JsonText.number(source, "seconds", sheet.heading().source().seconds());
    ArrayNode versions = root.putArray("versions");
    Optional<ReferenceOrder> order = ReferenceOrder.of(sheet, Part.ALL);
    Map<Part, SheetOdds> odds = new HashMap<>();
    for (Entry e : sheet.entries()) {
      ObjectNode node =
          version(sheet, e, base, part -> odds.computeIfAbsent(part, p -> SheetOdds.of(sheet, p)));
      order
          .map(o -> o.places().get(e.version().id()))
          .ifPresent(
              p -> node.putObject("againstReference").put("rank", p.from()).put("rankTo", p.to()));
      versions.add(node);
    }
    BestSet.of(sheet).ifPresent(set -> root.set("bestSet", bestSet(set)));
    ArrayNode failed = root.putArray("failed");
    for (Failure f : sheet.failed()) {
      failed
          .addObject()
          .put("label", f.label())
          .put("file", name(Path.of(f.file()), base))
          .put("reason", f.reason());
    }
    JsonText.strings(
        root.putArray("warnings"), sheet.allNotices().stream().map(Notice::line).toList());
    order.ifPresent(
        o ->
            JsonText.strings(
                root.putArray("disagreements"),
                o.disagreements().stream().map(ReferenceOrder.Disagreement::line).toList()));
    ArrayNode fairness = root.putArray("fairness");
    for (Fairness.Item item : sheet.allFairness()) {
      fairness
          .addObject()
          .put("version", item.version())
          .put("matter", item.matter())
          .put("found", item.found())
          .put("done", item.done());
    }
    return root;
  }

  private static ObjectNode bestSet(BestSet set) {
    ObjectNode node = NODES.objectNode();
    ObjectNode roles = node.putObject("roles");
    set.leaders()
        .forEach(
            (role, leader) -> {
              ObjectNode one = roles.putObject(role).put("label", leader.label());
              JsonText.number(one, "overall", leader.score());
              JsonText.strings(one.putArray("tiedWith"), leader.tied());
            });
    JsonText.strings(node.putArray("set"), set.roles());
    JsonText.number(node, "overall", set.overall());
    set.nullDb().ifPresent(db -> JsonText.number(node, "null", db));
    set.alone()
        .ifPresent(
            a -> {
              JsonText.number(
                  node.putObject("bestTool").put("label", a.label()), "overall", a.overall());
              JsonText.number(node, "gain", set.gain());
            });
    return node;
  }

  private static ObjectNode tests(RankTests tests) {
    ObjectNode node = NODES.objectNode();
    node.put("occasions", tests.occasions());
    ObjectNode friedman = node.putObject("friedman");
    JsonText.number(friedman, "chiSquare", tests.chiSquare());
    JsonText.number(friedman, "p", tests.p());
    ObjectNode ranks = node.putObject("meanRanks");
    for (int i = 0; i < tests.labels().size(); i++) {
      JsonText.number(ranks, tests.labels().get(i), tests.meanRanks()[i]);
    }
    ArrayNode pairs = node.putArray("wilcoxon");
    for (RankTests.Pairing pair : tests.pairs()) {
      ObjectNode one = pairs.addObject();
      one.put("first", tests.labels().get(pair.first()));
      one.put("second", tests.labels().get(pair.second()));
      JsonText.number(one, "statistic", pair.statistic());
      JsonText.number(one, "p", pair.p());
    }
    return node;
  }

  private static ObjectNode version(
      ScoreSheet sheet, Entry entry, Path base, Function<Part, SheetOdds> odds) {
    ObjectNode node = NODES.objectNode();
    VersionFacts version = entry.version();
    node.put("label", version.label());
    if (version.sourceItself()) {
      node.put("sourceItself", true);
    }
    if (version.stems().isEmpty()) {
      node.put("file", name(version.file(), base));
      node.put("sha256", version.facts().sha256());
    } else {
      ObjectNode files = node.putObject("files");
      version.stems().forEach((role, file) -> files.put(role, name(file, base)));
    }
    cost(node, version.cost());
    node.set("match", match(version.match()));
    judged(node, sheet, entry, odds.apply(Part.ALL));
    requirements(node, Requirements.of(entry, sheet.profile()));
    ObjectNode roles = NODES.objectNode();
    for (String role : sheet.roles(version.id())) {
      ObjectNode own = roles.putObject(role);
      if (!version.stems().containsKey(role)) {
        own.put("formed", true);
      }
      sheet
          .entry(Part.ofRole(role), version.id())
          .ifPresent(e -> judged(own, sheet, e, odds.apply(e.part())));
    }
    if (!roles.isEmpty()) {
      node.set("roles", roles);
    }
    return node;
  }

  private static void requirements(ObjectNode node, List<Requirements.Outcome> outcomes) {
    if (outcomes.isEmpty()) {
      return;
    }
    ArrayNode all = node.putArray("requirements");
    for (Requirements.Outcome o : outcomes) {
      ObjectNode one = all.addObject();
      one.put("reading", o.requirement().reading());
      one.put("detail", o.requirement().detail());
      one.put("comparison", o.requirement().comparison());
      JsonText.number(one, "limit", o.requirement().limit());
      o.value().ifPresent(value -> JsonText.number(one, "value", value));
      if (o.bound() != Limit.NONE) {
        one.put("bound", o.bound().words());
      }
      if (o.meets().isPresent()) {
        one.put("meets", o.meets().get());
      } else {
        one.putNull("meets");
      }
    }
  }

  /** Readings, scores and place of a version, or of a part of it. */
  private static void judged(ObjectNode node, ScoreSheet sheet, Entry entry, SheetOdds odds) {
    ArrayNode readings = node.putArray("readings");
    entry.taken().readings().forEach(r -> readings.add(reading(sheet, r)));
    ArrayNode missing = node.putArray("notMeasured");
    for (NotMeasured n : entry.taken().notMeasured()) {
      missing.addObject().put("measure", n.measure()).put("reason", n.reason());
    }
    ObjectNode axes = node.putObject("axes");
    for (Axis axis : Axis.values()) {
      Estimate score = entry.card().axes().get(axis);
      if (score != null) {
        JsonText.number(axes, axis.id(), score.value());
      }
    }
    if (entry.card().overall().isPresent()) {
      JsonText.number(node, "overall", entry.card().overall().get().value());
      node.put("rank", entry.rank());
      node.put("rankTo", entry.rankTo());
    }
    JsonText.strings(node.putArray("tiedWith"), entry.tiedWith());
    odds.of(entry.version().id()).ifPresent(o -> node.set("odds", odds(sheet, o)));
  }

  /** Rounded to tenths of a percent, which is more than any trial tells. */
  private static ObjectNode odds(ScoreSheet sheet, Odds odds) {
    ObjectNode node = NODES.objectNode();
    node.put("best", JsonText.chance(odds.best()));
    ObjectNode better = node.putObject("better");
    for (Measured other : sheet.versions()) {
      Double chance = odds.better().get(other.version().id());
      if (chance != null) {
        better.put(other.version().label(), JsonText.chance(chance));
      }
    }
    return node;
  }

  private static void cost(ObjectNode version, Cost cost) {
    if (cost.none()) {
      return;
    }
    ObjectNode node = version.putObject("cost");
    if (cost.seconds() != null) {
      JsonText.number(node, "seconds", cost.seconds());
    }
    if (cost.processorSeconds() != null) {
      JsonText.number(node, "processorSeconds", cost.processorSeconds());
    }
    if (cost.price() != null) {
      node.put("price", cost.price());
    }
    if (cost.realTime() != null) {
      node.put("realTime", cost.realTime());
    }
    if (cost.memoryBytes() != null) {
      node.put("memoryBytes", cost.memoryBytes());
    }
  }

  private static String name(Path file, Path base) {
    boolean below = base != null && file.isAbsolute() && file.startsWith(base);
    return (below ? base.relativize(file) : file).toString().replace('\\', '/');
  }

  private static ObjectNode match(Match match) {
    ObjectNode node = NODES.objectNode();
    JsonText.number(node, "delayMs", match.delayMs());
    JsonText.number(node, "delaySamples", match.delaySamples());
    node.put("polarity", match.polarity());
    JsonText.number(node, "driftPpm", match.driftPpm());
    JsonText.number(node, "gainDb", match.gainDb());
    JsonText.number(node, "ratio", match.ratio());
    JsonText.number(node, "confidence", match.confidence());
    return node;
  }

  private static ObjectNode reading(ScoreSheet sheet, Reading reading) {
    Declaration declaration = Measures.declaration(reading.measure());
    ObjectNode node = NODES.objectNode();
    node.put("measure", reading.measure());
    node.put("axis", declaration.axis(sheet.job()).id());
    node.put("unit", declaration.unit());
    JsonText.number(node, "value", reading.value());
    if (reading.limit() != Limit.NONE) {
      node.put("limit", reading.limit().words());
    }
    JsonText.number(node, "low", reading.estimate().low());
    JsonText.number(node, "high", reading.estimate().high());
    sheet
        .scoring()
        .scale(declaration, sheet.job())
        .ifPresent(s -> JsonText.number(node, "score", s.score(reading.scored().value())));
    ObjectNode details = node.putObject("details");
    reading.details().forEach(d -> JsonText.number(details, d.key(), d.value()));
    ObjectNode limits = NODES.objectNode();
    for (Detail d : reading.details()) {
      if (reading.limit(d.key()) != Limit.NONE) {
        limits.put(d.key(), reading.limit(d.key()).words());
      }
    }
    if (!limits.isEmpty()) {
      node.set("detailLimits", limits);
    }
    ArrayNode spots = node.putArray("spots");
    for (Spot spot : reading.spots()) {
      ObjectNode place = spots.addObject();
      JsonText.number(place, "from", spot.from());
      JsonText.number(place, "to", spot.to());
      JsonText.number(place, "low", spot.low());
      JsonText.number(place, "high", spot.high());
      JsonText.number(place, "value", spot.value());
    }
    if (!reading.notes().isEmpty()) {
      JsonText.strings(node.putArray("notes"), reading.notes());
    }
    return node;
  }
}
