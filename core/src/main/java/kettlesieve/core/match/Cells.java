package kettlesieve.core.match;

import kettlesieve.core.signal.BoxMean;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;

/**
 * Which time–frequency cells of one channel of the source hold wanted sound, and which hold nothing
 * but noise, judged against the mean noise power N of each bin in the pauses.
 *
 * <ul>
 *   <li>wanted: the 3×3 mean of |S|²/N is at least 10 and the cell itself at least 3;
 *   <li>strong: 100 and 30;
 *   <li>unwanted: in an active frame, the 5×5 mean is at most 1.25.
 * </ul>
 *
 * Single-cell thresholds let noise in and make perfect removal look like damage.
 */
public final class Cells {
  private final float[] noise;
  private final CellMask wanted;
  private final CellMask strong;
  private final CellMask unwanted;

  private Cells(float[] noise, int frames) {
    this.noise = noise;
    this.wanted = new CellMask(frames, noise.length);
    this.strong = new CellMask(frames, noise.length);
    this.unwanted = new CellMask(frames, noise.length);
  }

  /**
   * Classifies all cells.
   *
   * @param noise mean power of each bin in the pauses, over 0
   */
  static Cells of(Spectrogram source, Activity activity, float[] noise) {
    Framing framing = source.framing();
    int frames = framing.count();
    int bins = framing.bins();
    Cells cells = new Cells(noise, frames);
    float[][] ring = new float[5][];
    int[] held = {-1, -1, -1, -1, -1};
    java.util.function.IntFunction<float[]> ratios =
        t -> {
          int slot = t % 5;
          if (held[slot] != t) {
            float[] powers = source.powers(t);
            float[] row = ring[slot] == null ? (ring[slot] = new float[bins]) : ring[slot];
            for (int k = 0; k < bins; k++) {
              row[k] = powers[k] / noise[k];
            }
            held[slot] = t;
          }
          return ring[slot];
        };
    BoxMean near = new BoxMean(1, bins, frames, ratios);
    BoxMean wide = new BoxMean(2, bins, frames, ratios);
    for (int t = 0; t < frames; t++) {
      float[] wideRow = wide.row(t);
      float[] nearRow = near.row(t);
      float[] own = ratios.apply(t);
      boolean active = activity.active(t);
      for (int k = 0; k < bins; k++) {
        if (nearRow[k] >= 10 && own[k] >= 3) {
          cells.wanted.set(t, k);
          if (nearRow[k] >= 100 && own[k] >= 30) {
            cells.strong.set(t, k);
          }
        }
        if (active && wideRow[k] <= 1.25) {
          cells.unwanted.set(t, k);
        }
      }
    }
    return cells;
  }

  /** Mean power of a bin in the pauses of the source. */
  public float noise(int bin) {
    return noise[bin];
  }

  /** Cells that hold wanted sound. */
  public CellMask wanted() {
    return wanted;
  }

  /** Cells that hold nothing else. */
  public CellMask strong() {
    return strong;
  }

  /** Cells of active frames that hold only noise. */
  public CellMask unwanted() {
    return unwanted;
  }
}
