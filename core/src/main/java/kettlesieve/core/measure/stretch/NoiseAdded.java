package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.signal.ThirdOctaveBands;
import kettlesieve.core.signal.Windows;
import kettlesieve.core.task.Stop;

/** Noise that a version has between the partials and in the gaps of the source. */
@AutoService(Measure.class)
public final class NoiseAdded implements StretchMeasure {
  private static final double LENGTH_SECONDS = 0.09;
  private static final double LOWEST_HZ = 200;
  private static final double HIGHEST = 0.45;
  private static final int FEWEST_BINS = 8;
  private static final double VALLEY = 0.2;

  /** What white noise has in a valley of valleys, over its mean. */
  private static final double OF_MEAN = 0.14;

  /** Up to this the floor of the source itself may differ from moment to moment. */
  private static final double OWN = 2;

  private static final double FLOOR_DB = -70;
  private static final double RINGS_SECONDS = 0.4;
  private static final int FEWEST_FRAMES = 10;
  private static final Declaration DECLARATION =
      new Declaration(
          "noise-added",
          "Noise added",
          Axis.ADDED.in(Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "Hiss and haze that were not there, against the sound as a whole: in its gaps and between"
              + " its tones. Under −50 dB nobody hears it, from −30 dB on it lies over everything.",
          "Third-octaves of 8 or more bins from 200 Hz up (windows of 90 ms, half overlapped; longer"
              + " where the pitch is lower): the 20th percentile of the bins, and of these over the frames of a"
              + " block, as power of a noise of that floor; version minus twice the source's at the"
              + " mapped moments and pitch, not under 0, summed, over the version's power; not under"
              + " −70 dB.",
          "Kettle Sieve's own definition; floors by quantiles after Stahl, Fischer & Bippus, ICASSP"
              + " 2000.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  /** Floors of one recording by band and frame, and its power by frame. */
  private record Floors(double[][] valleys, double[] power) {}

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    Audio source = warp.source().source().whole().downmix();
    Audio version = warp.version().levelled().downmix();
    int rate = source.sampleRate();
    double pitch = warp.shared(StretchedPitch.OF).ratio();
    // Where partials lie nearer, a longer look keeps the valleys between them as deep.
    int ownLength = (int) (LENGTH_SECONDS * rate * Math.max(1, pitch)) / 2 * 2;
    int length = (int) (LENGTH_SECONDS * rate * Math.max(1, 1 / pitch)) / 2 * 2;
    int count = warp.source().bands().count();
    int[] bands = bands(rate, pitch, count);
    double start = warp.source().source().startSeconds();
    double step = LENGTH_SECONDS / 2;
    double margin = Math.max(ownLength, length) / 2.0 / rate;
    int blocks = warp.source().timeline().blocks();
    List<List<Integer>> frames = new ArrayList<>();
    for (int b = 0; b < blocks; b++) {
      frames.add(new ArrayList<>());
    }
    List<Double> there = new ArrayList<>();
    List<Double> here = new ArrayList<>();
    double end = start + warp.source().source().audio().seconds();
    for (double at = start + margin; at + margin <= end; at += step) {
      double to = warp.fit().map().at(at);
      if (to >= margin && to + margin <= version.seconds()) {
        frames.get(warp.source().timeline().block(warp.frame(at))).add(here.size());
        here.add(at);
        there.add(to);
      }
    }
    if (here.size() < FEWEST_FRAMES) {
      throw new NotMeasurableException("too little of the source was found again in it");
    }
    Floors before = floors(source, here, bands, 1, ownLength);
    Floors after = floors(version, there, bands, pitch, length);
    for (double[] valleys : before.valleys()) {
      highestBefore(valleys, warp.fit().slope());
    }
    double[][] added = new double[blocks][bands.length];
    double[] power = new double[blocks];
    PlaceGrid places = new PlaceGrid(warp.source().timeline(), count);
    int perBlock = Math.max(1, warp.source().timeline().frames() / blocks);
    for (int b = 0; b < blocks; b++) {
      int[] own = frames.get(b).stream().mapToInt(Integer::intValue).toArray();
      for (int t : own) {
        power[b] += after.power()[t];
      }
      for (int k = 0; k < bands.length && own.length > 0; k++) {
        double floor = floor(after.valleys()[k], own) - OWN * floor(before.valleys()[k], own);
        double share =
            2
                * pitch
                * (ThirdOctaveBands.highHz(bands[k]) - ThirdOctaveBands.lowHz(bands[k]))
                / rate;
        added[b][k] = Math.max(0, floor) * own.length * share / OF_MEAN;
        places.add(b * perBlock, bands[k], db(added[b][k], power[b]), 1);
      }
    }
    Estimate estimate =
        warp.source()
            .bootstrap()
            .estimate(
                w -> {
                  double noise = 0;
                  double all = 0;
                  for (int b = 0; b < w.length; b++) {
                    noise += w[b] * Arrays.stream(added[b]).sum();
                    all += w[b] * power[b];
                  }
                  return all > 0 ? db(noise, all) : Double.NaN;
                });
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, Math.max(-45, estimate.value()), 1));
  }

  private static double db(double part, double whole) {
    return Math.max(FLOOR_DB, 10 * Math.log10(Math.max(1e-30, part) / Math.max(1e-30, whole)));
  }

  /** The third-octaves that can be looked at in both. */
  private static int[] bands(int rate, double pitch, int count) {
    double widest = FEWEST_BINS / LENGTH_SECONDS;
    return IntStream.range(0, count)
        .filter(b -> ThirdOctaveBands.lowHz(b) >= LOWEST_HZ)
        .filter(b -> ThirdOctaveBands.highHz(b) * Math.max(1, pitch) < HIGHEST * rate)
        .filter(b -> ThirdOctaveBands.highHz(b) - ThirdOctaveBands.lowHz(b) >= widest)
        .toArray();
  }

  private static Floors floors(
      Audio audio, List<Double> moments, int[] bands, double pitch, int length) {
    int padded = Fft.powerOfTwo(length);
    float[] window = Windows.hann(length);
    double weight = 0;
    for (float w : window) {
      weight += (double) w * w;
    }
    double hz = (double) audio.sampleRate() / padded;
    double[][] valleys = new double[bands.length][moments.size()];
    double[] power = new double[moments.size()];
    for (int t = 0; t < power.length; t++) {
      Stop.checkHere();
      float[] x = new float[padded];
      audio.read(0, Math.round(moments.get(t) * audio.sampleRate()) - length / 2, x, 0, length);
      for (int i = 0; i < length; i++) {
        x[i] *= window[i];
      }
      Fft.forward(x);
      double[] powers = new double[padded / 2];
      for (int k = 1; k < powers.length; k++) {
        powers[k] = ((double) x[2 * k] * x[2 * k] + (double) x[2 * k + 1] * x[2 * k + 1]) / weight;
        power[t] += 2 * powers[k] / padded;
      }
      for (int b = 0; b < bands.length; b++) {
        int from = (int) Math.ceil(ThirdOctaveBands.lowHz(bands[b]) * pitch / hz);
        int to = (int) Math.ceil(ThirdOctaveBands.highHz(bands[b]) * pitch / hz);
        valleys[b][t] = Statistics.quantile(Arrays.copyOfRange(powers, from, to), VALLEY);
      }
    }
    return new Floors(valleys, power);
  }

  /**
   * In what was shortened, notes die away as slowly as before, and fill gaps that the source has at
   * the mapped moment: what it had some tenths of a second earlier may be there.
   */
  private static void highestBefore(double[] valleys, double slope) {
    int back = (int) Math.ceil(RINGS_SECONDS * Math.min(1, 1 / slope - 1) / (LENGTH_SECONDS / 2));
    for (int t = valleys.length - 1; t >= 0; t--) {
      for (int b = 1; b <= back && b <= t; b++) {
        valleys[t] = Math.max(valleys[t], valleys[t - b]);
      }
    }
  }

  private static double floor(double[] valleys, int[] frames) {
    return Statistics.quantile(
        Arrays.stream(frames).mapToDouble(t -> valleys[t]).toArray(), VALLEY);
  }
}
