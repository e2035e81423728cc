package kettlesieve.core.measure.clip;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.measure.Trace;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Db;

/**
 * Signal-to-distortion ratios against the clean recording, on the clipped samples alone and
 * overall, of version and source: 10·log10(|r|² / |r − x|²), not above 100 dB. After Záviška,
 * Rajmic, Ozerov &amp; Rencker, "A survey and an extensive evaluation of popular audio declipping
 * methods", IEEE Journal of Selected Topics in Signal Processing 15, 2021.
 */
final class ClippedErrors {
  private static final int BLOCK = 1 << 15;
  private static final double LARGEST_DB = 100;

  private final Pair pair;
  // By slot: energy of the reference, of the version's error, of the source's error.
  private final double[][] onClipped;
  private final double[][] overall;

  ClippedErrors(Pair pair) throws NotMeasurableException {
    this.pair = pair;
    pair.shared(Repairs.OF);
    Audio reference = pair.needReference();
    Timeline timeline = pair.timeline();
    onClipped = new double[timeline.slots()][3];
    overall = new double[timeline.slots()][3];
    Audio source = pair.source().audio();
    Audio version = pair.version().audio();
    Clipping clipping = pair.source().clipping();
    float[] r = new float[BLOCK];
    float[] s = new float[BLOCK];
    float[] v = new float[BLOCK];
    for (int c = 0; c < pair.channels(); c++) {
      for (long at = pair.firstSample(); at < pair.endSample(); at += BLOCK) {
        int n = (int) Math.min(BLOCK, pair.endSample() - at);
        reference.read(c, at, r, 0, n);
        source.read(c, at, s, 0, n);
        version.read(c, at, v, 0, n);
        boolean[] clipped = clipped(clipping, c, at, n);
        for (int i = 0; i < n; i++) {
          int slot = timeline.slot(pair.frameOf(at + i));
          add(overall[slot], r[i], v[i], s[i]);
          if (clipped[i]) {
            add(onClipped[slot], r[i], v[i], s[i]);
          }
        }
      }
    }
  }

  private static boolean[] clipped(Clipping clipping, int channel, long at, int n) {
    boolean[] clipped = new boolean[n];
    for (int i = clipping.firstRunFrom(channel, at); i < clipping.runs(channel); i++) {
      Clipping.Run run = clipping.run(channel, i);
      if (run.from() >= at + n) {
        break;
      }
      int from = (int) Math.max(0, run.from() - at);
      int to = (int) Math.min(n, run.from() + run.length() - at);
      java.util.Arrays.fill(clipped, from, to, true);
    }
    return clipped;
  }

  private static void add(double[] sums, double r, double v, double s) {
    sums[0] += r * r;
    sums[1] += (r - v) * (r - v);
    sums[2] += (r - s) * (r - s);
  }

  /** Ratio in dB from the energies of the reference and the error; NaN for silence. */
  static double ratioDb(double energy, double error) {
    return energy > 0
        ? Db.ofPower(energy / Math.max(error, energy * Db.toPower(-LARGEST_DB)))
        : Double.NaN;
  }

  /** The ratio over the clipped samples, or over all. */
  Estimate ofVersion(boolean clippedOnly) {
    return estimate(clippedOnly ? onClipped : overall, false);
  }

  /** The same, version minus source. */
  Estimate gain(boolean clippedOnly) {
    return estimate(clippedOnly ? onClipped : overall, true);
  }

  private Estimate estimate(double[][] slots, boolean gain) {
    double[][] blocks = new double[pair.timeline().blocks()][3];
    for (int s = 0; s < slots.length; s++) {
      for (int i = 0; i < 3; i++) {
        blocks[pair.timeline().blockOfSlot(s)][i] += slots[s][i];
      }
    }
    return pair.bootstrap()
        .estimate(
            w -> {
              double[] sum = new double[3];
              for (int b = 0; b < blocks.length; b++) {
                for (int i = 0; i < 3; i++) {
                  sum[i] += w[b] * blocks[b][i];
                }
              }
              return value(sum, gain);
            });
  }

  private static double value(double[] sums, boolean gain) {
    double version = ratioDb(sums[0], sums[1]);
    return gain ? version - ratioDb(sums[0], sums[2]) : version;
  }

  /** The ratio, or its gain, on the clipped samples over time. */
  Trace trace(boolean gain) {
    double[] seconds = new double[onClipped.length];
    double[] values = new double[seconds.length];
    for (int s = 0; s < seconds.length; s++) {
      seconds[s] = pair.timeline().slotMiddle(s);
      values[s] = value(onClipped[s], gain);
    }
    return new Trace(seconds, values);
  }

  /** Places in which the version is worst. */
  java.util.List<kettlesieve.core.measure.Spot> spots(boolean gain, double limit) {
    var places = RunReadings.grid(pair);
    for (int s = 0; s < onClipped.length; s++) {
      if (onClipped[s][0] > 0) {
        places.add(s * pair.framing().framesIn(0.1), 0, value(onClipped[s], gain), 1);
      }
    }
    return places.spots(false, limit, 1);
  }
}
