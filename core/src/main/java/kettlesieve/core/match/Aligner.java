package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Segments;

/**
 * Finds delay, drift and polarity of a version against the source.
 *
 * <ol>
 *   <li>Where phases agree that it was not moved by as much as a sample, nothing is sought, and the
 *       last but one follows.
 *   <li>Generalised cross-correlation with phase transform (Knapp &amp; Carter, IEEE Trans. ASSP
 *       24, 1976) over up to four segments of the excerpt, ±2 s: delay and polarity.
 *   <li>Unless the phases of the next step are at one already: the same in short pieces, and the
 *       line on which most of their peaks lie: drift, up to a thousandth.
 *   <li>Below a sample: the slope of the cross-spectrum's phase, each bin weighted by its coherence
 *       (the maximum-likelihood weight of the same paper), in blocks, and again a line. This is
 *       exact where a parabola through the correlation peak is biased.
 *   <li>Where the signals do not correlate after that, onset envelopes are correlated over ±60 s
 *       and the search is repeated there.
 * </ol>
 */
final class Aligner {
  private static final double SEARCH_SECONDS = 2;
  private static final double DOUBTFUL = 0.3;
  private static final double HOPELESS = 0.1;
  private static final int MOST_SEGMENTS = 4;
  private static final int MOST_DRIFT_BLOCKS = 24;
  private static final int MOST_BLOCKS = 24;
  private static final double LOW_BAND_HZ = 1000;
  private static final double LARGEST_DRIFT = 1000e-6;
  private static final double SNAP_SAMPLES = 0.02;

  /** Blocks whose delays lie so near a line, in samples, leave no doubt of it. */
  private static final double CLEAR_SCATTER = 0.2;

  /** And whose phases lie so near theirs, as a mean cosine. */
  private static final double CLEAR_AGREEMENT = 0.85;

  /** A version that was not moved. */
  private static final Alignment IN_PLACE = new Alignment(0, 0, 1, 0);

  /** Samples of the segments in which it is seen that one was not, and how many there are. */
  private static final int LOOK = 1 << 15;

  private static final int MOST_LOOKS = 8;
  private static final double IN_PLACE_COSINE = 0.75;

  /** A segment of which fewer bins sound, by their share, tells nothing. */
  private static final double LEAST_SOUNDING = 0.1;

  private final Segments segments;
  private final Audio source;
  private final Audio version;
  private final long from;
  private final long to;
  private final int rate;

  /**
   * @param source one channel
   * @param version one channel, at the source's rate
   * @param from first frame of the excerpt
   * @param to frame after its last
   */
  Aligner(Segments source, Audio version, long from, long to) {
    this.segments = source;
    this.source = source.audio();
    this.version = version;
    this.from = from;
    this.to = to;
    this.rate = version.sampleRate();
  }

  Alignment find() {
    Alignment near = search(0);
    if (near.confidence() >= DOUBTFUL) {
      return near;
    }
    Alignment far = search(OnsetDelay.of(source, version, from, to));
    Alignment better = far.confidence() > near.confidence() ? far : near;
    // Where nothing correlates, a place would be made up: the version stays where it is.
    return better.confidence() < HOPELESS ? new Alignment(0, 0, 1, better.confidence()) : better;
  }

  private Alignment search(long around) {
    if (around == 0 && inPlace()) {
      PhaseSlope.Line left = left(IN_PLACE);
      if (clear(left)) {
        return withConfidence(settled(finely(IN_PLACE, left)));
      }
    }
    float[] correlation = correlate(around);
    int peak = 0;
    for (int i = 1; i < correlation.length; i++) {
      if (Math.abs(correlation[i]) > Math.abs(correlation[peak])) {
        peak = i;
      }
    }
    int polarity = correlation[peak] < 0 ? -1 : 1;
    long delay = around + peak - correlation.length / 2;
    Alignment rough = new Alignment(delay, 0, polarity, 0);
    PhaseSlope.Line left = left(rough);
    Alignment level = withConfidence(settled(finely(rough, left)));
    // Most versions do not drift, and the phases of their blocks say so: then no peaks are sought.
    return clear(left) ? level : drifting(level, delay);
  }

  private Alignment finely(Alignment rough, PhaseSlope.Line left) {
    Alignment fine = moved(rough, left);
    double moved = Math.abs(fine.delaySamples() - rough.delaySamples());
    return moved > SNAP_SAMPLES || fine.driftPpm() != rough.driftPpm() ? refine(fine) : fine;
  }

