package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.task.Stop;

/**
 * Finds where the moments of the source lie in a stretched or shifted version.
 *
 * <ol>
 *   <li>Log-mel levels without their slow part are correlated as a whole, the source stretched by
 *       ratios around the expected one: delay and a first ratio.
 *   <li>The same in blocks of some seconds, and a robust line through their places (Theil 1950, Sen
 *       1968): a ratio that is right over the whole length.
 *   <li>Anchors every 50 ms: normalised correlation of ±150 ms, searched over ±60 ms, the peak by a
 *       parabola; a line again, and what lies off it, smoothed by medians.
 *   <li>What sounds on looks the same a moment later: an anchor whose piece of the source cannot be
 *       told from itself 20 ms away pins nothing. It counts neither for when nor for whether the
 *       piece was found again.
 *   <li>At onsets the rises of the levels are compared unstretched, because good tools do not
 *       stretch attacks.
 * </ol>
 *
 * <p>Dynamic time warping was tried for this and follows noise.
 */
final class StretchAligner {
  private static final double HOP = Onsets.HOP;
  private static final double COARSE_HOP = 0.010;
  private static final double MEAN_SECONDS = 0.5;
  private static final double ANCHOR_REACH = 0.150;
  private static final double ANCHOR_SEARCH = 0.060;
  private static final double ANCHOR_STEP = 0.050;
  private static final double LEAST_SCORE = 0.35;
  private static final double AWAY_SECONDS = 0.020;
  private static final double LEAST_CHANGE = 0.25;
  private static final double LEAST_MARGIN = 0.1;
  private static final double BLOCK_SECONDS = 4;
  private static final double BLOCK_SEARCH = 1.0;
  private static final double OUTLIER_SECONDS = 0.012;
  private static final double MOST_CHANGE = 0.1;
  private static final int MOST_ANCHORS = 6000;
  private static final int MOST_LINE_POINTS = 500;
  private static final int FEWEST_ANCHORS = 5;

  private record Coarse(double ratio, double offset, double score, double scale) {}

  private final Audio source;
  private final Audio version;
  private final double expected;
  private final double[] scales;

  /** Share of the blocks that were found again: short anchors alone may lie well by chance. */
  private double blocksFound;

  private final Stop stop;

  /**
   * @param source one channel
   * @param version one channel, at the source's rate
   * @param expected the ratio asked for
   * @param stop asked now and then
   * @param scales factors on frequency that the tool may have applied; 1 for none
   */
  StretchAligner(Audio source, Audio version, double expected, Stop stop, double... scales) {
    this.stop = stop;
    this.source = source;
    this.version = version;
    this.expected = expected;
    this.scales = scales;
  }

  MapFit find() {
    LogMel sourceMel = new LogMel(source, 1);
    float[][] sourceLevels =
        LogMel.withoutMean(coarseLevels(sourceMel, source), reach(1, COARSE_HOP));
    Coarse best = null;
    for (double scale : scales) {
      stop.check();
      Coarse found = coarse(sourceLevels, scale);
      if (best == null || found.score() > best.score() + 0.02) {
        best = found;
      }
    }
    LogMel versionMel = new LogMel(version, best.scale());
    double[] line = blocks(sourceLevels, versionMel, best);
    MapFit found = anchors(sourceMel, versionMel, line[0], line[1]);
    return MapFit.of(found.map(), found.slope(), found.offset(), found.coverage() * blocksFound);
  }

  private static int reach(double ratio, double hop) {
    return (int) Math.round(MEAN_SECONDS * ratio / 2 / hop);
  }

  private static float[][] coarseLevels(LogMel mel, Audio audio) {
    return mel.levels(0, COARSE_HOP, (int) Math.max(2, Math.floor(audio.seconds() / COARSE_HOP)));
  }

  private Coarse coarse(float[][] sourceLevels, double scale) {
    float[][] levels = coarseLevels(new LogMel(version, scale), version);
    float[][] v = LogMel.withoutMean(levels, reach(expected, COARSE_HOP));
    // Long enough for all ratios that are tried: what the version has is transformed once.
    long longest = (long) (1.03 * expected * sourceLevels.length) + v.length + 2;
    float[][] spectra = columns(v, Fft.powerOfTwo(longest));
    Coarse middle = correlate(sourceLevels, v, spectra, expected, scale);
    Coarse best = middle;
    for (double off : new double[] {-2, -1, -0.5, 0.5, 1, 2}) {
      Coarse other = correlate(sourceLevels, v, spectra, expected * (1 + off / 100), scale);
      if (other.score() > middle.score() + 0.02 && other.score() > best.score()) {
        best = other;
      }
    }
    return best;
  }

  /** Transforms of each band over time. */
  private static float[][] columns(float[][] rows, int size) {
    float[][] columns = new float[LogMel.BANDS][size];
    for (int b = 0; b < LogMel.BANDS; b++) {
      for (int i = 0; i < rows.length; i++) {
        columns[b][i] = rows[i][b];
      }
      Fft.forward(columns[b]);
    }
    return columns;
  }

