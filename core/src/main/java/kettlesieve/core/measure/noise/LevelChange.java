package kettlesieve.core.measure.noise;

import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.OptionalDouble;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Trace;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Loudness;
import kettlesieve.core.signal.TruePeak;

/** How much louder or quieter the version was before it was matched. */
public final class LevelChange implements Measure {
  private static final Declaration DECLARATION =
      new Declaration(
          "level-change",
          "Level change",
          Axis.INFO,
          "LU",
          EnumSet.allOf(Job.class),
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
    Loudness before = pair.sourceLoudness();
    Loudness after = Loudness.of(delivered);
    OptionalDouble beforeLufs = before.integrated();
    OptionalDouble afterLufs = after.integrated();
    if (beforeLufs.isEmpty() || afterLufs.isEmpty()) {
      throw new NotMeasurableException("too short or too quiet for a loudness (ITU-R BS.1770)");
    }
    double value = afterLufs.getAsDouble() - beforeLufs.getAsDouble();
    // A version that was neither late nor cut needs no second pass.
    boolean inPlace =
        !whole
            || pair.version().match().delaySamples() == 0
                && delivered.frames() == excerpt.frames()
                && delivered.sampleRate() == excerpt.sampleRate();
    Loudness aligned = inPlace ? after : Loudness.of(excerpt);
    Map<String, Double> details = new LinkedHashMap<>();
    details.put("loudness", afterLufs.getAsDouble());
    double peak = TruePeak.db(delivered);
    if (Double.isFinite(peak)) {
      details.put("truePeak", peak);
    }
    after.range().ifPresent(range -> details.put("range", range));
    return Reading.of(DECLARATION.id(), interval(pair, before, aligned, value))
        .withDetails(details)
        .withTrace(trace(pair, before.momentary(), aligned.momentary()));
  }

  /** The spread of the difference over blocks of the excerpt, around the value itself. */
  private static Estimate interval(Pair pair, Loudness before, Loudness after, double value) {
    int blocks = pair.timeline().blocks();
    int windows = before.momentary().length;
    Estimate drawn =
        pair.bootstrap()
            .estimate(
                w -> {
                  int[] weights = new int[windows];
                  for (int i = 0; i < windows; i++) {
                    weights[i] = w[Math.min(blocks - 1, (int) ((long) i * blocks / windows))];
                  }
                  return after.integrated(weights) - before.integrated(weights);
                });
    double[] draws = drawn.draws();
    double shift = value - drawn.value();
    for (int i = 0; i < draws.length; i++) {
      draws[i] += shift;
    }
    return new Estimate(value, draws);
  }

  private static Trace trace(Pair pair, double[] before, double[] after) {
    int count = Math.min(before.length, after.length);
    double[] seconds = new double[count];
    double[] values = new double[count];
    for (int i = 0; i < count; i++) {
      seconds[i] = pair.source().startSeconds() + 0.2 + 0.1 * i;
      double change = after[i] - before[i];
      boolean audible = before[i] > -70 && after[i] > -70;
      values[i] = audible ? change : Double.NaN;
    }
    return new Trace(seconds, values);
  }
}
