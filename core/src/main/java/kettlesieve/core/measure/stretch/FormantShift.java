package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;

/** Whether the voice kept its identity. */
@AutoService(Measure.class)
public final class FormantShift implements StretchMeasure {
  private static final double OTHER_LIFTER_SECONDS = 0.002;
  private static final int LEAST_REACH = 40;
  private static final double BEYOND_CENTS = 200;
  private static final double OVERLAP = 0.6;
  private static final double NEAR_CENTS = 100;
  private static final int FEWEST = 20;
  private static final int MANY = 500;
  private static final Declaration DECLARATION =
      new Declaration(
          "formant-shift",
          "Formant shift",
          Axis.LOST.in(Job.PITCH),
          "semitones",
          false,
          "How far the voice's formants moved: at 0 it is the same person at another pitch; where it"
              + " equals the shift, the voice became a smaller or larger person's.",
          "Of a source that is one voice, voiced frames within a semitone of the target: log spectra smoothed by a cepstral lifter"
              + " of 1.25 ms, the same for both files, on a grid of 20 cents from 300 to 5,000 Hz,"
              + " mean and tilt of what overlaps removed; shift of the highest correlation within ±8"
              + " semitones, or two more than the shift asked for, median over frames; the magnitude is scored. Detail: the same with 2 ms.",
          "Kettle Sieve's own definition; cepstral smoothing after Oppenheim & Schafer, IEEE Trans."
              + " Audio Electroacoust. 16, 1968.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    warp.source().shared(SingleVoice.OF).check();
    List<StretchedVoices.Frame> frames = warp.shared(StretchedVoices.OF).frames();
    double asked = 1200 * Math.log(warp.pitch()) / Math.log(2);
    Audio source = warp.source().source().whole().downmix();
    Audio version = warp.version().audio().downmix();
    PlaceGrid places =
        PlaceGrid.ofTime(warp.source().timeline(), Envelope.LOW_HZ, Envelope.HIGH_HZ);
    int reach =
        (int)
            Math.max(
                LEAST_REACH, Math.ceil((Math.abs(asked) + BEYOND_CENTS) / Envelope.GRID_CENTS));
    double most = reach * Envelope.GRID_CENTS / 100.0 + 0.5;
    BlockHistograms moved = new BlockHistograms(warp.source().timeline(), -most, most, 0.01);
    BlockHistograms other = new BlockHistograms(warp.source().timeline(), -most, most, 0.01);
    int count = 0;
    int step = frames.size() > MANY ? 2 : 1;
    for (int i = 0; i < frames.size(); i += step) {
      StretchedVoices.Frame frame = frames.get(i);
      if (!(Math.abs(frame.likelyCents() - asked) <= NEAR_CENTS)) {
        continue;
      }
      int at = warp.frame(frame.source());
      int block = warp.source().timeline().block(at);
      double[] before = Envelope.logSpectrum(source, frame.source());
      double[] after = Envelope.logSpectrum(version, frame.version());
      double shift = shift(before, after, source.sampleRate(), Envelope.LIFTER_SECONDS, reach);
      if (Double.isNaN(shift)) {
        continue;
      }
      moved.add(block, shift, 1);
      other.add(block, shift(before, after, source.sampleRate(), OTHER_LIFTER_SECONDS, reach), 1);
      places.add(at, 0, Math.abs(shift), 1);
      count++;
    }
    if (count < FEWEST) {
      throw new NotMeasurableException(
          "fewer than 20 moments of the version are voiced within a semitone of the pitch asked for");
    }
    Estimate estimate = warp.source().bootstrap().estimate(moved::median);
    double second = warp.source().bootstrap().estimate(other::median).value();
    return Reading.of(DECLARATION.id(), estimate)
        .scoredAs(estimate.map(Math::abs))
        .with("frames", count, "")
        .with("finer", second, "semitones")
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(1, Math.abs(estimate.value())), 1));
  }

  /** How far the envelope of one frame lies above that of another, semitones; NaN at the edge. */
  private static double shift(double[] before, double[] after, int rate, double lifter, int reach) {
    double[] own = Envelope.of(before, rate, lifter);
    double[] other = Envelope.of(after, rate, lifter);
    double[] likeness = new double[2 * reach + 1];
    int best = 0;
    for (int s = -reach; s <= reach; s++) {
      likeness[s + reach] = likeness(own, other, s);
      best = likeness[s + reach] > likeness[best] ? s + reach : best;
    }
    if (best == 0 || best == 2 * reach) {
      return Double.NaN;
    }
    double bend = likeness[best - 1] - 2 * likeness[best] + likeness[best + 1];
    double fraction = bend < 0 ? 0.5 * (likeness[best - 1] - likeness[best + 1]) / bend : 0;
    return (best - reach + fraction) * Envelope.GRID_CENTS / 100.0;
  }

  private static double likeness(double[] a, double[] b, int shift) {
    int from = Math.max(0, -shift);
    int to = Math.min(a.length, b.length - shift);
    if (to - from < OVERLAP * a.length) {
      return -1;
    }
    double middle = (from + to - 1) / 2.0;
    double n = to - from;
    double x = 0;
    double y = 0;
    double tt = 0;
    double tx = 0;
    double ty = 0;
    double xx = 0;
    double yy = 0;
    double xy = 0;
    for (int i = from; i < to; i++) {
      double t = i - middle;
      double own = a[i];
      double other = b[i + shift];
      x += own;
      y += other;
      tt += t * t;
      tx += t * own;
      ty += t * other;
      xx += own * own;
      yy += other * other;
      xy += own * other;
    }
    // Means and tilts of what is compared alone: beyond it, one may end where the other goes on.
    double ownLeft = xx - x * x / n - tx * tx / tt;
    double otherLeft = yy - y * y / n - ty * ty / tt;
    double both = xy - x * y / n - tx * ty / tt;
    return ownLeft > 0 && otherLeft > 0 ? both / Math.sqrt(ownLeft * otherLeft) : -1;
  }
}