  private static Coarse correlate(
      float[][] s, float[][] v, float[][] spectra, double ratio, double scale) {
    float[][] stretched = MelRows.stretched(s, ratio);
    int size = spectra[0].length;
    float[] sum = new float[size];
    double energyS = 0;
    double energyV = 0;
    float[] x = new float[size];
    for (int b = 0; b < LogMel.BANDS; b++) {
      float[] y = spectra[b];
      Arrays.fill(x, 0);
      for (int i = 0; i < stretched.length; i++) {
        x[i] = stretched[i][b];
        energyS += x[i] * x[i];
      }
      for (float[] row : v) {
        energyV += row[b] * row[b];
      }
      Fft.forward(x);
      sum[0] += x[0] * y[0];
      sum[1] += x[1] * y[1];
      for (int k = 1; k < size / 2; k++) {
        sum[2 * k] += y[2 * k] * x[2 * k] + y[2 * k + 1] * x[2 * k + 1];
        sum[2 * k + 1] += y[2 * k + 1] * x[2 * k] - y[2 * k] * x[2 * k + 1];
      }
    }
    Fft.inverse(sum);
    int peak = 0;
    for (int i = 1; i < size; i++) {
      peak = sum[i] > sum[peak] ? i : peak;
    }
    int lag = peak < size / 2 ? peak : peak - size;
    double score = sum[peak] / Math.max(1e-9, Math.sqrt(energyS * energyV));
    return new Coarse(ratio, lag * COARSE_HOP, score, scale);
  }

  /** Ratio and offset of a line through the places of blocks. */
  private double[] blocks(float[][] s, LogMel versionMel, Coarse start) {
    double ratio = start.ratio();
    double offset = start.offset();
    float[][] v = LogMel.withoutMean(coarseLevels(versionMel, version), reach(ratio, COARSE_HOP));
    for (int round = 0; round < 2; round++) {
      List<double[]> points = new ArrayList<>();
      double length = Math.max(1, Math.min(BLOCK_SECONDS, source.seconds() / 6));
      double search = round == 0 ? BLOCK_SEARCH : 0.3;
      double step = Math.max(length / 2, source.seconds() / MOST_LINE_POINTS);
      int tried = 0;
      for (double t = 0; t + length <= source.seconds(); t += step) {
        float[][] block = MelRows.piece(s, t / COARSE_HOP, length * ratio / COARSE_HOP, 1 / ratio);
        double expectedPlace = offset + ratio * t;
        MelRows.Peak peak =
            MelRows.search(
                block, v, expectedPlace / COARSE_HOP, search / COARSE_HOP, search / COARSE_HOP);
        tried += MelRows.energy(block, 0, block.length) > 1 ? 1 : 0;
        if (peak != null && peak.score() >= LEAST_SCORE) {
          points.add(new double[] {t, peak.place() * COARSE_HOP - ratio * t});
        }
      }
      blocksFound = tried == 0 ? 0 : Math.min(1, (double) points.size() / tried);
      if (points.size() < 3) {
        break;
      }
      double[] line = RobustLine.through(points);
      if (Math.abs(line[1]) > MOST_CHANGE * start.ratio()) {
        // Blocks that lie anywhere belong to another recording.
        break;
      }
      offset = line[0];
      ratio += line[1];
    }
    return new double[] {ratio, offset};
  }

