package kettlesieve.core.signal;

import java.util.Arrays;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.task.Stop;

/**
 * Finds clicks: samples that a linear prediction from their past does not foresee by far.
 *
 * <p>Autoregressive residual detector (Godsill &amp; Rayner, "Digital Audio Restoration", Springer
 * 1998, chapter 5): in blocks of 40 ms a model of order 20 is fitted by the autocorrelation method
 * (Levinson–Durbin), and samples are flagged where the residual is more than a number of robust
 * standard deviations.
 */
public final class Clicks {
  private static final int ORDER = 20;
  private static final double TOGETHER_SECONDS = 0.002;

  private Clicks() {}

  /** Told of a sample that stands out, in order of position. */
  @FunctionalInterface
  public interface Finding {
    /**
     * @param sample position in the recording
     * @param deviations its residual in robust standard deviations
     * @param residual the residual itself
     */
    void at(long sample, double deviations, double residual);
  }

  /**
   * Walks over all samples of a channel whose residual exceeds the threshold.
   *
   * @param threshold in robust standard deviations of the residual; speech alone reaches about 12
   */
  public static void scan(Audio audio, int channel, double threshold, Finding finding) {
    int block = Math.max(8 * ORDER, (int) (0.040 * audio.sampleRate()));
    for (long from = 0; from < audio.frames(); from += block) {
      Stop.checkHere();
      float[] x = audio.samples(channel, from - ORDER, block + ORDER);
      double[] y = new double[x.length];
      for (int i = 0; i < y.length; i++) {
        y[i] = x[i];
      }
      double[] model = LinearPrediction.of(y, ORDER);
      if (model == null) {
        continue;
      }
      double[] residual = LinearPrediction.residual(y, model);
      double[] magnitudes = Arrays.stream(residual).map(Math::abs).toArray();
      double deviation = 1.4826 * Statistics.median(magnitudes);
      if (!(deviation > 0)) {
        continue;
      }
      for (int i = 0; i < magnitudes.length; i++) {
        if (magnitudes[i] > threshold * deviation) {
          finding.at(from + i, magnitudes[i] / deviation, magnitudes[i]);
        }
      }
    }
  }

  /**
   * Positions of the clicks of a channel, rising: the strongest sample of each, findings within 2
   * ms counting as one.
   */
  public static long[] positions(Audio audio, int channel, double threshold) {
    long apart = Math.round(TOGETHER_SECONDS * audio.sampleRate());
    var positions = new java.util.ArrayList<Long>();
    double[] strongest = {0};
    long[] last = {Long.MIN_VALUE / 2};
    scan(
        audio,
        channel,
        threshold,
        (sample, deviations, residual) -> {
          if (sample - last[0] > apart) {
            positions.add(sample);
            strongest[0] = deviations;
          } else if (deviations > strongest[0]) {
            positions.set(positions.size() - 1, sample);
            strongest[0] = deviations;
          }
          last[0] = sample;
        });
    return positions.stream().mapToLong(Long::longValue).toArray();
  }

  /** Marks the frames of a framing in which one of the positions lies. */
  public static void mark(long[] positions, Framing framing, boolean[] marked) {
    for (long sample : positions) {
      int last = (int) Math.min(marked.length - 1, sample / framing.hop());
      for (int t = last; t >= 0 && (long) t * framing.hop() + framing.length() > sample; t--) {
        marked[t] = true;
      }
    }
  }
}
