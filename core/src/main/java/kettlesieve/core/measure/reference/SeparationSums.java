package kettlesieve.core.measure.reference;

import java.util.Arrays;
import java.util.function.IntPredicate;
import java.util.function.ToDoubleFunction;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Statistics;

/**
 * The energies of the separation evaluation of one estimate, over all its channels, gathered by
 * slots of a tenth of a second, and their ratios.
 *
 * <p>As sources: target = the filtered true source; as images: target = the true one as it is, and
 * what filtering it would explain counts as spatial (in mono: spectral) distortion.
 */
final class SeparationSums {
  private static final double LARGEST_DB = 100;
  private static final int SLOTS_A_SECOND = 10;
  private static final int SUMS = 8;

  /** Which ratio. */
  enum Kind {
    /** Target over everything else. */
    SDR,
    /** Target over filtering distortion; of images only. */
    ISR,
    /** Target over interference: what is left of the others. */
    SIR,
    /** Target and interference over artifacts. */
    SAR
  }

  private final Timeline timeline;
  private final Bootstrap bootstrap;
  private final Framing framing;
  private final boolean images;

  // By slot: target, filtering, target + filtering, interference, all sources, artifacts, all
  // error, product of the target with itself filtered.
  private final double[][] slots;

  SeparationSums(Timeline timeline, Bootstrap bootstrap, Framing framing, boolean images) {
    this.timeline = timeline;
    this.bootstrap = bootstrap;
    this.framing = framing;
    this.images = images;
    this.slots = new double[timeline.slots()][SUMS];
  }

  /** Adds samples of one channel. */
  void add(BssEval.Block block) {
    long from = block.from();
    float[] estimate = block.estimate();
    float[] target = block.target();
    float[] all = block.all();
    float[] wanted = images ? block.wanted() : target;
    for (int i = 0; i < block.length(); ) {
      // All samples of a hop belong to one slot.
      int frame = (int) Math.min(framing.count() - 1L, (from + i) / framing.hop());
      int end = i + framing.hop() - (int) ((from + i) % framing.hop());
      end = Math.min(end, block.length());
      add(estimate, wanted, target, all, i, end, slots[timeline.slot(frame)]);
      i = end;
    }
  }

  /** Sums in variables of their own: those in the array would be fetched for every sample. */
  private static void add(
      float[] estimate,
      float[] wanted,
      float[] target,
      float[] all,
      int from,
      int to,
      double[] sums) {
    double ofWanted = 0;
    double ofFiltering = 0;
    double ofTarget = 0;
    double ofInterference = 0;
    double ofAll = 0;
    double ofArtifacts = 0;
    double ofError = 0;
    double ofBoth = 0;
    for (int i = from; i < to; i++) {
      double e = estimate[i];
      double w = wanted[i];
      double t = target[i];
      double a = all[i];
      ofWanted += w * w;
      ofFiltering += (t - w) * (t - w);
      ofTarget += t * t;
      ofInterference += (a - t) * (a - t);
      ofAll += a * a;
      ofArtifacts += (e - a) * (e - a);
      ofError += (e - w) * (e - w);
      ofBoth += t * w;
    }
    sums[0] += ofWanted;
    sums[1] += ofFiltering;
    sums[2] += ofTarget;
    sums[3] += ofInterference;
    sums[4] += ofAll;
    sums[5] += ofArtifacts;
    sums[6] += ofError;
    sums[7] += ofBoth;
  }

  private static double ratioDb(Kind kind, double[] sums) {
    double of =
        switch (kind) {
          case SDR, ISR -> sums[0];
          case SIR -> sums[2];
          case SAR -> sums[4];
        };
    double to =
        switch (kind) {
          case SDR -> sums[6];
          case ISR -> sums[1];
          case SIR -> sums[3];
          case SAR -> sums[5];
        };
    return ratioDb(of, to);
  }

  /** Energy over energy, within ±100 dB; NaN where there is nothing above. */
  static double ratioDb(double of, double to) {
    if (!(of > 0)) {
      return Double.NaN;
    }
    return Math.max(-LARGEST_DB, Db.ofPower(of / Math.max(to, of * Db.toPower(-LARGEST_DB))));
  }

  /** Energy of the target as the ratio to interference has it. */
  double target() {
    return Arrays.stream(slots).mapToDouble(s -> s[2]).sum();
  }

  /**
   * Over the excerpt: of the wanted, of filtering, of both, of interference, of all sources, of
   * artifacts, of all error; and the product of the wanted with itself filtered.
   */
  double[] energies() {
    double[] all = new double[SUMS];
    for (double[] slot : slots) {
      for (int i = 0; i < all.length; i++) {
        all[i] += slot[i];
      }
    }
    return all;
  }

  /** A ratio over the excerpt, not above 100 dB. */
  Estimate estimate(Kind kind) {
    return estimate(sums -> ratioDb(kind, sums));
  }

  /** Of the sums as {@link #energies} has them, over draws of blocks. */
  Estimate estimate(ToDoubleFunction<double[]> of) {
    double[][] blocks = new double[timeline.blocks()][SUMS];
    for (int s = 0; s < slots.length; s++) {
      double[] block = blocks[timeline.blockOfSlot(s)];
      for (int i = 0; i < block.length; i++) {
        block[i] += slots[s][i];
      }
    }
    return bootstrap.estimate(
        w -> {
          double[] sum = new double[SUMS];
          for (int b = 0; b < blocks.length; b++) {
            for (int i = 0; i < sum.length; i++) {
              sum[i] += w[b] * blocks[b][i];
            }
          }
          return of.applyAsDouble(sum);
        });
  }

  /**
   * The median over windows of a second, those left out in which the target is silent, by filters
   * found over the whole; NaN if it always is.
   */
  double medianOfSeconds(Kind kind) {
    double[] ratios = new double[(slots.length + SLOTS_A_SECOND - 1) / SLOTS_A_SECOND];
    for (int r = 0; r < ratios.length; r++) {
      double[] sum = new double[SUMS];
      for (int s = r * SLOTS_A_SECOND; s < Math.min(slots.length, (r + 1) * SLOTS_A_SECOND); s++) {
        for (int i = 0; i < sum.length; i++) {
          sum[i] += slots[s][i];
        }
      }
      ratios[r] = ratioDb(kind, sum);
    }
    double[] known = Arrays.stream(ratios).filter(Double::isFinite).toArray();
    return known.length == 0 ? Double.NaN : Statistics.median(known);
  }

  /** The ratio in each slot that counts, told by its middle frame. */
  PlaceGrid places(Kind kind, IntPredicate counts) {
    PlaceGrid places = PlaceGrid.ofTime(timeline, 20, framing.sampleRate() / 2.0);
    int slotFrames = framing.framesIn(0.1);
    for (int s = 0; s < slots.length; s++) {
      int frame = Math.min(timeline.frames() - 1, s * slotFrames + slotFrames / 2);
      double value = counts.test(frame) ? ratioDb(kind, slots[s]) : Double.NaN;
      if (Double.isFinite(value)) {
        places.add(s * slotFrames, 0, value, 1);
      }
    }
    return places;
  }

  /** The ratio in each slot that holds so much of the target. */
  PlaceGrid places(Kind kind, double belowLoudestDb) {
    double loudest = Arrays.stream(slots).mapToDouble(s -> s[2]).max().orElse(0);
    double least = loudest * Db.toPower(-belowLoudestDb);
    return places(kind, frame -> slots[timeline.slot(frame)][2] > least);
  }
}
