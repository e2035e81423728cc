package kettlesieve.core.report;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ListeningSheet;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.ears.AbxResult;
import kettlesieve.core.score.ears.EarAgainstFigures;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/** Blind rounds and the answers of others for other programs: every trial, and what follows. */
public final class RoundsFile {
  /** The form of the JSON. */
  public static final String SCHEMA = "kettle-sieve/rounds/1";

  private static final ObjectMapper JSON =
      JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

  private RoundsFile() {}

  private static List<Round> rounds(Comparison comparison) {
    List<Round> all = new ArrayList<>(comparison.rounds());
    comparison.sheets().stream().map(ListeningSheet::rounds).forEach(all::addAll);
    return all;
  }

  /** Every trial as a row: round, kind, question, listener, trial, items, x, answer, position. */
  public static String csv(Comparison comparison) {
    StringBuilder text = new StringBuilder();
    try (CSVPrinter csv = new CSVPrinter(text, CSVFormat.RFC4180)) {
      csv.printRecord(
          "round", "kind", "question", "listener", "trial", "items", "x", "answer", "position");
      for (Round round : rounds(comparison)) {
        int number = 0;
        for (Round.Trial t : round.trials()) {
          csv.printRecord(
              round.id(),
              round.kind().id(),
              round.question().id(),
              ScoresCsv.cell(round.listener()),
              ++number,
              ScoresCsv.cell(
                  String.join(
                      " | ", t.items().stream().map(i -> EarTable.name(comparison, i)).toList())),
              t.x() == null ? "" : ScoresCsv.cell(EarTable.name(comparison, t.x())),
              t.answer() == null ? "" : ScoresCsv.cell(answer(comparison, t.answer())),
              t.position());
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
    return text.toString();
  }

  private static String answer(Comparison comparison, String item) {
    return item.equals(Round.NO_DIFFERENCE) ? "no difference" : EarTable.name(comparison, item);
  }

  /**
   * The rounds with what follows from each.
   *
   * @param sheet the scores to set them against; null for none
   */
  public static String json(Comparison comparison, ScoreSheet sheet) {
    ObjectNode all = JSON.createObjectNode().put("schema", SCHEMA);
    ArrayNode rounds = all.putArray("rounds");
    for (Round round : rounds(comparison)) {
      ObjectNode node = JSON.valueToTree(round);
      ObjectNode labels = node.putObject("labels");
      round.items().forEach(i -> labels.put(i, EarTable.name(comparison, i)));
      if (round.done() && !round.trials().isEmpty()) {
        result(node.putObject("result"), comparison, round, sheet);
      }
      rounds.add(node);
    }
    try {
      return JSON.writeValueAsString(all) + "\n";
    } catch (JsonProcessingException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
  }

  private static void result(
      ObjectNode into, Comparison comparison, Round round, ScoreSheet sheet) {
    ArrayNode words = into.putArray("words");
    RoundWords.lines(comparison, round, sheet).forEach(words::add);
    if (round.kind() == Round.Kind.ABX) {
      AbxResult r = AbxResult.of(round);
      into.put("right", r.right()).put("trials", r.trials()).put("p", r.p());
      into.put("low", r.low()).put("high", r.high()).put("sensitivity", r.sensitivity());
      return;
    }
    Map<String, Estimate> ear = RoundWords.ear(round);
    ObjectNode values = into.putObject("ear");
    ear.forEach(
        (id, e) ->
            values.putObject(id).put("value", e.value()).put("low", e.low()).put("high", e.high()));
    if (sheet != null) {
      EarAgainstFigures.of(ear, round.question(), sheet)
          .filter(f -> Double.isFinite(f.tau().value()))
          .ifPresent(
              f ->
                  into.putObject("againstFigures")
                      .put("tau", f.tau().value())
                      .put("low", f.tau().low())
                      .put("high", f.tau().high())
                      .put("pairs", f.pairs())
                      .put("disagreements", f.disagreements().size()));
    }
  }
}