  private MapFit anchors(LogMel sourceMel, LogMel versionMel, double ratio, double offset) {
    double step = Math.max(ANCHOR_STEP, source.seconds() / MOST_ANCHORS);
    List<double[]> points = new ArrayList<>();
    List<double[]> onsets = new ArrayList<>();
    List<Double> strengths = new ArrayList<>();
    List<double[]> tried = new ArrayList<>();
    List<Boolean> pinned = new ArrayList<>();
    List<Boolean> seen = new ArrayList<>();
    double chunk = 20;
    double margin = 1;
    for (double begin = 0; begin < source.seconds(); begin += chunk) {
      stop.check();
      double end = Math.min(source.seconds(), begin + chunk);
      float[][] levels =
          sourceMel.levels(begin - margin, HOP, (int) ((end - begin + 2 * margin) / HOP));
      float[][] s = LogMel.withoutMean(levels, reach(1, HOP));
      double versionBegin = offset + ratio * (begin - margin);
      float[][] versionLevels =
          versionMel.levels(versionBegin, HOP, (int) ((end - begin + 2 * margin) * ratio / HOP));
      float[][] v = LogMel.withoutMean(versionLevels, reach(ratio, HOP));
      int first = (int) Math.ceil(begin / step);
      for (int n = first; n * step < end; n++) {
        double t = n * step;
        double from = (t - ANCHOR_REACH - begin + margin) / HOP;
        double length = 2 * ANCHOR_REACH * ratio / HOP;
        float[][] piece = MelRows.piece(s, from, length, 1 / ratio);
        strengths.add(MelRows.energy(piece, 0, piece.length));
        double expectedRow = (offset + ratio * (t - ANCHOR_REACH) - versionBegin) / HOP;
        MelRows.Peak peak =
            MelRows.search(piece, v, expectedRow, ANCHOR_SEARCH / HOP, AWAY_SECONDS * ratio / HOP);
        boolean again = peak != null && peak.score() >= LEAST_SCORE;
        double place =
            again && peak.margin() >= LEAST_MARGIN
                ? versionBegin + peak.place() * HOP + ANCHOR_REACH * ratio
                : Double.NaN;
        seen.add(again);
        tried.add(new double[] {t, place});
        // What lies beyond the version's end is the blocks' to tell.
        double there = offset + ratio * t;
        pinned.add(there >= 0 && there <= version.seconds() && told(s, from));
      }
      Onsets own = new Onsets(levels);
      Onsets other = new Onsets(versionLevels);
      for (int frame : own.frames()) {
        double t = begin - margin + frame * HOP;
        if (t >= begin && t < end) {
          double at = own.in(other, frame, (offset + ratio * t - versionBegin) / HOP);
          if (!Double.isNaN(at)) {
            onsets.add(new double[] {t, versionBegin + at * HOP});
          }
        }
      }
    }
    // Where the source has nothing to hold on to, an anchor that is not found says nothing.
    double quiet = strengths.isEmpty() ? 0 : 0.1 * median(strengths);
    int fair = 0;
    int found = 0;
    for (int i = 0; i < tried.size(); i++) {
      if (!pinned.get(i)) {
        continue;
      }
      if (!Double.isNaN(tried.get(i)[1])) {
        points.add(tried.get(i));
      }
      found += seen.get(i) ? 1 : 0;
      fair += strengths.get(i) >= quiet ? 1 : 0;
    }
    // Where next to nothing pins it, whether it was found again is the blocks' to say.
    double coverage = fair < FEWEST_ANCHORS ? 1 : Math.min(1, (double) found / fair);
    return through(points, onsets, coverage, ratio, offset);
  }

  /** Whether a piece of the source can be told from what lies a moment before and after it. */
  private static boolean told(float[][] s, double from) {
    int away = (int) Math.round(AWAY_SECONDS / HOP);
    int count = (int) Math.round(2 * ANCHOR_REACH / HOP);
    double like =
        Math.max(MelRows.likeness(s, from, count, away), MelRows.likeness(s, from, count, -away));
    return 1 - like >= LEAST_CHANGE;
  }

  private static double median(List<Double> values) {
    return Statistics.median(values.stream().mapToDouble(Double::doubleValue).toArray());
  }

  private MapFit through(
      List<double[]> points, List<double[]> onsets, double found, double ratio, double offset) {
    if (points.size() < FEWEST_ANCHORS) {
      // Nothing pins it: the blocks' line, and no more is known of what lies off it.
      return MapFit.line(offset, ratio, found);
    }
    int every = Math.max(1, points.size() / MOST_LINE_POINTS);
    List<double[]> some = new ArrayList<>();
    for (int i = 0; i < points.size(); i += every) {
      some.add(points.get(i));
    }
    double[] line = RobustLine.through(some);
    double[] off = new double[points.size()];
    for (int i = 0; i < off.length; i++) {
      off[i] = points.get(i)[1] - line[0] - line[1] * points.get(i)[0];
    }
    List<double[]> knots = new ArrayList<>();
    for (int i = 0; i < off.length; i++) {
      double[] near = Arrays.copyOfRange(off, Math.max(0, i - 2), Math.min(off.length, i + 3));
      double smooth = Statistics.median(near);
      if (Math.abs(off[i] - smooth) <= OUTLIER_SECONDS) {
        double t = points.get(i)[0];
        knots.add(new double[] {t, line[0] + line[1] * t + smooth});
      }
    }
    double coverage = found * knots.size() / points.size();
    if (knots.size() < FEWEST_ANCHORS) {
      return MapFit.line(line[0], line[1], coverage);
    }
    for (double[] onset : onsets) {
      knots.removeIf(k -> Math.abs(k[0] - onset[0]) < 0.5 * ANCHOR_STEP);
    }
    knots.addAll(onsets);
    knots.sort(Comparator.comparingDouble(k -> k[0]));
    // Beyond the outermost it runs on with the line, not with what two neighbours happen to give.
    double[] first = knots.get(0);
    double[] last = knots.get(knots.size() - 1);
    if (first[0] > ANCHOR_STEP) {
      knots.add(0, new double[] {0, first[1] - line[1] * first[0]});
    }
    if (last[0] < source.seconds() - ANCHOR_STEP) {
      double end = source.seconds();
      knots.add(new double[] {end, last[1] + line[1] * (end - last[0])});
    }
    double[] from = knots.stream().mapToDouble(k -> k[0]).toArray();
    double[] to = knots.stream().mapToDouble(k -> k[1]).toArray();
    return MapFit.of(TimeMap.through(from, to), line[1], line[0], coverage);
  }
}
