package kettlesieve.core.ground;

import java.util.List;
import java.util.Optional;
import java.util.function.IntFunction;
import kettlesieve.core.signal.BoxMean;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;

/**
 * The ground that a room gives: direct and early sound is wanted, its late reverberation is not.
 * With P the powers of the source, N their noise floor, λ their late reverberation ({@link
 * RoomDecay}) and F = N + 2λ:
 *
 * <ul>
 *   <li>wanted: the 3×3 mean of P is at least 10·F and P itself 3·F, 80 Hz to 16 kHz;
 *   <li>late: the 5×5 mean of P is at most 2λ, and λ at least 10·N, 200 Hz to 8 kHz;
 *   <li>voice frame: five wanted cells or more in 200–4,000 Hz; tail frame: one at most in it and
 *       in the 50 ms before it;
 *   <li>deep late: a late cell of a tail frame around which (±4 frames, ±3 bins) nothing stands
 *       four times over N + λ.
 * </ul>
 */
public final class DirectGround implements Ground {
  private static final int FEWEST_DECAYS = 10;
  private static final int SURE_DECAYS = 30;
  private static final int VOICE_CELLS = 5;
  private static final double TAIL_SECONDS = 0.05;
  private static final double LEAST_LATE_DB = -20;
  private static final int DEEP_FRAMES = 4;
  private static final int DEEP_BINS = 3;

  private final RoomDecay decay;
  private final Framing framing;
  private final CellMask[] wanted;
  private final CellMask[] late;
  private final CellMask[] deep;
  private final boolean[][] voice;
  private final boolean[][] tail;
  private final double lateDb;

  /**
   * @param spectra of the source, one a channel
   */
  DirectGround(List<Spectrogram> spectra) {
    this.framing = spectra.get(0).framing();
    this.decay = new RoomDecay(spectra);
    int channels = spectra.size();
    this.wanted = new CellMask[channels];
    this.late = new CellMask[channels];
    this.deep = new CellMask[channels];
    this.voice = new boolean[channels][framing.count()];
    this.tail = new boolean[channels][framing.count()];
    double[] energies = new double[2];
    if (decay.decays() >= FEWEST_DECAYS) {
      for (int c = 0; c < channels; c++) {
        classify(c, spectra.get(c), energies);
        findDeep(c, spectra.get(c));
      }
    }
    this.lateDb =
        energies[0] > 0 ? Db.ofPower(Math.max(energies[1], 1e-30) / energies[0]) : Double.NaN;
  }

  private void classify(int c, Spectrogram spectrum, double[] energies) {
    int frames = framing.count();
    int bins = framing.bins();
    wanted[c] = new CellMask(frames, bins);
    late[c] = new CellMask(frames, bins);
    int lowWanted = framing.binAtOrAbove(80);
    int highWanted = framing.binAtOrBelow(Math.min(16_000, 0.48 * framing.sampleRate()));
    int lowLate = framing.binAtOrAbove(200);
    int highLate = framing.binAtOrBelow(Math.min(8000, 0.45 * framing.sampleRate()));
    int lowVoice = lowLate;
    int highVoice = framing.binAtOrBelow(Math.min(4000, 0.45 * framing.sampleRate()));
    RoomDecay.Late lambda = decay.late(c);
    BoxMean near = new BoxMean(1, bins, frames, spectrum::powers);
    BoxMean wide = new BoxMean(2, bins, frames, spectrum::powers);
    int[] count = new int[frames];
    for (int t = 0; t < frames; t++) {
      float[] l = lambda.row(t);
      float[] p = spectrum.powers(t);
      float[] nearRow = near.row(t);
      float[] wideRow = wide.row(t);
      for (int k = lowWanted; k <= highWanted; k++) {
        float n = decay.floor(c, k);
        float f = n + 2 * l[k];
        if (nearRow[k] >= 10 * f && p[k] >= 3 * f) {
          wanted[c].set(t, k);
          energies[0] += p[k];
          count[t] += k >= lowVoice && k <= highVoice ? 1 : 0;
        } else if (k >= lowLate && k <= highLate && wideRow[k] <= 2 * l[k] && l[k] >= 10 * n) {
          late[c].set(t, k);
          energies[1] += p[k];
        }
      }
    }
    int before = (int) Math.round(TAIL_SECONDS / framing.hopSeconds());
    int sum = 0;
    for (int t = 0; t < frames; t++) {
      sum += count[t] - (t - before - 1 >= 0 ? count[t - before - 1] : 0);
      voice[c][t] = count[t] >= VOICE_CELLS;
      tail[c][t] = sum <= 1;
    }
  }

