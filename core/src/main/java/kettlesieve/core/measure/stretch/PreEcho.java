package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockRatio;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Biquad;
import kettlesieve.core.signal.Windows;

/** How much of an attack sounds before it. */
@AutoService(Measure.class)
public final class PreEcho implements StretchMeasure {
  private static final double LOW_HZ = 300;
  private static final double SMOOTH_SECONDS = 0.004;
  private static final double FLOOR_DB = -30;
  private static final double CLEAR_DB = -6;
  private static final double LEAD_SECONDS = 0.040;
  private static final double GAP_SECONDS = 0.006;
  private static final double RINGS_SECONDS = 0.15;
  private static final double STEP_SECONDS = 0.02;
  private static final double LEAST_LEAD_SECONDS = 0.015;
  private static final int FEWEST = 3;
  private static final Declaration DECLARATION =
      new Declaration(
          "pre-echo",
          "Pre-echo",
          Axis.ADDED.in(Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How much of an attack is heard before it: drums that whoosh into their strokes. From 3 dB"
              + " on it is plain on percussion.",
          "Power above 300 Hz, smoothed over 4 ms: mean from 40 ms (in a shortened version as much less)"
              + " to 6 ms before a strong attack over"
              + " that of the 20 ms after it, not under −30 dB (less is masked); version minus source, where the"
              + " source's (as long before, or as the map has it: the larger) is under −6 dB; mean over attacks, not below 0.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    List<StretchedHits.Hit> hits = warp.shared(StretchedHits.OF).hits();
    Audio source = warp.source().source().whole().downmix();
    Audio version = warp.version().audio().downmix();
    BlockRatio mean = new BlockRatio(warp.source());
    PlaceGrid places =
        PlaceGrid.ofTime(warp.source().timeline(), LOW_HZ, source.sampleRate() / 2.0);
    // In what is shortened the attack before lies nearer.
    double slope = warp.fit().slope();
    double lead = Math.max(LEAST_LEAD_SECONDS, LEAD_SECONDS * Math.min(1, slope));
    int clear = 0;
    for (StretchedHits.Hit hit : hits) {
      if (hit.beyond()) {
        continue;
      }
      double own = own(source, hit.source(), lead, slope);
      if (!(own < CLEAR_DB)) {
        continue;
      }
      double more = before(version, hit.version(), lead, GAP_SECONDS) - own;
      int frame = warp.frame(hit.source());
      mean.add(warp.source().timeline().block(frame), more, 1);
      places.add(frame, 0, more, 1);
      clear++;
    }
    if (clear < FEWEST) {
      throw new NotMeasurableException("fewer than three attacks that begin out of quiet");
    }
    Estimate estimate = mean.estimate(more -> Math.max(0, more));
    return Reading.of(DECLARATION.id(), estimate)
        .with("attacks", clear, "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(2, estimate.value()), 1));
  }

  /**
   * What the source has before an attack, as long before or as the map has it; where it was
   * shortened also what it had some time earlier, for notes die away no faster than before.
   */
  private static double own(Audio source, double seconds, double lead, double slope) {
    double own =
        Math.max(
            before(source, seconds, lead, GAP_SECONDS),
            before(source, seconds, lead / slope, GAP_SECONDS / slope));
    double back = RINGS_SECONDS * Math.min(1, 1 / slope - 1);
    for (double earlier = STEP_SECONDS; earlier <= back; earlier += STEP_SECONDS) {
      own = Math.max(own, before(source, seconds, lead + earlier, GAP_SECONDS + earlier));
    }
    return own;
  }

  /** What stands before an attack over what follows it, dB. */
  private static double before(Audio audio, double seconds, double leadSeconds, double gapSeconds) {
    int rate = audio.sampleRate();
    int lead = (int) (rate * (0.1 + leadSeconds));
    long from = Math.round(seconds * rate) - lead;
    float[] x = audio.samples(0, from, 2 * lead);
    double[] high = new double[x.length];
    for (int i = 0; i < x.length; i++) {
      high[i] = x[i];
    }
    Biquad.highPass(LOW_HZ, Math.sqrt(0.5), rate).filter(high);
    float[] window = Windows.hann((int) Math.round(SMOOTH_SECONDS * rate) / 2 * 2);
    double quiet =
        power(high, window, lead - (int) (leadSeconds * rate), lead - (int) (gapSeconds * rate));
    double loud = power(high, window, lead, lead + (int) (0.020 * rate));
    return Math.max(FLOOR_DB, 10 * Math.log10(Math.max(quiet, 1e-15) / Math.max(loud, 1e-15)));
  }

  private static double power(double[] x, float[] window, int from, int to) {
    double sum = 0;
    int half = window.length / 2;
    int n = 0;
    for (int i = from; i < to; i += Math.max(1, half / 2)) {
      for (int j = 0; j < window.length; j++) {
        double v = x[Math.max(0, Math.min(x.length - 1, i + j - half))];
        sum += window[j] * v * v;
      }
      n++;
    }
    return sum / Math.max(1, n);
  }
}
