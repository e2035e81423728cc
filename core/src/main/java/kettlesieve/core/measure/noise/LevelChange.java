package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.measure.Trace;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Loudness;
import kettlesieve.core.signal.TruePeak;

/** How much louder or quieter the version was before it was matched. */
@AutoService(Measure.class)
public final class LevelChange implements PairMeasure, SetMeasure, StretchMeasure {
  private static final Analysis.OfSource<Loudness> SOURCE = s -> Loudness.of(s.source().audio());

  private static final Declaration DECLARATION =
      new Declaration(
          "level-change",
          "Level change",
          Axis.INFO.in(Job.values()),
          "LU",
          false,
          "How much louder (+) or quieter (−) the version was as delivered. Louder is easily taken"
              + " for better, so it is matched before anything else is judged.",
          "Integrated loudness of the version minus that of the source, before matching.",
          "ITU-R BS.1770-5; EBU Tech 3341 and 3342.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Audio source = pair.source().audio();
    Audio excerpt = pair.version().aligned();
    boolean whole = source.frames() == pair.source().whole().frames();
    Audio delivered = whole ? pair.version().delivered() : excerpt;
    Loudness before = pair.ofSource(SOURCE);
    Loudness after = Loudness.of(delivered);
    // A version that was neither late nor cut needs no second pass.
    boolean inPlace =
        !whole
            || pair.version().match().delaySamples() == 0
                && delivered.frames() == excerpt.frames()
                && delivered.sampleRate() == excerpt.sampleRate();
    Loudness aligned = inPlace ? after : Loudness.of(excerpt);
    return reading(pair.bootstrap(), pair.timeline(), before, after, aligned, delivered)
        .withTrace(trace(pair.source().startSeconds(), before.momentary(), aligned.momentary()));
  }

  /** All stems of a tool together, against the mix. */
  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    if (!role.isEmpty()) {
      throw new NotMeasurableException("it is a matter of all stems together");
    }
    Loudness before = set.source().shared(SOURCE);
    Audio sum = set.sum();
    Loudness after = Loudness.of(sum);
    return reading(set.source().bootstrap(), set.source().timeline(), before, after, after, sum)
        .withTrace(
            trace(set.source().source().startSeconds(), before.momentary(), after.momentary()));
  }

  /** A version in its own time: it runs differently, so the two have no common course. */
  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    Loudness before = warp.source().shared(SOURCE);
    Audio delivered = warp.version().delivered();
    Loudness after = Loudness.of(delivered);
    return reading(
        warp.source().bootstrap(), warp.source().timeline(), before, after, after, delivered);
  }

  private static Reading reading(
      Bootstrap bootstrap,
      Timeline timeline,
      Loudness before,
      Loudness after,
      Loudness aligned,
      Audio delivered)
      throws NotMeasurableException {
    OptionalDouble beforeLufs = before.integrated();
    OptionalDouble afterLufs = after.integrated();
    if (beforeLufs.isEmpty() || afterLufs.isEmpty()) {
      throw new NotMeasurableException("too short or too quiet for a loudness (ITU-R BS.1770)");
    }
    double value = afterLufs.getAsDouble() - beforeLufs.getAsDouble();
    List<Detail> details = new ArrayList<>();
    details.add(new Detail("loudness", afterLufs.getAsDouble(), "LUFS"));
    double sample = TruePeak.samplePeak(delivered);
    if (sample > 0) {
      double peak = Db.ofAmplitude(TruePeak.of(delivered, sample));
      details.add(new Detail("truePeak", peak, "dBTP"));
      details.add(new Detail("peak", 20 * Math.log10(sample), "dBFS"));
    }
    after.range().ifPresent(range -> details.add(new Detail("range", range, "LU")));
    return Reading.of(
            DECLARATION.id(), interval(bootstrap, timeline.blocks(), before, aligned, value))
        .withDetails(details);
  }

  /** The spread of the difference over blocks of the excerpt, around the value itself. */
  private static Estimate interval(
      Bootstrap bootstrap, int blocks, Loudness before, Loudness after, double value) {
    Estimate drawn =
        bootstrap.estimate(
            w -> after.integrated(spread(w, after)) - before.integrated(spread(w, before)));
    double[] draws = drawn.draws();
    double shift = value - drawn.value();
    for (int i = 0; i < draws.length; i++) {
      draws[i] += shift;
    }
    return new Estimate(value, draws);
  }

  /** The weights of blocks for the windows of a loudness, which may run on another time. */
  private static int[] spread(int[] blockWeights, Loudness loudness) {
    int windows = loudness.momentary().length;
    int blocks = blockWeights.length;
    int[] weights = new int[windows];
    for (int i = 0; i < windows; i++) {
      weights[i] = blockWeights[Math.min(blocks - 1, (int) ((long) i * blocks / windows))];
    }
    return weights;
  }

  private static Trace trace(double startSeconds, double[] before, double[] after) {
    int count = Math.min(before.length, after.length);
    double[] seconds = new double[count];
    double[] values = new double[count];
    for (int i = 0; i < count; i++) {
      seconds[i] = startSeconds + 0.2 + 0.1 * i;
      double change = after[i] - before[i];
      boolean audible = before[i] > -70 && after[i] > -70;
      values[i] = audible ? change : Double.NaN;
    }
    return new Trace(seconds, values);
  }
}