  private void findDeep(int c, Spectrogram spectrum) {
    int frames = framing.count();
    int bins = framing.bins();
    deep[c] = new CellMask(frames, bins);
    RoomDecay.Late lambda = decay.late(c);
    BoxMean near = new BoxMean(1, bins, frames, spectrum::powers);
    // Largest ratio over ±3 bins, for the frames around the one that is judged.
    float[][] ring = new float[2 * DEEP_FRAMES + 1][bins];
    float[] ratio = new float[bins];
    for (int ahead = 0; ahead < frames + DEEP_FRAMES; ahead++) {
      if (ahead < frames) {
        float[] l = lambda.row(ahead);
        float[] row = near.row(ahead);
        for (int k = 0; k < bins; k++) {
          ratio[k] = row[k] / (decay.floor(c, k) + l[k]);
        }
        float[] largest = ring[ahead % ring.length];
        for (int k = 0; k < bins; k++) {
          float most = 0;
          for (int i = Math.max(0, k - DEEP_BINS); i <= Math.min(bins - 1, k + DEEP_BINS); i++) {
            most = Math.max(most, ratio[i]);
          }
          largest[k] = most;
        }
      }
      int t = ahead - DEEP_FRAMES;
      if (t < 0 || !tail[c][t]) {
        continue;
      }
      for (int k = 0; k < bins; k++) {
        if (!late[c].has(t, k)) {
          continue;
        }
        float most = 0;
        int last = Math.min(frames - 1, t + DEEP_FRAMES);
        for (int i = Math.max(0, t - DEEP_FRAMES); i <= last; i++) {
          most = Math.max(most, ring[i % ring.length][k]);
        }
        if (most < 4) {
          deep[c].set(t, k);
        }
      }
    }
  }

  @Override
  public Optional<String> problem() {
    return decay.decays() < FEWEST_DECAYS
        ? Optional.of(
            "the sound never dies away freely often enough to tell room from voice; choose a"
                + " longer excerpt")
        : Optional.empty();
  }

  /** What the person should know; empty if nothing. */
  public Optional<String> warning() {
    return problem().isEmpty() && decay.decays() < SURE_DECAYS
        ? Optional.of("the decay of the room is uncertain: sound dies away freely only seldom")
        : Optional.empty();
  }

  /** Whether there is so little reverberation that nothing can be missed. */
  public boolean dry() {
    return !(lateDb >= LEAST_LATE_DB);
  }

  /** How sound dies away. */
  public RoomDecay decay() {
    return decay;
  }

  @Override
  public boolean active(int frame) {
    for (boolean[] channel : voice) {
      if (channel[frame]) {
        return true;
      }
    }
    return false;
  }

  @Override
  public CellMask wanted(int channel) {
    return wanted[channel];
  }

  /** All wanted cells: the level is matched on the direct sound. */
  @Override
  public CellMask strong(int channel) {
    return wanted[channel];
  }

  @Override
  public CellMask unwanted(int channel) {
    return late[channel];
  }

  /** Late cells of tail frames with nothing else near. */
  public CellMask deep(int channel) {
    return deep[channel];
  }

  /** Whether a frame of a channel holds voice. */
  public boolean voice(int channel, int frame) {
    return voice[channel][frame];
  }

  /** Whether a frame of a channel holds tail alone. */
  public boolean tail(int channel, int frame) {
    return tail[channel][frame];
  }

  /** Powers of the late reverberation alone, for one pass. */
  public IntFunction<float[]> late(int channel) {
    return decay.late(channel)::row;
  }

  /** Noise floor and late reverberation together. */
  @Override
  public NoiseEstimate covering(int channel) {
    RoomDecay.Late lambda = decay.late(channel);
    return new NoiseEstimate() {
      private float[] sum = new float[0];

      @Override
      public float[] moveTo(int frame) {
        float[] late = lambda.row(frame);
        if (sum.length != late.length) {
          sum = new float[late.length];
        }
        for (int k = 0; k < sum.length; k++) {
          sum[k] = decay.floor(channel, k) + late[k];
        }
        return sum;
      }
    };
  }
}
