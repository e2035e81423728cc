package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.SourceClicks;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.signal.LinearPrediction;
import kettlesieve.core.signal.Statistics;

/** Clicks of the source that were not taken out. */
@AutoService(Measure.class)
public final class ClicksLeft implements PairMeasure {
  private static final int ORDER = 20;
  private static final double PARTLY = 0.25;
  private static final double STICKS_OUT = 6;
  private static final Declaration DECLARATION =
      new Declaration(
          "clicks-left",
          "Clicks left",
          Axis.INFO.in(Job.DENOISE, Job.DEREVERB),
          "per minute",
          false,
          "How many of the clicks of the source are still there, fully or partly. Hard "
              + "consonants are taken for clicks now and then, so it is shown and not scored.",
          "Impulses of the source (residual of an autoregressive model of order 20 over "
              + "18 robust deviations in 40 ms) at whose place the residual of the version "
              + "still has a quarter of that height and stands 6 deviations out of its own.",
          "Detector after Godsill & Rayner, \"Digital Audio Restoration\", Springer 1998, "
              + "chapter 5.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    SourceClicks clicks = pair.source().clicks();
    int blocks = pair.timeline().blocks();
    double[] left = new double[blocks];
    double[] frames = new double[blocks];
    for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
      frames[pair.timeline().block(t)]++;
    }
    PlaceGrid places = PlaceGrid.ofTime(pair.timeline(), 20, pair.framing().sampleRate() / 2.0);
    int before = 0;
    int after = 0;
    for (int c = 0; c < pair.channels(); c++) {
      for (long click : clicks.positions(c)) {
        if (click < pair.firstSample() || click >= pair.endSample()) {
          continue;
        }
        before++;
        double share = share(pair, c, click);
        int frame = pair.frameOf(click);
        if (share >= PARTLY) {
          after++;
          left[pair.timeline().block(frame)]++;
        }
        places.add(frame, 0, 100 * share, 1);
      }
    }
    double minutes = pair.framing().hopSeconds() / 60 * pair.channels();
    Estimate estimate =
        pair.bootstrap()
            .estimate(
                w -> {
                  double sum = 0;
                  double time = 0;
                  for (int b = 0; b < blocks; b++) {
                    sum += w[b] * left[b];
                    time += w[b] * frames[b];
                  }
                  return time > 0 ? sum / (time * minutes) : Double.NaN;
                });
    List<Detail> details = new ArrayList<>();
    details.add(
        new Detail(
            "source", before / ((pair.endFrame() - pair.firstFrame()) * minutes), "per minute"));
    if (before > 0) {
      details.add(new Detail("share", 100.0 * after / before, "%"));
    }
    return Reading.of(DECLARATION.id(), estimate)
        .withDetails(details)
        .withTrace(places.trace())
        .withSpots(places.spots(true, 100 * PARTLY, 1));
  }

  /**
   * Height of the version's residual at a click over that of the source; 0 if nothing sticks out.
   */
  private static double share(Pair pair, int channel, long click) {
    int half = (int) (0.020 * pair.framing().sampleRate());
    double[] before = residual(pair.source().audio(), channel, click, half);
    double[] after = residual(pair.version().audio(), channel, click, half);
    if (before == null || after == null) {
      return 0;
    }
    int near = Math.max(1, pair.framing().sampleRate() / 1000);
    double was = peak(before, half, near);
    double is = peak(after, half, near);
    double deviation = 1.4826 * Statistics.median(after);
    return was > 0 && is > STICKS_OUT * deviation ? Math.min(1, is / was) : 0;
  }

  private static double[] residual(Audio audio, int channel, long click, int half) {
    float[] x = audio.samples(channel, click - half - ORDER, 2 * half + ORDER);
    double[] y = new double[x.length];
    for (int i = 0; i < y.length; i++) {
      y[i] = x[i];
    }
    double[] model = LinearPrediction.of(y, ORDER);
    if (model == null) {
      return null;
    }
    double[] residual = LinearPrediction.residual(y, model);
    for (int i = 0; i < residual.length; i++) {
      residual[i] = Math.abs(residual[i]);
    }
    return residual;
  }

  private static double peak(double[] magnitudes, int middle, int near) {
    double peak = 0;
    for (int i = middle - near; i <= middle + near; i++) {
      peak = Math.max(peak, magnitudes[i]);
    }
    return peak;
  }
}
