package kettlesieve.calibrate.tables;

import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.function.ToDoubleFunction;
import kettlesieve.calibrate.trial.Trial;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.score.Scale;

/**
 * A score that is made as the program's, but of what is true: each question answered by its own
 * truth, on the straight scale that serves the order best. What it does not reach no reading can
 * bring, for the three truths do not say more of how versions are to be ordered.
 */
final class TruthScore {
  /** What answers a question, and a scale to begin with. */
  private record Answer(String id, ToDoubleFunction<Trial.Judged> truth, Scale scale) {}

  private static final Map<Axis, Answer> ANSWERS = new EnumMap<>(Axis.class);

  static {
    ANSWERS.put(
        Axis.MISSED,
        new Answer("noise-left", v -> v.truth().noiseLeft(), new Scale(-15, 0, 1, false)));
    ANSWERS.put(Axis.ADDED, new Answer("sar", v -> v.truth().sar(), new Scale(30, 0, 1, false)));
    ANSWERS.put(
        Axis.LOST,
        new Answer("speech", v -> v.truth().wantedDistortion(), new Scale(35, 0, 1, false)));
  }

  private final Weighing found;

  /**
   * @param setting trials on which the scales are found
   */
  TruthScore(List<Trial> setting) {
    Map<String, Scale> scales = new LinkedHashMap<>();
    Map<String, Axis> axes = new LinkedHashMap<>();
    ANSWERS.forEach(
        (axis, answer) -> {
          scales.put(answer.id(), answer.scale());
          axes.put(answer.id(), axis);
        });
    List<Trial> told = told(setting);
    ToDoubleFunction<Trial.Judged> truth = Order.overallTruth(told);
    found =
        ScaleSearch.climb(
            new Weighing(scales, axes), w -> Order.correlation(told, w::overall, truth));
  }

  /** Mean rank correlation of this score with the truth over all. */
  double correlation(List<Trial> trials) {
    List<Trial> told = told(trials);
    return Order.correlation(told, found::overall, Order.overallTruth(told));
  }

  /** How many clear pairs this score has right. */
  Order order(List<Trial> trials) {
    return Order.of(told(trials), this::score);
  }

  private OptionalDouble score(Trial.Judged version) {
    return found.overall(version);
  }

  /** The same trials with the truths for readings. */
  private static List<Trial> told(List<Trial> trials) {
    return trials.stream()
        .map(
            t ->
                new Trial(
                    t.scene(), t.notices(), t.versions().stream().map(TruthScore::told).toList()))
        .toList();
  }

  private static Trial.Judged told(Trial.Judged v) {
    Map<String, Trial.Figure> truths = new LinkedHashMap<>();
    ANSWERS
        .values()
        .forEach(
            answer -> {
              double is = answer.truth().applyAsDouble(v);
              truths.put(answer.id(), new Trial.Figure(is, is, is, is, is, is));
            });
    return new Trial.Judged(
        v.maker(),
        v.kind(),
        v.truth(),
        truths,
        Map.of(),
        v.axes(),
        v.overall(),
        v.rank(),
        v.rankTo(),
        List.of(),
        v.draws());
  }
}
