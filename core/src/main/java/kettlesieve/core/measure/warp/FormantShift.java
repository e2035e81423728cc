package kettlesieve.core.measure.warp;

import com.google.auto.service.AutoService;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Warp;
import kettlesieve.core.measure.WarpMeasure;
import kettlesieve.core.measure.cells.WarpVoices;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/** Whether the voice kept its identity. */
@AutoService(Measure.class)
public final class FormantShift implements WarpMeasure {
  private static final double WINDOW_SECONDS = 0.045;
  private static final double LIFTER_SECONDS = 0.00125;
  private static final double OTHER_LIFTER_SECONDS = 0.002;
  private static final double SOFT_END = 0.15;
  private static final double LOW_HZ = 300;
  private static final double HIGH_HZ = 5000;
  private static final int GRID_CENTS = 20;
  private static final int REACH = 40;
  private static final double OVERLAP = 0.6;
  private static final double NEAR_CENTS = 100;
  private static final int FEWEST = 20;
  private static final int MANY = 500;
  private static final double LEAST_POWER = 1e-12;
  private static final Declaration DECLARATION =
      new Declaration(
          "formant-shift",
          "Formant shift",
          Axis.LOST.in(Job.PITCH),
          "semitones",
          false,
          "How far the voice's formants moved: at 0 it is the same person at another pitch; where it"
              + " equals the shift, the voice became a smaller or larger person's.",
          "Voiced frames within a semitone of the target: log spectra smoothed by a cepstral lifter"
              + " of 1.25 ms, the same for both files, on a grid of 20 cents from 300 to 5,000 Hz,"
              + " their tilt removed; shift of the highest correlation within ±8 semitones, median"
              + " over frames; the magnitude is scored. Detail: the same with 2 ms.",
          "Kettle Sieve's own definition; cepstral smoothing after Oppenheim & Schafer, IEEE Trans."
              + " Audio Electroacoust. 16, 1968.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Warp warp) throws NotMeasurableException {
    List<WarpVoices.Frame> frames = warp.shared(WarpVoices.OF).frames();
    double asked = 1200 * Math.log(warp.pitch()) / Math.log(2);
    Audio source = warp.source().source().whole().downmix();
    Audio version = warp.version().audio().downmix();
    BlockHistograms moved = new BlockHistograms(warp.source().timeline(), -8.5, 8.5, 0.01);
    BlockHistograms other = new BlockHistograms(warp.source().timeline(), -8.5, 8.5, 0.01);
    PlaceGrid places = PlaceGrid.ofTime(warp.source().timeline(), LOW_HZ, HIGH_HZ);
    int count = 0;
    int step = frames.size() > MANY ? 2 : 1;
    for (int i = 0; i < frames.size(); i += step) {
      WarpVoices.Frame frame = frames.get(i);
      if (!(Math.abs(frame.likelyCents() - asked) <= NEAR_CENTS)) {
        continue;
      }
      int at = warp.frame(frame.source());
      int block = warp.source().timeline().block(at);
      double[] before = logSpectrum(source, frame.source());
      double[] after = logSpectrum(version, frame.version());
      double shift = shift(before, after, source.sampleRate(), LIFTER_SECONDS);
      if (Double.isNaN(shift)) {
        continue;
      }
      moved.add(block, shift, 1);
      other.add(block, shift(before, after, source.sampleRate(), OTHER_LIFTER_SECONDS), 1);
      places.add(at, 0, Math.abs(shift), 1);
      count++;
    }
    if (count < FEWEST) {
      throw new NotMeasurableException("there is no single voice to follow");
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

  /** Log power of a frame, twice as finely as its length gives, from 0 Hz to Nyquist. */
  private static double[] logSpectrum(Audio audio, double seconds) {
    int rate = audio.sampleRate();
    int length = (int) Math.round(WINDOW_SECONDS * rate) / 2 * 2;
    int padded = Fft.powerOfTwo(2L * length);
    float[] x =
        java.util.Arrays.copyOf(
            audio.samples(0, Math.round(seconds * rate) - length / 2, length), padded);
    float[] window = Windows.hann(length);
    for (int i = 0; i < length; i++) {
      x[i] *= window[i];
    }
    Fft.forward(x);
    double[] log = new double[padded / 2 + 1];
    log[0] = Math.log(Math.max(LEAST_POWER, (double) x[0] * x[0]));
    log[padded / 2] = Math.log(Math.max(LEAST_POWER, (double) x[1] * x[1]));
    for (int k = 1; k < padded / 2; k++) {
      double power = (double) x[2 * k] * x[2 * k] + (double) x[2 * k + 1] * x[2 * k + 1];
      log[k] = Math.log(Math.max(LEAST_POWER, power));
    }
    return log;
  }

  /** How far the envelope of one frame lies above that of another, semitones; NaN at the edge. */
  private static double shift(double[] before, double[] after, int rate, double lifter) {
    double[] own = envelope(before, rate, lifter);
    double[] other = envelope(after, rate, lifter);
    double[] likeness = new double[2 * REACH + 1];
    int best = 0;
    for (int s = -REACH; s <= REACH; s++) {
      likeness[s + REACH] = likeness(own, other, s);
      best = likeness[s + REACH] > likeness[best] ? s + REACH : best;
    }
    if (best == 0 || best == 2 * REACH) {
      return Double.NaN;
    }
    double bend = likeness[best - 1] - 2 * likeness[best] + likeness[best + 1];
    double fraction = bend < 0 ? 0.5 * (likeness[best - 1] - likeness[best + 1]) / bend : 0;
    return (best - REACH + fraction) * GRID_CENTS / 100.0;
  }

  private static double likeness(double[] a, double[] b, int shift) {
    int from = Math.max(0, -shift);
    int to = Math.min(a.length, b.length - shift);
    if (to - from < OVERLAP * a.length) {
      return -1;
    }
    double n = to - from;
    double[] sums = new double[5];
    for (int i = from; i < to; i++) {
      double x = a[i];
      double y = b[i + shift];
      sums[0] += x;
      sums[1] += y;
      sums[2] += x * x;
      sums[3] += y * y;
      sums[4] += x * y;
    }
    double xx = sums[2] - sums[0] * sums[0] / n;
    double yy = sums[3] - sums[1] * sums[1] / n;
    return xx > 0 && yy > 0 ? (sums[4] - sums[0] * sums[1] / n) / Math.sqrt(xx * yy) : -1;
  }

  /** Smoothed log spectrum on the grid, less its straight line. */
  private static double[] envelope(double[] log, int rate, double lifterSeconds) {
    int length = 2 * (log.length - 1);
    double[] cepstrum = new double[length];
    cepstrum[0] = log[0];
    cepstrum[1] = log[length / 2];
    for (int k = 1; k < length / 2; k++) {
      cepstrum[2 * k] = log[k];
    }
    Fft.inverse(cepstrum);
    double cut = lifterSeconds * rate;
    for (int n = 0; n < length; n++) {
      double q = Math.min(n, length - n);
      double over = (q - cut) / (SOFT_END * cut);
      double keep = over <= 0 ? 1 : over >= 1 ? 0 : 0.5 + 0.5 * Math.cos(Math.PI * over);
      cepstrum[n] *= keep;
    }
    Fft.forward(cepstrum);
    double top = Math.min(HIGH_HZ, 0.97 * rate / 2);
    int points = (int) (1200 * Math.log(top / LOW_HZ) / Math.log(2) / GRID_CENTS);
    double[] grid = new double[points];
    double slope = 0;
    double squares = 0;
    double mean = 0;
    for (int i = 0; i < points; i++) {
      double bin = LOW_HZ * Math.pow(2, i * GRID_CENTS / 1200.0) * length / rate;
      int k = Math.min(length / 2 - 2, (int) bin);
      double f = bin - k;
      grid[i] = (1 - f) * real(cepstrum, k) + f * real(cepstrum, k + 1);
      mean += grid[i] / points;
    }
    for (int i = 0; i < points; i++) {
      double t = i - (points - 1) / 2.0;
      slope += t * grid[i];
      squares += t * t;
    }
    for (int i = 0; i < points; i++) {
      grid[i] -= mean + slope / squares * (i - (points - 1) / 2.0);
    }
    return grid;
  }

  private static double real(double[] packed, int bin) {
    return packed[2 * bin];
  }
}
