package kettlesieve.core.match;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.TruePeak;

/**
 * Samples of a clipped source that were never clipped: a repair has no reason to change them, so
 * its level and its place are told by them.
 */
final class GoodSamples {
  private static final int GUARD = 2;

  /** Whole samples about a delay that are tried, each way. */
  private static final int MOST_AWAY = 8;

  private static final long TRIED_SAMPLES = 1L << 19;

  /** Unlikeness of samples that differ by their rounding to 16 bits at most. */
  private static final double THE_SAME = 1e-6;

  private GoodSamples() {}

  /**
   * A repair of clipping keeps the good samples as they are, most often to the bit, while tops that
   * were cut tilt the correlation that the place is told by, by samples and even by a drift. So
   * where the good samples are more alike at a whole number of samples beside it, that is the
   * delay.
   */
  static Alignment placed(Alignment found, SourceMaterial source, Audio version) {
    long from = source.firstFrame();
    long to = from + source.audio().frames();
    long middle = (from + to) / 2;
    double delay = found.delaySamples() + middle * (found.step() - 1);
    long first = Math.max(from, middle - TRIED_SAMPLES / 2);
    long end = Math.min(to, first + TRIED_SAMPLES);
    Alignment best = found;
    double least = unlike(found, source, version, first, end);
    if (least < THE_SAME) {
      return found;
    }
    for (int away = -MOST_AWAY; away <= MOST_AWAY; away++) {
      Alignment place = found.with(Math.rint(delay) + away + 0.0, 0);
      double unlike = unlike(place, source, version, first, end);
      if (unlike < least) {
        least = unlike;
        best = place;
      }
    }
    return best != found
            && unlike(best, source, version, from, to) < unlike(found, source, version, from, to)
        ? best
        : found;
  }

  /**
   * How unlike a version is where the source was never clipped, at its best level: 0 the same, 1
   * nothing in common.
   *
   * @param from first frame of the whole source that is compared
   * @param to end of them
   */
  private static double unlike(
      Alignment place, SourceMaterial source, Audio version, long from, long to) {
    long start = source.firstFrame();
    double[] sums =
        sums(
            source.audio(),
            source.clipping(),
            place
                .apply(version, source.whole().frames())
                .slice(start, start + source.audio().frames()),
            from - start,
            to - start);
    double unlike = 1 - sums[1] * sums[1] / (sums[0] * sums[2]);
    return Double.isFinite(unlike) ? unlike : 1;
  }

  /** Source times source, source times version, version times version. */
  static double[] sums(Audio source, Clipping clipping, Audio version, long from, long to) {
    float limit =
        clipping.any() ? Float.POSITIVE_INFINITY : (float) (0.9 * TruePeak.samplePeak(source));
    double ss = 0;
    double sv = 0;
    double vv = 0;
    float[] s = new float[1 << 14];
    float[] v = new float[1 << 14];
    for (int c = 0; c < source.channels(); c++) {
      int run = clipping.firstRunFrom(c, from - GUARD);
      for (long at = from; at < to; at += s.length) {
        int length = (int) Math.min(s.length, to - at);
        source.read(c, at, s, 0, length);
        version.read(c, at, v, 0, length);
        for (int i = 0; i < length; i++) {
          while (run < clipping.runs(c) && end(clipping, c, run) <= at + i) {
            run++;
          }
          boolean clipped = run < clipping.runs(c) && clipping.run(c, run).from() - GUARD <= at + i;
          if (!clipped && Math.abs(s[i]) < limit) {
            ss += (double) s[i] * s[i];
            sv += (double) s[i] * v[i];
            vv += (double) v[i] * v[i];
          }
        }
      }
    }
    return new double[] {ss, sv, vv};
  }

  private static long end(Clipping clipping, int channel, int run) {
    return clipping.run(channel, run).from() + clipping.run(channel, run).length() + GUARD;
  }
}
