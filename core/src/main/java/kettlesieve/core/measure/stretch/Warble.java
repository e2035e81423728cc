package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/** Steady tones that tremble. */
@AutoService(Measure.class)
public final class Warble implements StretchMeasure {
  private static final double LENGTH_SECONDS = 0.093;
  private static final double HOP = 0.020;
  private static final int FRAMES = 13;
  private static final double LOW_HZ = 100;
  private static final double HIGH_HZ = 6000;
  private static final double UNDER_LOUDEST_DB = 45;
  private static final double STEADY_DB = 1;
  private static final int FEWEST = 20;

  /** Nearer to the source's own pace, as long a time is the same time. */
  private static final double EVEN = 0.01;

  private static final double LEAST_POWER = 1e-14;

  /** A longer look, in which what trembles quickly stands beside its partial. */
  private static final double LONG_SECONDS = 0.186;

  private static final double BESIDE_FROM_HZ = 16;
  private static final double BESIDE_TO_HZ = 70;
  private static final int PARTIAL_BINS = 2;

  /** A partial that has more beside it in the source already is not alone. */
  private static final double ALONE = 0.03;

  private static final Declaration DECLARATION =
      new Declaration(
          "warble",
          "Warble",
          Axis.ADDED.in(Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How much steady tones have begun to tremble: held chords that shimmer or gurgle. A"
              + " coarse figure.",
          "Partials of the source from 100 to 6,000 Hz, within 45 dB of the loudest, whose level"
              + " deviates from a straight line by less than 1 dB over 260 ms (windows of 93 ms each"
              + " 20 ms): deviation of the version at the same moments, or at as many in as long a time, the"
              + " smaller, minus the source's, median"
              + " over 20 or more. Quickly: of those that stand alone what lies 16 to 70 Hz beside"
              + " the partial over itself (186 ms), d version minus source, median of 20·log10(1 +"
              + " √d). The larger of the two, not below 0.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  /**
   * Steady tones of the source in one run of frames.
   *
   * @param at where the run begins, seconds
   * @param bins where they lie
   * @param deviations how much each trembles by itself, dB
   * @param beside power close beside each over its own; NaN where another partial is near
   */
  private record Steady(double at, int[] bins, double[] deviations, double[] beside) {}

  /** The source's side, worked out once for all versions. */
  private static final Analysis.OfSource<List<Steady>> SOURCE = Warble::steady;

  private static List<Steady> steady(SourceAnalysis analysis) {
    Audio source = analysis.source().whole().downmix();
    float[] window = window(source, LENGTH_SECONDS);
    float[] longer = window(source, LONG_SECONDS);
    double start = analysis.source().startSeconds();
    double end = start + analysis.source().audio().seconds();
    List<Steady> all = new ArrayList<>();
    for (double at = start; at + FRAMES * HOP < end; at += FRAMES * HOP) {
      double[][] before = new double[FRAMES][];
      for (int f = 0; f < FRAMES; f++) {
        before[f] = powers(source, at + f * HOP, window);
      }
      int[] bins =
          Arrays.stream(peaks(before, source.sampleRate(), window.length))
              .filter(k -> deviation(before, k, 1) < STEADY_DB)
              .toArray();
      double[] own = Arrays.stream(bins).mapToDouble(k -> deviation(before, k, 1)).toArray();
      if (bins.length > 0) {
        double[] wide = powers(source, at + FRAMES * HOP / 2, longer);
        double[] beside =
            Arrays.stream(bins)
                .mapToDouble(k -> beside(wide, 1.0 * k / window.length, source.sampleRate()))
                .map(b -> b < ALONE ? b : Double.NaN)
                .toArray();
        all.add(new Steady(at, bins, own, beside));
      }
    }
    return all;
  }

  private static float[] window(Audio audio, double seconds) {
    return Windows.hann(Fft.powerOfTwo((long) (seconds * audio.sampleRate() * 0.99)));
  }

  /**
   * Power close beside a partial over its own: what a level or a phase that jumps some dozen times
   * a second puts there.
   *
   * @param powers of a long look
   * @param place of the partial, as a share of the rate
   */
  private static double beside(double[] powers, double place, int rate) {
    double hz = rate / (2.0 * powers.length);
    int near = (int) Math.round(place * 2 * powers.length);
    int at = near;
    for (int k = Math.max(1, near - PARTIAL_BINS); k <= near + PARTIAL_BINS; k++) {
      at = k < powers.length && powers[k] > powers[at] ? k : at;
    }
    int from = (int) Math.ceil(BESIDE_FROM_HZ / hz);
    int to = (int) Math.floor(BESIDE_TO_HZ / hz);
    if (at - to < 1 || at + to >= powers.length) {
      return Double.NaN;
    }
    double own = LEAST_POWER;
    double sides = 0;
    for (int off = -to; off <= to; off++) {
      if (Math.abs(off) <= PARTIAL_BINS) {
        own += powers[at + off];
      } else if (Math.abs(off) >= from) {
        sides += powers[at + off];
      }
    }
    return sides / own;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    Audio version = warp.version().audio().downmix();
    float[] window = window(version, LENGTH_SECONDS);
    float[] longer = window(version, LONG_SECONDS);
    BlockHistograms slow = new BlockHistograms(warp.source().timeline(), -5, 30, 0.02);
    BlockHistograms quick = new BlockHistograms(warp.source().timeline(), -5, 30, 0.02);
    PlaceGrid places = PlaceGrid.ofTime(warp.source().timeline(), LOW_HZ, HIGH_HZ);
    double ratio = warp.shared(StretchedPitch.OF).ratio();
    boolean even = Math.abs(warp.fit().slope() - 1) < EVEN;
    int tracks = 0;
    int alone = 0;
    for (Steady steady : warp.source().shared(SOURCE)) {
      double at = steady.at();
      double last = warp.fit().map().at(at + FRAMES * HOP);
      if (warp.fit().map().at(at) < 0 || last > version.seconds()) {
        continue;
      }
      double middle = at + FRAMES * HOP / 2;
      double[][] after = new double[FRAMES][];
      double[][] natural = new double[FRAMES][];
      for (int f = 0; f < FRAMES; f++) {
        after[f] = powers(version, warp.fit().map().at(at + f * HOP), window);
        double beside = warp.fit().map().at(middle) + (f - FRAMES / 2) * HOP;
        natural[f] = even ? after[f] : powers(version, beside, window);
      }
      double[] wide = powers(version, warp.fit().map().at(middle), longer);
      int frame = warp.frame(middle);
      for (int i = 0; i < steady.bins().length; i++) {
        int there = (int) Math.round(steady.bins()[i] * ratio);
        boolean deep = there * (double) version.sampleRate() / window.length < LOW_HZ;
        if (deep || there + 2 >= window.length / 2) {
          continue;
        }
        // A vibrato that keeps its pace sways more over a longer time: the steadier look counts.
        double slowly =
            Math.min(deviation(after, there, 2), deviation(natural, there, 2))
                - steady.deviations()[i];
        double place = steady.bins()[i] * ratio / window.length;
        double more = beside(wide, place, version.sampleRate()) - steady.beside()[i];
        int block = warp.source().timeline().block(frame);
        slow.add(block, slowly, 1);
        tracks++;
        double quickly = 0;
        if (!Double.isNaN(more)) {
          quickly = Math.signum(more) * 20 * Math.log10(1 + Math.sqrt(Math.abs(more)));
          quick.add(block, quickly, 1);
          alone++;
        }
        places.add(frame, 0, Math.max(slowly, quickly), 1);
      }
    }
    if (tracks < FEWEST) {
      throw new NotMeasurableException("there are too few steady tones");
    }
    boolean both = alone >= FEWEST;
    Estimate estimate =
        warp.source()
            .bootstrap()
            .estimate(
                w -> Math.max(slow.median(w), both ? quick.median(w) : Double.NEGATIVE_INFINITY))
            .map(x -> Math.max(0, x));
    return Reading.of(DECLARATION.id(), estimate)
        .with("tracks", tracks, "")
        .with("alone", alone, "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(0.5, estimate.value()), 1));
  }

  private static double[] powers(Audio audio, double seconds, float[] window) {
    float[] x = new float[window.length];
    audio.read(0, Math.round(seconds * audio.sampleRate()) - x.length / 2, x, 0, x.length);
    for (int i = 0; i < x.length; i++) {
      x[i] *= window[i];
    }
    Fft.forward(x);
    double[] power = new double[x.length / 2];
    for (int k = 1; k < power.length; k++) {
      power[k] = (double) x[2 * k] * x[2 * k] + (double) x[2 * k + 1] * x[2 * k + 1];
    }
    return power;
  }

  /** Bins that stand above their neighbours in the mean of the frames. */
  private static int[] peaks(double[][] frames, int rate, int length) {
    double[] mean = new double[frames[0].length];
    for (double[] f : frames) {
      for (int k = 0; k < mean.length; k++) {
        mean[k] += f[k] / frames.length;
      }
    }
    int low = Math.max(3, (int) Math.ceil(LOW_HZ * length / rate));
    int high = Math.min(mean.length - 3, (int) (HIGH_HZ * length / rate));
    double loudest = 0;
    for (int k = low; k < high; k++) {
      loudest = Math.max(loudest, mean[k]);
    }
    double least = Math.max(LEAST_POWER, loudest * Math.pow(10, -UNDER_LOUDEST_DB / 10));
    return java.util.stream.IntStream.range(low, Math.max(low, high))
        .filter(k -> mean[k] > least)
        .filter(k -> mean[k] > mean[k - 1] && mean[k] >= mean[k + 1])
        .filter(k -> mean[k] > 4 * mean[k - 3] && mean[k] > 4 * mean[k + 3])
        .toArray();
  }

  /** Deviation of a partial's level from a straight line, dB. */
  private static double deviation(double[][] frames, int bin, int reach) {
    int n = frames.length;
    double[] level = new double[n];
    double mean = 0;
    double slope = 0;
    double squares = 0;
    for (int f = 0; f < n; f++) {
      double most = LEAST_POWER;
      for (int k = bin - reach; k <= bin + reach; k++) {
        most = Math.max(most, frames[f][k]);
      }
      level[f] = 10 * Math.log10(most);
      mean += level[f] / n;
    }
    for (int f = 0; f < n; f++) {
      double t = f - (n - 1) / 2.0;
      slope += t * level[f];
      squares += t * t;
    }
    slope /= squares;
    double sum = 0;
    for (int f = 0; f < n; f++) {
      double off = level[f] - mean - slope * (f - (n - 1) / 2.0);
      sum += off * off / n;
    }
    return Math.sqrt(sum);
  }
}
