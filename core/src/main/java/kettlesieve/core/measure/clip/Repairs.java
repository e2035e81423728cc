package kettlesieve.core.measure.clip;

import java.util.Arrays;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Db;

/**
 * What became of the source's clipped samples in a version, run by run, and of the samples that
 * were never clipped, block by block. Worked out in one pass for all measures of declipping.
 */
public final class Repairs {
  /** What became of the clipped samples of a pair. */
  public static final Analysis<Repairs> OF = Repairs::of;

  /** Samples within this of each other are flat, dB. */
  public static final double FLAT_DB = 0.01;

  private static final double FLAT_RATIO = Db.toAmplitude(FLAT_DB);
  private static final int FLAT_RUN = 3;
  private static final int GUARD = 2;
  private static final int BLOCK = 1 << 15;
  private static final int MARGIN = 320;

  private final Pair pair;
  private final Clipping clipping;
  private final int[] frames;
  private final int[] samples;
  private final int[] flat;
  private final int[] repaired;
  private final int[] under;
  private final float[] riseDb;
  private final float[] excessDb;
  private final double[][] kept;
  private int count;

  private static Repairs of(Pair pair) throws NotMeasurableException {
    if (!pair.source().clipping().any()) {
      throw new NotMeasurableException("no clipping was found in the source");
    }
    return new Repairs(pair);
  }

  private Repairs(Pair pair) {
    this.pair = pair;
    this.clipping = pair.source().clipping();
    int runs = clipping.runs();
    this.frames = new int[runs];
    this.samples = new int[runs];
    this.flat = new int[runs];
    this.repaired = new int[runs];
    this.under = new int[runs];
    this.riseDb = new float[runs];
    this.excessDb = new float[runs];
    this.kept = new double[pair.timeline().slots()][2];
    for (int c = 0; c < pair.channels(); c++) {
      walk(c);
    }
  }

  private void walk(int channel) {
    Audio source = pair.source().audio();
    Audio version = pair.version().audio();
    float[] s = new float[BLOCK + 2 * MARGIN];
    float[] v = new float[BLOCK + 2 * MARGIN];
    long end = pair.endSample();
    int next = clipping.firstRunFrom(channel, pair.firstSample());
    for (long at = pair.firstSample(); at < end; at += BLOCK) {
      source.read(channel, at - MARGIN, s, 0, s.length);
      version.read(channel, at - MARGIN, v, 0, v.length);
      int length = (int) Math.min(BLOCK, end - at);
      boolean[] touched = new boolean[BLOCK + 2 * MARGIN];
      int first = next;
      if (first > 0) {
        first--;
      }
      for (int i = first; i < clipping.runs(channel); i++) {
        Clipping.Run run = clipping.run(channel, i);
        if (run.from() >= at + length + GUARD) {
          break;
        }
        int from = (int) Math.max(0, run.from() - at + MARGIN - GUARD);
        int to = (int) Math.min(touched.length, run.from() - at + MARGIN + run.length() + GUARD);
        if (to > from) {
          Arrays.fill(touched, from, to, true);
        }
      }
      keep(s, v, touched, at, length);
      while (next < clipping.runs(channel) && clipping.run(channel, next).from() < at + length) {
        Clipping.Run run = clipping.run(channel, next++);
        // What reaches over the block's margin is longer than 6 ms of silence at full scale: its
        // part within the block stands for it.
        int from = (int) (run.from() - at) + MARGIN;
        if (from >= MARGIN) {
          add(run, s, v, from, Math.min(run.length(), s.length - 1 - from));
        }
      }
    }
  }

  private void keep(float[] s, float[] v, boolean[] touched, long at, int length) {
    int hop = pair.framing().hop();
    for (int i = MARGIN; i < MARGIN + length; i++) {
      if (!touched[i]) {
        long sample = at + i - MARGIN;
        double[] sums =
            kept[pair.timeline().slot((int) Math.min(pair.timeline().frames() - 1L, sample / hop))];
        double error = (double) v[i] - s[i];
        sums[0] += error * error;
        sums[1] += (double) s[i] * s[i];
      }
    }
  }

  private void add(Clipping.Run run, float[] s, float[] v, int from, int length) {
    int i = count++;
    frames[i] = pair.frameOf(run.from());
    samples[i] = length;
    float[] top = new float[length];
    float highest = 0;
    float limit = (float) (run.level() / FLAT_RATIO);
    for (int n = 0; n < length; n++) {
      top[n] = run.polarity() * v[from + n];
      highest = Math.max(highest, top[n]);
      float before = run.polarity() * s[from + n];
      boolean changed = top[n] > before * FLAT_RATIO || top[n] < before / FLAT_RATIO;
      repaired[i] += changed ? 1 : 0;
      under[i] += changed && top[n] < limit ? 1 : 0;
    }
    flat[i] = flatSamples(top);
    riseDb[i] = (float) Math.max(-60, Db.ofAmplitude(Math.max(highest, 1e-9) / run.level()));
    double slope =
        Math.max(
            Math.abs(s[from] - s[from - 1]), Math.abs(s[from + length - 1] - s[from + length]));
    double allowed = run.level() + (length + 1) / 4.0 * slope;
    excessDb[i] = (float) Math.max(-60, Db.ofAmplitude(Math.max(highest, 1e-9) / allowed));
  }

  /** Samples that stand in flat runs of three and more. */
  static int flatSamples(float[] top) {
    int flat = 0;
    for (int a = 0; a < top.length; ) {
      float low = top[a];
      float high = top[a];
      int b = a + 1;
      while (b < top.length
          && top[b] > 0
          && Math.max(high, top[b]) <= Math.min(low, top[b]) * FLAT_RATIO) {
        low = Math.min(low, top[b]);
        high = Math.max(high, top[b]);
        b++;
      }
      flat += b - a >= FLAT_RUN ? b - a : 0;
      a = b - a >= FLAT_RUN ? b : a + 1;
    }
    return flat;
  }

  /** Number of runs that the version covers. */
  public int count() {
    return count;
  }

  /** The frame in which run {@code i} begins. */
  public int frame(int i) {
    return frames[i];
  }

  /** Clipped samples of run {@code i}. */
  public int samples(int i) {
    return samples[i];
  }

  /** Those of them that are flat in the version. */
  public int flat(int i) {
    return flat[i];
  }

  /** Those that differ from the source by more than {@link #FLAT_DB}. */
  public int repaired(int i) {
    return repaired[i];
  }

  /** Those of the repaired that are smaller than the clip level, which cannot be true. */
  public int under(int i) {
    return under[i];
  }

  /** Highest sample of the version over the clip level, dB. */
  public double riseDb(int i) {
    return riseDb[i];
  }

  /** Highest sample over what the slopes at both edges allow, dB. */
  public double excessDb(int i) {
    return excessDb[i];
  }

  /** Squared error of a slot's samples that were never clipped. */
  public double keptError(int slot) {
    return kept[slot][0];
  }

  /** Energy of the same samples in the source. */
  public double keptEnergy(int slot) {
    return kept[slot][1];
  }
}
