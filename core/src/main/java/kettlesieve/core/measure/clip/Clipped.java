package kettlesieve.core.measure.clip;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Evidence;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.measure.Trace;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Db;

/** How much of the source is clipped, and how badly. */
@AutoService(Measure.class)
public final class Clipped implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "clipped",
          "Clipped",
          Axis.INFO.in(Job.DECLIP),
          "%",
          false,
          "Share of the source's samples that stand at a ceiling. A few tops pass "
              + "unnoticed; from about 1 % on the voice rasps.",
          "Samples within 0.02 per mille of a level at which flat tops pile up (hard), or "
              + "within 5 % of the peak where half waves stay there far longer than a sine "
              + "(soft), each polarity by itself; passages: runs less than 0.25 s apart.",
          "Kettle Sieve's own definition; checked against the geometry of a clipped sine.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Clipping clipping = pair.source().clipping();
    Timeline timeline = pair.timeline();
    double[] clipped = new double[timeline.blocks()];
    double[] slots = new double[timeline.slots()];
    for (int c = 0; c < pair.channels(); c++) {
      for (int i = 0; i < clipping.runs(c); i++) {
        Clipping.Run run = clipping.run(c, i);
        int frame = pair.frameOf(run.from());
        clipped[timeline.block(frame)] += run.length();
        slots[timeline.slot(frame)] += run.length();
      }
    }
    double samples = (double) pair.source().audio().frames() * pair.channels();
    Estimate estimate =
        pair.bootstrap()
            .estimate(
                w -> {
                  double sum = 0;
                  for (int b = 0; b < clipped.length; b++) {
                    sum += w[b] * clipped[b];
                  }
                  return 100 * sum / samples;
                });
    double[] seconds = new double[slots.length];
    double slotSamples =
        pair.framing().framesIn(0.1) * (double) pair.framing().hop() * pair.channels();
    for (int i = 0; i < slots.length; i++) {
      seconds[i] = timeline.slotMiddle(i);
      slots[i] *= 100 / slotSamples;
    }
    return Reading.of(DECLARATION.id(), estimate)
        .withDetails(details(clipping))
        .withTrace(new Trace(seconds, slots))
        .withSpots(spots(pair, clipping))
        .withNotes(notes(clipping));
  }

  private static List<Detail> details(Clipping clipping) {
    List<Detail> details = new ArrayList<>();
    details.add(new Detail("runs", (double) clipping.runs(), ""));
    details.add(new Detail("longest", (double) clipping.longest(), "samples"));
    if (clipping.any()) {
      details.add(new Detail("level", levelDb(clipping, 0), "dBFS"));
      for (int polarity : new int[] {1, -1}) {
        double level = levelDb(clipping, polarity);
        if (Double.isFinite(level)) {
          details.add(new Detail(polarity > 0 ? "positive" : "negative", level, "dBFS"));
        }
      }
    }
    List<Clipping.Passage> passages = clipping.passages();
    for (Clipping.Severity severity : Clipping.Severity.values()) {
      long count = passages.stream().filter(p -> p.severity() == severity).count();
      details.add(new Detail(severity.name().toLowerCase(Locale.ROOT), (double) count, ""));
    }
    return details;
  }

  /** The highest ceiling of a polarity, or of both for 0, dBFS. */
  private static double levelDb(Clipping clipping, int polarity) {
    double level =
        clipping.ceilings().stream()
            .filter(c -> polarity == 0 || c.polarity() == polarity)
            .mapToDouble(Clipping.Ceiling::level)
            .max()
            .orElse(0);
    return Db.ofAmplitude(level);
  }

  private static List<Spot> spots(Pair pair, Clipping clipping) {
    double start = pair.source().startSeconds();
    return clipping.passages().stream()
        .sorted(Comparator.comparingDouble(p -> -(p.longestSamples() + 100 * p.share())))
        .limit(Evidence.MOST_SPOTS)
        .map(
            p ->
                new Spot(
                    start + p.from(),
                    start + p.to(),
                    20,
                    pair.framing().sampleRate() / 2.0,
                    100 * p.share()))
        .toList();
  }

  private static List<String> notes(Clipping clipping) {
    return clipping.onlySoft()
        ? List.of("the tops are rounded, not cut: the level is where the rounding begins")
        : List.of();
  }
}
