package kettlesieve.core.ground;

import kettlesieve.core.signal.BoxMean;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * Which time–frequency cells of one channel of the source hold wanted sound, and which hold nothing
 * but noise, judged against the mean noise power N of each bin in the pauses.
 *
 * <ul>
 *   <li>wanted: outside the pauses, the 3×3 mean of |S|²/N is at least θ and the cell itself at
 *       least 0.3 θ, where θ is 10, or twice what only one in two hundred of these means exceeds in
 *       the pauses of the third-octave, if that is more; and higher by 2 dB for each dB by which
 *       the level of the pauses spreads over 1 dB;
 *   <li>none in a third-octave in which the pauses rise to 8 times their mean and the active frames
 *       lie less than 5 dB over it: there, voice and noise cannot be told apart;
 *   <li>strong: ten times as much;
 *   <li>unwanted: in an active frame, the 5×5 mean is at most 1.25 times its median in the pauses.
 * </ul>
 *
 * All of this over the noise as it is at the moment ({@link NoiseRise}). Single-cell thresholds let
 * noise in and make perfect removal look like damage; so does a fixed one where the noise itself
 * flares up.
 */
public final class Cells {
  private static final double WANTED_FROM = 10;
  private static final float OWN_SHARE = 0.3f;
  private static final float STRONG = 10;
  private static final double STEADY_SPREAD_DB = 1;
  private static final double CAUTION_DB = 2;
  private static final double MOST_CAUTION_DB = 10;
  private static final double UNWANTED_UP_TO = 1.25;
  private static final double FLARES_FROM = 8;
  private static final double BURIED_UNDER = Math.pow(10, 0.5);

  private final float[] noise;
  private final NoiseRise rise;
  private final CellMask wanted;
  private final CellMask strong;
  private final CellMask unwanted;

  private Cells(float[] noise, NoiseRise rise, int frames) {
    this.noise = noise;
    this.rise = rise;
    this.wanted = new CellMask(frames, noise.length);
    this.strong = new CellMask(frames, noise.length);
    this.unwanted = new CellMask(frames, noise.length);
  }

  /**
   * Classifies all cells.
   *
   * @param noise mean power of each bin in the pauses, over 0
   * @param shape how the pauses lie about it
   */
  static Cells of(Spectrogram source, Activity activity, float[] noise, PauseShape shape) {
    Framing framing = source.framing();
    float[] wantedFrom = wantedFrom(framing, shape, caution(activity));
    float[] unwantedUpTo = unwantedUpTo(framing, shape);
    int frames = framing.count();
    int bins = framing.bins();
    NoiseRise rise = new NoiseRise(source, activity, noise);
    Cells cells = new Cells(noise, rise, frames);
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
    float[] rises = new float[bins];
    for (int t = 0; t < frames; t++) {
      if (t == 0 || rise.step(t) != rise.step(t - 1)) {
        rise.at(t, rises);
      }
      float[] wideRow = wide.row(t);
      float[] nearRow = near.row(t);
      float[] own = ratios.apply(t);
      boolean active = activity.active(t);
      boolean pause = activity.pause(t);
      for (int k = 0; k < bins; k++) {
        float up = rises[k];
        float from = wantedFrom[k] * up;
        if (!pause && nearRow[k] >= from && own[k] >= OWN_SHARE * from) {
          cells.wanted.set(t, k);
          if (nearRow[k] >= STRONG * from && own[k] >= STRONG * OWN_SHARE * from) {
            cells.strong.set(t, k);
          }
        }
        if (active && wideRow[k] <= unwantedUpTo[k] * up) {
          cells.unwanted.set(t, k);
        }
      }
    }
    return cells;
  }

  /**
   * Where the level of the pauses changes, they are the quieter moments of the noise, for its
   * louder ones pass for activity: a cell must stand higher to be taken for wanted.
   */
  private static double caution(Activity activity) {
    double over = Math.max(0, activity.spreadDb() - STEADY_SPREAD_DB);
    return Db.toPower(Math.min(MOST_CAUTION_DB, CAUTION_DB * over));
  }

  private static float[] wantedFrom(Framing framing, PauseShape shape, double caution) {
    ThirdOctaveBands bands = new ThirdOctaveBands(framing);
    float[] from = new float[framing.bins()];
    for (int k = 0; k < from.length; k++) {
      int band = bands.ofBin(k);
      if (band < 0) {
        from[k] = (float) (WANTED_FROM * caution);
      } else if (shape.loud(band) > FLARES_FROM && shape.activeMean(band) < BURIED_UNDER) {
        from[k] = Float.POSITIVE_INFINITY;
      } else {
        from[k] = (float) (caution * Math.max(WANTED_FROM, 2 * shape.loud(band)));
      }
    }
    return from;
  }

  private static float[] unwantedUpTo(Framing framing, PauseShape shape) {
    ThirdOctaveBands bands = new ThirdOctaveBands(framing);
    float[] upTo = new float[framing.bins()];
    for (int k = 0; k < upTo.length; k++) {
      int band = bands.ofBin(k);
      upTo[k] = (float) (UNWANTED_UP_TO * (band < 0 ? 1 : shape.typical(band)));
    }
    return upTo;
  }

  /** An array for the noise of a frame. */
  float[] noiseRow() {
    return new float[noise.length];
  }

  /** Whether the noise of two frames is told by the same levels. */
  boolean sameNoise(int frame, int other) {
    return rise.step(frame) == rise.step(other);
  }

  /** Power of the noise in a frame: that of the pauses, and more where it has risen since. */
  void noise(int frame, float[] into) {
    rise.at(frame, into);
    for (int k = 0; k < into.length; k++) {
      into[k] *= noise[k];
    }
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
