package kettlesieve.core.measure.clip;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.signal.Clipping;

/**
 * The passages of the source on which repairs are judged, each with the best estimate of what was
 * there before it was clipped: the 40 quarter seconds that need the most, with a window of context
 * on both sides. Worked out once for all versions.
 */
final class ClippedPassages {
  /** Those of a source. */
  static final Analysis.OfSource<ClippedPassages> OF = ClippedPassages::of;

  private static final int MOST_BLOCKS = 40;
  private static final double BLOCK_SECONDS = 0.25;
  private static final int FEWEST_RUNS = 5;
  private static final double SOFT_FROM = 0.6;
  private static final double AUDIBLE_SECONDS = 0.020;
  private static final double LITTLE_CONFIDENCE_DB = 2;
  private static final double NO_CONFIDENCE_DB = -3;

  /**
   * Thresholds leave the sparse estimate too low, and the more so the less is known: on the setting
   * half of the declip bench (docs/calibration/declip.md) by 1 + 1.5·exp(−c/3.6) for a confidence
   * of c dB, 1.0 to 1.1 for what both estimates tell alike, 2 to 5 where they disagree. What rises
   * from the source is raised by 1 + 1.3·exp(−c/3.6), with which most pairs were in the right
   * order; 0.8 to 1.5 and 2.5 to 5 dB do within a point as well.
   */
  private static final double RAISED_BY = 1.3;

  private static final double RAISED_OVER_DB = 3.6;

  /** For the confidence itself. */
  private static final double BY_ITSELF = 1.05;

  private static final double MOST_RAISED = 2.9;

  /**
   * One of them.
   *
   * @param channel of the source
   * @param from first sample in the excerpt
   * @param source the samples
   * @param polarity 1 or −1 where a sample is clipped, 0 elsewhere
   * @param least what a clipped sample's magnitude must have been at least
   * @param estimate of what was there
   * @param second an estimate made in another way, for confidence alone
   */
  record Passage(
      int channel,
      long from,
      float[] source,
      byte[] polarity,
      float[] least,
      float[] estimate,
      float[] second) {
    /** With an estimate that rises from the source by so much more. */
    private Passage raised(float by) {
      float[] higher = source.clone();
      for (int i = 0; i < higher.length; i++) {
        higher[i] += by * (estimate[i] - source[i]);
      }
      return new Passage(channel, from, source, polarity, least, higher, second);
    }
  }

  private final List<Passage> passages;
  private final double confidenceDb;
  private final double audibleDb;

  /**
   * @param low passages with estimates that are too low
   */
  private ClippedPassages(List<Passage> low, int rate) {
    this.confidenceDb = confidence(raised(low, BY_ITSELF));
    double raise = Math.min(MOST_RAISED, 1 + RAISED_BY * Math.exp(-confidenceDb / RAISED_OVER_DB));
    this.passages = raised(low, raise);
    this.audibleDb = audible(passages, (int) (AUDIBLE_SECONDS * rate));
  }

  private static List<Passage> raised(List<Passage> low, double by) {
    return low.stream().map(p -> p.raised((float) by)).toList();
  }

  /** How far the estimate moves the clipped samples, as energy. */
  private static double need(List<Passage> passages) {
    double need = 0;
    for (Passage p : passages) {
      for (int i = 0; i < p.source().length; i++) {
        double own = p.polarity()[i] == 0 ? 0 : (double) p.estimate()[i] - p.source()[i];
        need += own * own;
      }
    }
    return need;
  }

  private static double confidence(List<Passage> passages) {
    double apart = 0;
    for (Passage p : passages) {
      for (int i = 0; i < p.source().length; i++) {
        double other = p.polarity()[i] == 0 ? 0 : (double) p.second()[i] - p.estimate()[i];
        apart += other * other;
      }
    }
    double need = need(passages);
    return need > 0 ? -10 * Math.log10(Math.max(apart, 1e-9 * need) / need) : 0;
  }

  private static double audible(List<Passage> passages, int reach) {
    double near = 0;
    for (Passage p : passages) {
      int last = -1;
      for (int i = 0; i < p.source().length; i++) {
        if (p.polarity()[i] != 0) {
          for (int k = Math.max(last + 1, i - reach);
              k <= Math.min(p.source().length - 1, i + reach);
              k++) {
            near += (double) p.estimate()[k] * p.estimate()[k];
            last = k;
          }
        }
      }
    }
    double need = need(passages);
    return need > 0 ? 10 * Math.log10(near / need) : Double.POSITIVE_INFINITY;
  }