  /**
   * Whether a version lies where the source does, as most do: the cosines of the phases between
   * them, over all bins that sound, come near one. No other lag can reach as much then, so there is
   * none to be sought.
   */
  private boolean inPlace() {
    int count = (int) Math.min(MOST_LOOKS, (to - from) / LOOK);
    int sounding = 0;
    for (int s = 0; s < count; s++) {
      long start = count == 1 ? from : from + (to - from - LOOK) * s / (count - 1);
      float[] x = segments.spectrum(start, LOOK, LOOK);
      float[] y = version.samples(0, start, LOOK);
      Fft.forward(y);
      double[] sums = new double[2];
      whitened(
          x,
          y,
          (k, re, im) -> {
            sums[0] += re;
            sums[1] += Math.sqrt(re * re + im * im);
          });
      if (sums[1] > LEAST_SOUNDING * LOOK / 2) {
        sounding++;
        if (sums[0] < IN_PLACE_COSINE * sums[1]) {
          return false;
        }
      }
    }
    return sounding > 0 && 2 * sounding >= count;
  }

  /** The segments' correlations, summed, at lags from −2 s to +2 s around a delay. */
  private float[] correlate(long around) {
    int reach = (int) (SEARCH_SECONDS * rate);
    int size = Fft.powerOfTwo(Math.min(to - from, 8L * rate - 2L * reach) + 2L * reach);
    int length = size - 2 * reach;
    long available = Math.max(1, to - from);
    int count = (int) Math.max(1, Math.min(MOST_SEGMENTS, available / length));
    float[] sum = new float[size];
    for (int s = 0; s < count; s++) {
      long start = count == 1 ? from : from + (available - length) * s / (count - 1);
      addPhases(version, start, around, length, reach, sum);
    }
    Fft.inverse(sum);
    return Arrays.copyOf(sum, 2 * reach + 1);
  }

  /** Whether blocks agree to a part of a sample on a delay that hardly moves. */
  private boolean clear(PhaseSlope.Line left) {
    double end = left.delay() + left.slope() * to;
    return left.scatter() < CLEAR_SCATTER
        && left.agreement() > CLEAR_AGREEMENT
        && Math.abs(left.delay() + left.slope() * from) < 1
        && Math.abs(end) < 1;
  }

  /**
   * The same with a drift, where peaks of short pieces lie on a line and the version is more like
   * the source along it; else what was given. In the band of the voice's fundamental first, for
   * within half a second a drift of a thousandth moves the end by more samples than the whole
   * band's peak is wide.
   */
  private Alignment drifting(Alignment level, long around) {
    Optional<Alignment> whole = DriftLine.through(peaks(version, around, driftReach(), rate));
    Optional<Alignment> line =
        whole.isPresent()
            ? whole
            : DriftLine.through(peaks(version, around, driftReach(), LOW_BAND_HZ))
                .flatMap(this::narrowed);
    if (line.isEmpty() || Math.abs(line.get().driftPpm()) * 1e-6 * (to - from) <= 1.5) {
      return level;
    }
    Alignment rough = narrowed(line.get()).orElse(line.get());
    Alignment found = withConfidence(settled(refine(refine(rough))));
    return found.confidence() > level.confidence() ? found : level;
  }

  /** A line of the low band, sharpened by the whole band along it. */
  private Optional<Alignment> narrowed(Alignment low) {
    int reach = (int) Math.ceil(2.0 * rate / LOW_BAND_HZ);
    return DriftLine.through(peaks(low.apply(version, to), 0, reach, rate))
        .map(
            left ->
                low.with(
                    low.delaySamples() + low.step() * left.delaySamples(),
                    (low.step() * left.step() - 1) * 1e6));
  }

  private int driftReach() {
    return (int)
        Math.min(SEARCH_SECONDS * rate, 16 + Math.ceil(LARGEST_DRIFT * Math.max(1, to - from)));
  }

  /** The strongest lags of pieces of half a second, in time order. */
  private List<DriftLine.Peak> peaks(Audio of, long around, int reach, double topHz) {
    int length = (int) Math.max(rate / 2, (to - from) / MOST_DRIFT_BLOCKS);
    int count = (int) ((to - from) / length);
    int used = rate / 2;
    int size = Fft.powerOfTwo(used + 2L * reach);
    int top = (int) Math.min(size / 2, Math.ceil(topHz * size / rate));
    List<DriftLine.Peak> peaks = new ArrayList<>();
    for (int b = 0; b < count; b++) {
      long start = from + (long) b * length;
      float[] r = new float[size];
      addPhases(of, start, around, used, reach, r);
      Arrays.fill(r, 2 * top, size, 0);
      r[1] = 0;
      Fft.inverse(r);
      double at = start + used / 2.0;
      DriftLine.addStrongest(peaks, b, at, around - reach, r, 2 * reach + 1);
    }
    return peaks;
  }

  /** Adds the cross-spectrum of a segment, every bin brought to the same magnitude. */
  private void addPhases(Audio of, long start, long around, int length, int reach, float[] sum) {
    int size = sum.length;
    float[] x = segments.spectrum(start, (int) Math.min(length, to - start), size);
    float[] y = of.samples(0, start + around - reach, size);
    Fft.forward(y);
    whitened(
        x,
        y,
        (k, re, im) -> {
          sum[2 * k] += re;
          sum[2 * k + 1] += im;
        });
  }

