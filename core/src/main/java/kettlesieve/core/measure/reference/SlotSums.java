package kettlesieve.core.measure.reference;

import java.util.function.ToDoubleFunction;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;

/** Sums over samples of a clean recording and a version, gathered by slots of a tenth second. */
final class SlotSums {
  private static final int BLOCK = 1 << 14;

  private final Pair pair;
  private final double[][] slots;

  SlotSums(Pair pair, int sums) {
    this.pair = pair;
    this.slots = new double[pair.timeline().slots()][sums];
  }

  /** Told of every pair of samples, with the sums of their slot. */
  @FunctionalInterface
  interface Step {
    void add(double reference, double version, double[] slot);
  }

  /** Walks over what the version covers, all channels. */
  void walk(Audio reference, Step step) {
    Audio version = pair.version().audio();
    float[] r = new float[BLOCK];
    float[] v = new float[BLOCK];
    for (int c = 0; c < version.channels(); c++) {
      for (long at = pair.firstSample(); at < pair.endSample(); at += BLOCK) {
        int n = (int) Math.min(BLOCK, pair.endSample() - at);
        reference.read(c, at, r, 0, n);
        version.read(c, at, v, 0, n);
        int end = 0;
        double[] slot = slots[0];
        for (int i = 0; i < n; i++) {
          if (i == end) {
            // All samples of a hop belong to one slot.
            slot = slots[pair.timeline().slot(pair.frameOf(at + i))];
            end = i + pair.framing().hop() - (int) ((at + i) % pair.framing().hop());
          }
          step.add(r[i], v[i], slot);
        }
      }
    }
  }

  /** A figure made of the sums of all slots. */
  Estimate estimate(ToDoubleFunction<double[]> figure) {
    int sums = slots[0].length;
    double[][] blocks = new double[pair.timeline().blocks()][sums];
    for (int s = 0; s < slots.length; s++) {
      double[] block = blocks[pair.timeline().blockOfSlot(s)];
      for (int i = 0; i < sums; i++) {
        block[i] += slots[s][i];
      }
    }
    return pair.bootstrap()
        .estimate(
            w -> {
              double[] total = new double[sums];
              for (int b = 0; b < blocks.length; b++) {
                for (int i = 0; i < sums; i++) {
                  total[i] += w[b] * blocks[b][i];
                }
              }
              return figure.applyAsDouble(total);
            });
  }

  /** The figure of every slot in which the source holds wanted sound. */
  PlaceGrid places(ToDoubleFunction<double[]> figure) {
    PlaceGrid places = PlaceGrid.ofTime(pair.timeline(), 20, pair.framing().sampleRate() / 2.0);
    int slotFrames = pair.framing().framesIn(0.1);
    for (int s = 0; s < slots.length; s++) {
      int frame = Math.min(pair.timeline().frames() - 1, s * slotFrames + slotFrames / 2);
      double value = figure.applyAsDouble(slots[s]);
      if (pair.source().pauses().activity().active(frame) && Double.isFinite(value)) {
        places.add(s * slotFrames, 0, value, 1);
      }
    }
    return places;
  }
}