  private static ClippedPassages of(SourceAnalysis analysis) throws NotMeasurableException {
    Clipping clipping = analysis.source().clipping();
    if (!clipping.any()) {
      throw new NotMeasurableException("no clipping was found in the source");
    }
    if (clipping.runs() < FEWEST_RUNS) {
      throw new NotMeasurableException("fewer than five runs of clipped samples to judge by");
    }
    Audio source = analysis.source().audio();
    int window = source.sampleRate() > 30_000 ? 2048 : 1024;
    List<Passage> passages = new ArrayList<>();
    for (long[] span : spans(source, clipping, window)) {
      passages.add(passage(source, clipping, (int) span[0], span[1], span[2], window));
    }
    return new ClippedPassages(List.copyOf(passages), source.sampleRate());
  }

  /** Channel, first sample and end of each passage, overlapping ones joined. */
  private static List<long[]> spans(Audio source, Clipping clipping, int window) {
    int block = (int) (BLOCK_SECONDS * source.sampleRate());
    record Place(int channel, long block, double need) {}
    List<Place> places = new ArrayList<>();
    for (int c = 0; c < source.channels(); c++) {
      double[] needs = new double[(int) (source.frames() / block + 1)];
      for (int i = 0; i < clipping.runs(c); i++) {
        Clipping.Run run = clipping.run(c, i);
        float[] edge = source.samples(c, run.from() - 1, 2);
        float[] other = source.samples(c, run.from() + run.length() - 1, 2);
        double slope = Math.max(Math.abs(edge[1] - edge[0]), Math.abs(other[1] - other[0]));
        double height = slope * (run.length() + 1) / 6;
        needs[(int) (run.from() / block)] += run.length() * height * height;
      }
      for (int b = 0; b < needs.length; b++) {
        if (needs[b] > 0) {
          places.add(new Place(c, b, needs[b]));
        }
      }
    }
    places.sort(Comparator.comparingDouble(p -> -p.need()));
    List<Place> chosen = new ArrayList<>(places.subList(0, Math.min(MOST_BLOCKS, places.size())));
    chosen.sort(Comparator.comparingInt(Place::channel).thenComparingLong(Place::block));
    List<long[]> spans = new ArrayList<>();
    for (Place p : chosen) {
      long from = Math.max(0, p.block() * block - window);
      long to = Math.min(source.frames(), (p.block() + 1) * block + window);
      long[] last = spans.isEmpty() ? null : spans.get(spans.size() - 1);
      if (last != null && last[0] == p.channel() && from <= last[2]) {
        last[2] = to;
      } else {
        spans.add(new long[] {p.channel(), from, to});
      }
    }
    return spans;
  }

  private static Passage passage(
      Audio source, Clipping clipping, int channel, long from, long to, int window) {
    float[] samples = source.samples(channel, from, (int) (to - from));
    byte[] polarity = new byte[samples.length];
    float[] least = new float[samples.length];
    for (int i = clipping.firstRunFrom(channel, from); i < clipping.runs(channel); i++) {
      Clipping.Run run = clipping.run(channel, i);
      if (run.from() >= to) {
        break;
      }
      for (long n = Math.max(from, run.from()); n < Math.min(to, run.from() + run.length()); n++) {
        polarity[(int) (n - from)] = (byte) run.polarity();
        least[(int) (n - from)] = (float) run.level();
      }
    }
    for (int side : new int[] {1, -1}) {
      Clipping.Ceiling ceiling = clipping.ceiling(channel, side);
      if (ceiling != null && ceiling.soft()) {
        // A rounded top begins far below its ceiling, and every sample of it was at least as high.
        for (int i = 0; i < samples.length; i++) {
          if (side * samples[i] > SOFT_FROM * ceiling.level()) {
            polarity[i] = (byte) side;
            least[i] = side * samples[i];
          }
        }
      }
    }
    float[] estimate = SparseTops.estimate(samples, polarity, least, window);
    float[] second = PredictedGaps.estimate(samples, polarity, least, 3 * window / 4);
    return new Passage(channel, from, samples, polarity, least, estimate, second);
  }

  List<Passage> all() {
    return passages;
  }

  /** How well two ways of estimating agree: the need over their difference, dB. */
  double confidenceDb() {
    return confidenceDb;
  }

  /** Whether they agree so little that figures are but a hint. */
  boolean uncertain() {
    return confidenceDb < LITTLE_CONFIDENCE_DB;
  }

  /** What to say beside figures that are but a hint. */
  List<String> hints() {
    return uncertain()
        ? List.of(
            String.format(
                Locale.ROOT,
                "two ways of estimating the original agree to only %.1f dB: take it as a hint",
                confidenceDb))
        : List.of();
  }

  /** Whether they differ by twice what is added, as energy: then no estimate can be leaned on. */
  boolean unknown() {
    return confidenceDb < NO_CONFIDENCE_DB;
  }

  /** How far the true original may lie from the estimate, dB over what was needed; at least 1. */
  double uncertaintyDb() {
    return Math.max(1, Math.min(confidenceDb, 9) - 3);
  }

  /** Level of the sound about the clipped samples over what the clipping took away, dB. */
  double audibleDb() {
    return audibleDb;
  }
}
