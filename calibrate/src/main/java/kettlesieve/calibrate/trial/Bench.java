package kettlesieve.calibrate.trial;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.corpus.Catalogue;
import kettlesieve.calibrate.corpus.Material;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Notice;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.work.CodeVersion;
import kettlesieve.core.work.PreparedExcerpt;

/** Lets the program judge every scene; what it said is kept for the same code. */
public final class Bench {
  private final Corpus corpus;
  private final Path results;
  private final boolean inHalves;
  private final Consumer<String> said;

  /**
   * @param cache where corpus and results are kept between runs
   * @param inHalves whether each half is judged by itself, too, as the table of intervals needs
   * @param said told how it goes on
   */
  public Bench(Path cache, boolean inHalves, Consumer<String> said) {
    this.corpus = new Corpus(cache);
    this.inHalves = inHalves;
    this.results = cache.resolve("results").resolve(CodeVersion.OWN + (inHalves ? "" : "-whole"));
    this.said = said;
  }

  /**
   * Judges scenes, two at a time or as many as there are processors.
   *
   * @param choice which sources
   * @throws CalibrationException if something that is needed cannot be had
   */
  public List<Trial> run(Choice choice) throws CalibrationException {
    return new Kept<>(results, Trial.class, Scene::id, this::judge)
        .run(Scene.all(Catalogue.shipped()), choice, said);
  }

  private Trial judge(Scene scene) throws CalibrationException {
    try {
      return judged(scene);
    } catch (MatchException e) {
      throw new CalibrationException(scene.id() + ": " + e.getMessage(), e);
    }
  }

  private record Measured(Maker<Material> maker, Readings whole, List<Readings> halves) {}

  private Trial judged(Scene scene) throws CalibrationException, MatchException {
    Path own = corpus.made(scene);
    Audio source = corpus.audio(own, "source");
    double middle = source.seconds() / 2;
    PreparedExcerpt whole = PreparedExcerpt.of(source, null, null, null);
    List<PreparedExcerpt> halves = new ArrayList<>();
    if (inHalves) {
      halves.add(PreparedExcerpt.of(source, null, new TimeSpan(0, middle), null));
      halves.add(PreparedExcerpt.of(source, null, new TimeSpan(middle, source.seconds()), null));
    }
    List<Measured> measured = new ArrayList<>();
    for (Maker<Material> maker : corpus.makers()) {
      Audio version = corpus.audio(own, maker.id());
      List<Readings> parts = new ArrayList<>();
      for (PreparedExcerpt half : halves) {
        parts.add(half.measure(half.match(version, MatchOverride.NONE)));
      }
      Readings taken = whole.measure(whole.match(version, MatchOverride.NONE));
      // A table without it would look as if it had been measured and told nothing.
      for (NotMeasured not : taken.notMeasured()) {
        if (not.reason().equals(Measures.BROKE_DOWN)) {
          throw new CalibrationException(
              scene.id() + ", " + maker.id() + ": " + not.measure() + " broke down");
        }
      }
      measured.add(new Measured(maker, taken, parts));
    }
    Scoring scoring = Scoring.shipped();
    List<Card> cards =
        Card.placed(
            measured.stream()
                .map(
                    m ->
                        Card.of(
                            m.whole().readings(),
                            scoring,
                            scoring.profileOrDefault(null),
                            Job.DENOISE))
                .toList());
    List<Trial.Judged> judged = new ArrayList<>();
    for (int i = 0; i < cards.size(); i++) {
      Maker<Material> maker = measured.get(i).maker();
      judged.add(judged(measured.get(i), cards, i, corpus.truth(own, maker)));
    }
    return new Trial(scene, whole.warnings().stream().map(Notice::line).toList(), judged);
  }

  private static Trial.Judged judged(
      Measured m, List<Card> cards, int at, kettlesieve.calibrate.truth.Truth truth) {
    Card card = cards.get(at);
    int better = 0;
    int worse = 0;
    int scored = 0;
    for (Card other : cards) {
      if (other.overall().isEmpty() || card.overall().isEmpty()) {
        continue;
      }
      scored++;
      int order = ScoreSheet.compare(other.overall().get(), card.overall().get());
      better += order > 0 ? 1 : 0;
      worse += order < 0 ? 1 : 0;
    }
    Map<String, Trial.Score> axes = new LinkedHashMap<>();
    for (Axis axis : Axis.values()) {
      if (card.axes().containsKey(axis)) {
        axes.put(axis.id(), score(card.axes().get(axis)));
      }
    }
    Map<String, String> reasons = new LinkedHashMap<>();
    m.whole().notMeasured().forEach(n -> reasons.put(n.measure(), n.reason()));
    boolean placed = card.overall().isPresent();
    return new Trial.Judged(
        m.maker().id(),
        m.maker().kind(),
        truth,
        figures(m.whole()),
        reasons,
        axes,
        card.overall().map(Bench::score).orElse(null),
        placed ? better + 1 : 0,
        placed ? scored - worse : 0,
        m.halves().stream().map(Bench::figures).toList(),
        card.overall().map(Verdict::draws).orElse(new float[0]));
  }

  private static Trial.Score score(Estimate e) {
    return new Trial.Score(e.value(), e.low(), e.high());
  }

  private static Map<String, Trial.Figure> figures(Readings taken) {
    Map<String, Trial.Figure> figures = new LinkedHashMap<>();
    for (Reading r : taken.readings()) {
      figures.put(
          r.measure(),
          new Trial.Figure(
              r.value(),
              r.scored().value(),
              r.estimate().low(),
              r.estimate().high(),
              r.scored().low(),
              r.scored().high()));
    }
    return figures;
  }
}
