package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Progress;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;

/**
 * Dereverberation by delayed linear prediction (Nakatani et al., "Speech dereverberation based on
 * variance-normalized delayed linear prediction", IEEE TASLP 18(7), 2010), each channel by itself:
 * what frames some time ago foretell of now is late reverberation, and is taken away with its
 * phase.
 */
public final class DelayedPrediction implements StandIn {
  private static final int ROUNDS = 3;
  private static final double USUAL_DELAY_SECONDS = 0.045;
  private static final int USUAL_TAPS = 10;

  /** Cells of a spectrogram that are worked on together. */
  private static final long MOST_CELLS = 8_000_000;

  private final double delaySeconds;
  private final int taps;

  /** With the usual reach. */
  public DelayedPrediction() {
    this(USUAL_DELAY_SECONDS, USUAL_TAPS);
  }

  /**
   * With a reach of one's own.
   *
   * @param delaySeconds what is younger is left alone
   * @param taps number of frames that foretell
   */
  public DelayedPrediction(double delaySeconds, int taps) {
    this.delaySeconds = delaySeconds;
    this.taps = taps;
  }

  @Override
  public String id() {
    return "delayed-prediction";
  }

  @Override
  public String title() {
    return "Delayed prediction";
  }

  @Override
  public String description() {
    return "Stand-in: takes off what the sound of a moment ago foretells (Nakatani 2010). Dries the"
        + " voice itself a little, and adds next to nothing.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.DEREVERB);
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    StandIn.checkLength(in);
    if (setup.amount() == 0) {
      return Map.of(WHOLE, in);
    }
    float[][] out = new float[in.channels()][];
    for (int c = 0; c < out.length; c++) {
      out[c] = channel(in, c, setup.amount() / 100, progress);
    }
    return Map.of(WHOLE, Audio.of(in.sampleRate(), out));
  }

  /** Some bins at a time, so that long recordings fit: what is foretold adds up. */
  private float[] channel(Audio in, int c, double share, Progress progress) {
    int length = ShortTime.usualLength(in.sampleRate());
    ShortTime framing = new ShortTime(length);
    int count = framing.frames(in);
    int together = (int) Math.max(1, Math.min(length / 2, MOST_CELLS / count));
    int delay = (int) Math.ceil(delaySeconds * in.sampleRate() / (length / 4.0));
    float[] foretold = new float[Math.toIntExact(in.frames())];
    float[] frame = new float[length];
    for (int first = 1; first < length / 2; first += together) {
      progress.at(title(), (c + 2.0 * first / length) / in.channels());
      int end = Math.min(length / 2, first + together);
      double[][] re = new double[end - first][count];
      double[][] im = new double[end - first][count];
      for (int t = 0; t < count; t++) {
        framing.analyse(in, c, t, frame);
        for (int k = first; k < end; k++) {
          re[k - first][t] = frame[2 * k];
          im[k - first][t] = frame[2 * k + 1];
        }
      }
      for (int k = first; k < end; k++) {
        foretell(re[k - first], im[k - first], delay);
      }
      for (int t = 0; t < count; t++) {
        java.util.Arrays.fill(frame, 0);
        for (int k = first; k < end; k++) {
          frame[2 * k] = (float) re[k - first][t];
          frame[2 * k + 1] = (float) im[k - first][t];
        }
        framing.add(frame, t, foretold);
      }
    }
    float[] out = in.wholeChannel(c);
    for (int i = 0; i < out.length; i++) {
      out[i] -= (float) (share * foretold[i]);
    }
    return out;
  }

  /** Puts what the past foretells of a bin in the place of the bin. */
  private void foretell(double[] re, double[] im, int delay) {
    int count = re.length;
    double most = 0;
    for (int t = 0; t < count; t++) {
      most = Math.max(most, re[t] * re[t] + im[t] * im[t]);
    }
    double[] pastRe = new double[count];
    double[] pastIm = new double[count];
    for (int round = 0; round < ROUNDS; round++) {
      double[] dryRe = new double[count];
      double[] dryIm = new double[count];
      for (int t = 0; t < count; t++) {
        dryRe[t] = re[t] - pastRe[t];
        dryIm[t] = im[t] - pastIm[t];
      }
      double[] filter = filter(re, im, dryRe, dryIm, delay, 1e-6 * most + 1e-20);
      for (int t = 0; t < count; t++) {
        pastRe[t] = 0;
        pastIm[t] = 0;
        for (int j = 0; j < taps && t - delay - j >= 0; j++) {
          double x = re[t - delay - j];
          double y = im[t - delay - j];
          pastRe[t] += filter[j] * x - filter[taps + j] * y;
          pastIm[t] += filter[j] * y + filter[taps + j] * x;
        }
      }
    }
    System.arraycopy(pastRe, 0, re, 0, count);
    System.arraycopy(pastIm, 0, im, 0, count);
  }

  /**
   * Least squares weighted by the dry sound's variance.
   *
   * @param least variance that none is under
   * @return real parts of the taps, then imaginary ones
   */
  private double[] filter(
      double[] re, double[] im, double[] dryRe, double[] dryIm, int delay, double least) {
    double[][] real = new double[taps][taps];
    double[][] imaginary = new double[taps][taps];
    DMatrixRMaj right = new DMatrixRMaj(2 * taps, 1);
    for (int t = delay + taps; t < re.length; t++) {
      double weight = 1 / Math.max(least, dryRe[t] * dryRe[t] + dryIm[t] * dryIm[t]);
      for (int i = 0; i < taps; i++) {
        double x = weight * re[t - delay - i];
        double y = weight * im[t - delay - i];
        right.add(i, 0, x * re[t] + y * im[t]);
        right.add(taps + i, 0, x * im[t] - y * re[t]);
        for (int j = 0; j <= i; j++) {
          double u = re[t - delay - j];
          double v = im[t - delay - j];
          real[i][j] += x * u + y * v;
          imaginary[i][j] += x * v - y * u;
        }
      }
    }
    double ridge = 1e-10;
    for (int i = 0; i < taps; i++) {
      ridge = Math.max(ridge, 1e-8 * real[i][i]);
    }
    DMatrixRMaj normal = new DMatrixRMaj(2 * taps, 2 * taps);
    for (int i = 0; i < taps; i++) {
      for (int j = 0; j < taps; j++) {
        // Hermitian: the lower triangle tells the upper one.
        double a = i >= j ? real[i][j] : real[j][i];
        double b = i >= j ? imaginary[i][j] : -imaginary[j][i];
        normal.set(i, j, i == j ? a + ridge : a);
        normal.set(taps + i, taps + j, i == j ? a + ridge : a);
        normal.set(taps + i, j, b);
        normal.set(i, taps + j, -b);
      }
    }
    DMatrixRMaj filter = new DMatrixRMaj(2 * taps, 1);
    if (!CommonOps_DDRM.solve(normal, right, filter)) {
      filter.zero();
    }
    return filter.data;
  }
}
