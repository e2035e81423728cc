package kettlesieve.core.report;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.JsonSerializable;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.jsontype.TypeSerializer;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.io.OutputStream;
import java.util.Map;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.roundup.Agreement;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.roundup.RoundupCost;
import kettlesieve.core.roundup.RoundupTests;
import kettlesieve.core.roundup.ScoredComparison;

/** Writes a round-up as JSON, schema {@code kettle-sieve/roundup/1}. */
public final class RoundupJson {
  private RoundupJson() {}

  /**
   * Indented JSON with a line feed at the end.
   *
   * @param cores processors of the machine that {@code atOnce} is told for
   */
  public static String write(Roundup roundup, int cores) {
    return JsonText.indented(tree(roundup, cores));
  }

  /**
   * The same to a stream, which stays open: over ten thousand recordings it is long.
   *
   * @throws IOException if it cannot be written
   */
  public static void write(Roundup roundup, int cores, OutputStream out) throws IOException {
    JsonText.indented(tree(roundup, cores), out);
  }

  private static ObjectNode tree(Roundup roundup, int cores) {
    ObjectNode root = JsonNodeFactory.instance.objectNode();
    root.put("schema", "kettle-sieve/roundup/1");
    root.put("job", roundup.job().id());
    root.put("profile", roundup.profile());
    root.put("by", roundup.by().id());
    root.put("of", roundup.aspect().what());
    if (!roundup.aspect().role().isEmpty()) {
      root.put("role", roundup.aspect().role());
    }
    ArrayNode comparisons = root.putArray("comparisons");
    for (ScoredComparison c : roundup.comparisons()) {
      ObjectNode one = comparisons.addObject();
      one.put("file", c.file());
      one.put("name", c.title());
      JsonText.strings(one.putArray("tags"), c.tags());
      if (c.made() != null) {
        one.putPOJO("made", c.made());
      }
    }
    table(root, roundup, roundup.all(), cores);
    ObjectNode byTag = root.putObject("byTag");
    roundup.byTag().forEach((tag, t) -> table(byTag.putObject(tag), roundup, t, cores));
    Agreement.of(roundup)
        .ifPresent(
            a -> {
              ObjectNode agreement = root.putObject("agreement");
              agreement.put("measure", a.measure());
              agreement.put("clearFrom", a.clearFrom());
              share(agreement, a.all());
              ObjectNode kinds = agreement.putObject("byKind");
              a.byKind().forEach((kind, s) -> share(kinds.putObject(kind), s));
            });
    ArrayNode failed = root.putArray("failed");
    for (ScoredComparison.Failed f : roundup.failed()) {
      ObjectNode one = failed.addObject();
      one.put("file", f.file());
      if (!f.label().isEmpty()) {
        one.put("label", f.label());
      }
      one.put("reason", f.reason());
    }
    return root;
  }

  private static void share(ObjectNode to, Agreement.Share share) {
    to.put("pairs", share.pairs())
        .put("agree", share.agree())
        .put("clear", share.clear())
        .put("clearAgree", share.clearAgree());
  }

  private static void table(ObjectNode to, Roundup roundup, Roundup.Table table, int cores) {
    ArrayNode entries = to.putArray("entries");
    for (Roundup.Row e : table.entries()) {
      ObjectNode one = entries.addObject();
      one.put("name", e.name());
      JsonText.number(one, "mean", e.mean());
      JsonText.number(one, "low", e.low());
      JsonText.number(one, "high", e.high());
      one.put("wins", e.wins());
      one.put("ties", e.ties());
      one.put("measured", e.measured());
      one.put("missing", table.recordings() - e.measured());
      e.worst(roundup.direction())
          .ifPresent(
              w -> {
                ObjectNode worst = one.putObject("worst");
                worst.put("comparison", roundup.comparisons().get(w.getKey()).file());
                JsonText.number(worst, "value", w.getValue().value());
              });
      one.putPOJO("cells", new Cells(roundup, e));
      if (!e.cost().none()) {
        cost(one.putObject("cost"), e.cost(), cores);
      }
      if (Double.isFinite(e.best())) {
        ObjectNode odds = one.putObject("odds");
        odds.put("best", JsonText.chance(e.best()));
        ObjectNode better = odds.putObject("better");
        for (Map.Entry<String, Double> b : e.better().entrySet()) {
          better.put(b.getKey(), JsonText.chance(b.getValue()));
        }
      }
    }
    table.tests().ifPresent(t -> tests(to.putObject("tests"), t));
  }

  /** The cells of a row, made one by one as they are written. */
  private record Cells(Roundup roundup, Roundup.Row row) implements JsonSerializable {
    @Override
    public void serialize(JsonGenerator to, SerializerProvider provider) throws IOException {
      to.writeStartArray();
      for (Map.Entry<Integer, Roundup.Cell> e : row.cells().entrySet()) {
        ObjectNode one = JsonNodeFactory.instance.objectNode();
        cell(one, roundup, e.getKey(), e.getValue());
        to.writeTree(one);
      }
      to.writeEndArray();
    }

    @Override
    public void serializeWithType(
        JsonGenerator to, SerializerProvider provider, TypeSerializer type) throws IOException {
      serialize(to, provider);
    }
  }

  private static void cell(ObjectNode to, Roundup roundup, int comparison, Roundup.Cell cell) {
    to.put("comparison", roundup.comparisons().get(comparison).file());
    to.put("version", cell.label());
    if (cell.of() > 1) {
      to.put("bestOf", cell.of());
    }
    if (!roundup.aspect().overall()) {
      JsonText.number(to, "value", cell.value());
    }
    if (cell.scores().overall() != null) {
      JsonText.number(to, "overall", cell.scores().overall());
    }
    for (Axis axis : Axis.values()) {
      Double score = cell.scores().axes().get(axis.id());
      if (score != null) {
        JsonText.number(to, axis.id(), score);
      }
    }
    if (cell.scores().rank() > 0) {
      to.put("rank", cell.scores().rank());
      to.put("rankTo", cell.scores().rankTo());
    }
  }

  private static void cost(ObjectNode to, RoundupCost cost, int cores) {
    JsonText.number(to, "timeRatio", cost.timeRatio());
    JsonText.number(to, "processorRatio", cost.processorRatio());
    JsonText.number(to, "atOnce", cost.atOnce(cores));
    if (cost.memoryBytes() > 0) {
      to.put("memoryBytes", cost.memoryBytes());
    }
    if (!cost.price().isEmpty()) {
      to.put("price", cost.price());
    }
    if (cost.realTime() != null) {
      to.put("realTime", cost.realTime());
    }
  }

  private static void tests(ObjectNode to, RoundupTests tests) {
    if (Double.isFinite(tests.p())) {
      ObjectNode friedman = to.putObject("friedman");
      JsonText.number(friedman, "chiSquare", tests.chiSquare());
      friedman.put("p", tests.p());
      friedman.put("n", tests.recordings());
      JsonText.strings(friedman.putArray("of"), tests.names());
    }
    ArrayNode pairs = to.putArray("pairs");
    for (RoundupTests.Pair p : tests.pairs()) {
      pairs
          .addObject()
          .put("a", p.a())
          .put("b", p.b())
          .put("better", p.better())
          .put("worse", p.worse())
          .put("equal", p.equal())
          .put("p", p.p())
          .put("pHolm", p.corrected());
    }
  }
}
