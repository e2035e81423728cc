package kettlesieve.core.rig;

import java.util.ArrayList;
import java.util.List;

/**
 * Runs of samples that stand at the top or at the bottom of a channel: two or more within 0.1 % of
 * its highest or lowest sample.
 */
final class ClippedRuns {
  private static final float NEAR = 0.999f;

  private ClippedRuns() {}

  /**
   * One run.
   *
   * @param from first sample
   * @param to sample after the last
   * @param level the level it stands at, with its sign
   */
  record Run(int from, int to, float level) {}

  static List<Run> find(float[] x) {
    float high = 0;
    float low = 0;
    for (float v : x) {
      high = Math.max(high, v);
      low = Math.min(low, v);
    }
    List<Run> runs = new ArrayList<>();
    for (int i = 0; i < x.length; i++) {
      int side = side(x[i], high, low);
      if (side != 0) {
        int end = i + 1;
        while (end < x.length && side(x[end], high, low) == side) {
          end++;
        }
        if (end - i >= 2 && i > 1 && end < x.length - 2) {
          runs.add(new Run(i, end, side > 0 ? high : low));
        }
        i = end - 1;
      }
    }
    return runs;
  }

  private static int side(float v, float high, float low) {
    return v > 0 && v >= NEAR * high ? 1 : v < 0 && v <= NEAR * low ? -1 : 0;
  }

  /** A rebuilt sample: never inside the clip level, and moved there only as far as the amount. */
  static float rebuilt(Run run, double value, double amount) {
    double rise = run.level() > 0 ? value - run.level() : run.level() - value;
    double kept = Math.max(0, rise) * amount / 100;
    return (float) (run.level() > 0 ? run.level() + kept : run.level() - kept);
  }
}