  /** Told of the cross-spectrum of a bin, brought to a magnitude of one or, where soft, less. */
  private interface Bin {
    void at(int k, float re, float im);
  }

  private void whitened(float[] x, float[] y, Bin bin) {
    int size = x.length;
    double mean = 0;
    for (int k = 1; k < size / 2; k++) {
      mean += crossMagnitude(x, y, k);
    }
    // Bins far below the mean (an encoder's empty top, digital silence) carry no phase to speak of.
    float floor = (float) (1e-3 * mean / (size / 2.0)) + Float.MIN_NORMAL;
    int low = (int) Math.ceil(60.0 * size / rate);
    for (int k = Math.max(1, low); k < size / 2; k++) {
      float re = y[2 * k] * x[2 * k] + y[2 * k + 1] * x[2 * k + 1];
      float im = y[2 * k + 1] * x[2 * k] - y[2 * k] * x[2 * k + 1];
      float weight = 1 / ((float) Math.sqrt(re * re + im * im) + floor);
      bin.at(k, re * weight, im * weight);
    }
  }

  private static double crossMagnitude(float[] x, float[] y, int k) {
    return Math.sqrt(
        ((double) x[2 * k] * x[2 * k] + (double) x[2 * k + 1] * x[2 * k + 1])
            * ((double) y[2 * k] * y[2 * k] + (double) y[2 * k + 1] * y[2 * k + 1]));
  }

  /** Improves an alignment that is right to a few samples. */
  private Alignment refine(Alignment rough) {
    return moved(rough, left(rough));
  }

  private static Alignment moved(Alignment rough, PhaseSlope.Line left) {
    return rough.with(rough.delaySamples() + left.delay(), rough.driftPpm() + left.slope() * 1e6);
  }

  /** What remains of delay and drift at an alignment, by the phases of blocks. */
  private PhaseSlope.Line left(Alignment rough) {
    Audio aligned = rough.apply(version, to);
    PhaseSlope slope = new PhaseSlope(rate);
    int blockLength = Math.max(slope.length(), 2 * rate);
    long blocks = Math.max(1, (to - from) / blockLength);
    int used = (int) Math.min(MOST_BLOCKS, blocks);
    for (int b = 0; b < used; b++) {
      long start =
          used == 1 ? from : from + (to - from - Math.min(to - from, blockLength)) * b / (used - 1);
      int length = (int) Math.min(blockLength, to - start);
      slope.addBlock(
          start + length / 2.0,
          source.samples(0, start, length),
          aligned.samples(0, start, length));
    }
    return slope.line();
  }

  /** Takes away drift and fractions of samples that are too small to be told from none. */
  private Alignment settled(Alignment a) {
    double drift = a.driftPpm();
    double middle = (from + to) / 2.0;
    double atMiddle = a.delaySamples() + middle * drift * 1e-6;
    double spread = Math.abs(drift) * 1e-6 * (to - from);
    double delay = a.delaySamples();
    if (spread < 0.2 || Math.abs(drift) < 0.3) {
      drift = 0;
      delay = atMiddle;
    }
    if (drift == 0 && Math.abs(delay - Math.rint(delay)) < SNAP_SAMPLES) {
      delay = Math.rint(delay);
    }
    return a.with(delay, drift);
  }

  /**
   * The larger of two normalised correlations at the alignment: of the signals, and of the signals
   * with their low end tilted down, so that hum that was taken out does not decide.
   */
  private Alignment withConfidence(Alignment a) {
    Audio aligned = a.apply(version, to);
    double[] flat = new double[3];
    double[] tilted = new double[3];
    int block = 1 << 15;
    long stride = Math.max(block, (to - from) / 64 / block * block);
    for (long at = from; at < to; at += stride) {
      int length = (int) Math.min(block, to - at);
      float[] s = source.samples(0, at, length);
      float[] v = aligned.samples(0, at, length);
      for (int i = 1; i < length; i++) {
        add(flat, s[i], v[i]);
        add(tilted, s[i] - 0.95 * s[i - 1], v[i] - 0.95 * v[i - 1]);
      }
    }
    double best = Math.max(correlation(flat), correlation(tilted));
    return new Alignment(
        a.delaySamples(), a.driftPpm(), a.polarity(), Math.max(0, Math.min(1, best)));
  }

  private static void add(double[] sums, double s, double v) {
    sums[0] += s * v;
    sums[1] += s * s;
    sums[2] += v * v;
  }

  private static double correlation(double[] sums) {
    double energy = Math.sqrt(sums[1] * sums[2]);
    return energy > 0 ? sums[0] / energy : 0;
  }
}
