package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.Arrays;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Clicks;

/** Clicks where pieces were joined. */
@AutoService(Measure.class)
public final class JoinClicks implements StretchMeasure {
  private static final double DEVIATIONS = 12;

  /** What is not that much over what the source has near by was there. */
  private static final double OVER_SOURCE = 2;

  private static final double NEAR_SECONDS = 0.030;
  private static final double TOGETHER_SECONDS = 0.004;
  private static final double STEP = 0.005;
  private static final Declaration DECLARATION =
      new Declaration(
          "join-clicks",
          "Clicks at joins",
          Axis.ADDED.in(Job.STRETCH, Job.PITCH),
          "per second",
          false,
          "Ticks and crackle that were not there: pieces were joined where they do not fit. Single"
              + " ones pass on drums; one a second is heard in everything that sounds on.",
          "Samples of the version whose residual of linear prediction (order 20, 40 ms) is over 12"
              + " robust deviations and twice the largest of the source within 30 ms (of the version,"
              + " where that is shorter) of the"
              + " mapped moment at its level; those within 4 ms are one; over the time of the version.",
          "Detector after Godsill & Rayner, \"Digital Audio Restoration\", Springer 1998, chapter"
              + " 5; what it is compared with is Kettle Sieve's own definition.");

  /** The largest residual of the source's excerpt in steps of 5 ms. */
  private static final Analysis.OfSource<float[]> SOURCE =
      source -> largest(source.source().audio().downmix());

  private static float[] largest(Audio audio) {
    float[] largest = new float[(int) Math.ceil(audio.seconds() / STEP) + 1];
    Clicks.scan(
        audio,
        0,
        0,
        (sample, deviations, residual) -> {
          int at = (int) (sample / (STEP * audio.sampleRate()));
          largest[at] = Math.max(largest[at], (float) residual);
        });
    return largest;
  }

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp)
      throws kettlesieve.core.measure.NotMeasurableException {
    float[] own = warp.source().shared(SOURCE);
    Audio version = warp.version().levelled().downmix();
    int rate = version.sampleRate();
    double start = warp.source().source().startSeconds();
    double end = start + warp.source().source().audio().seconds();
    int blocks = warp.source().timeline().blocks();
    double[] clicks = new double[blocks];
    PlaceGrid places = PlaceGrid.ofTime(warp.source().timeline(), 1000, rate / 2.0);
    // What lies before and after the excerpt is no matter of it.
    long from = Math.max(0, (long) (warp.fit().map().at(start) * rate));
    long to = Math.min(version.frames(), (long) (warp.fit().map().at(end) * rate));
    double[] last = {Double.NEGATIVE_INFINITY};
    int[] count = {0};
    Clicks.scan(
        version.slice(from, Math.max(from, to)),
        0,
        DEVIATIONS,
        (sample, deviations, residual) -> {
          double there = (double) (from + sample) / rate;
          double at = warp.fit().map().inverse(there);
          if (at < start || at >= end || there - last[0] < TOGETHER_SECONDS) {
            return;
          }
          if (residual
              > OVER_SOURCE
                  * near(own, at - start, NEAR_SECONDS * Math.max(1, 1 / warp.fit().slope()))) {
            last[0] = there;
            int frame = warp.frame(at);
            clicks[warp.source().timeline().block(frame)]++;
            places.add(frame, 0, 1, 1);
            count[0]++;
          }
        });
    double seconds = warp.fit().slope() * (end - start) / blocks;
    Estimate estimate =
        warp.source()
            .bootstrap()
            .estimate(
                w -> {
                  double sum = 0;
                  for (int b = 0; b < w.length; b++) {
                    sum += w[b] * clicks[b];
                  }
                  return sum / (seconds * Arrays.stream(w).sum());
                });
    return Reading.of(DECLARATION.id(), estimate)
        .with("clicks", count[0], "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, 0, 1));
  }

  private static double near(float[] largest, double seconds, double reach) {
    int from = (int) Math.floor((seconds - reach) / STEP);
    int to = (int) Math.ceil((seconds + reach) / STEP);
    double most = 0;
    for (int i = Math.max(0, from); i <= Math.min(largest.length - 1, to); i++) {
      most = Math.max(most, largest[i]);
    }
    return most;
  }
}
