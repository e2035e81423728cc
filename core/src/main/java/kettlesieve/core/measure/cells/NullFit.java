package kettlesieve.core.measure.cells;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.LinearTimeAudio;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.SingularValueDecomposition;

/**
 * How well the stems of a tool add up to the mix once each has the delay and the gain that suit it
 * best: what is gone then was a mere matter of level or delay, what is left is loss.
 */
public final class NullFit {
  /** Of a set. */
  public static final StemSet.OfSet<NullFit> OF = NullFit::new;

  private static final int LENGTH = 1 << 15;
  private static final double REACH_SECONDS = 0.1;
  private static final int READ = 1 << 13;
  private static final double NO_DELAY = 0.25;

  /** Part of the whitening: all of it would let quiet bins of noise speak as loud as the sound. */
  private static final double WHITENING = 0.7;

  /**
   * What suits a stem.
   *
   * @param role of the stem
   * @param lateSeconds how late the stem is, positive for later
   * @param gainDb what it lacks to add up
   */
  public record Suited(String role, double lateSeconds, double gainDb) {}

  private final List<Suited> suited = new ArrayList<>();
  private final double leftDb;

  private NullFit(StemSet set) {
    Audio mix = set.mix();
    List<String> roles = List.copyOf(set.stems().stems().keySet());
    List<Audio> moved = new ArrayList<>();
    double[] late = new double[roles.size()];
    for (int r = 0; r < late.length; r++) {
      set.stop().check();
      Audio stem = set.stem(roles.get(r));
      late[r] = delay(mix.downmix(), stem.downmix());
      moved.add(
          late[r] == 0
              ? stem
              : LinearTimeAudio.map(stem, stem.sampleRate(), stem.frames(), late[r], 1));
    }
    int n = roles.size();
    RealMatrix gram = MatrixUtils.createRealMatrix(n, n);
    double[] products = new double[n];
    double whole = 0;
    float[] x = new float[READ];
    float[][] s = new float[n][READ];
    double[][] sums = new double[n][n];
    for (int c = 0; c < mix.channels(); c++) {
      for (long at = 0; at < mix.frames(); at += READ) {
        int length = (int) Math.min(READ, mix.frames() - at);
        mix.read(c, at, x, 0, length);
        for (int r = 0; r < n; r++) {
          moved.get(r).read(c, at, s[r], 0, length);
        }
        for (int i = 0; i < length; i++) {
          whole += (double) x[i] * x[i];
          for (int r = 0; r < n; r++) {
            products[r] += (double) x[i] * s[r][i];
            for (int q = r; q < n; q++) {
              sums[r][q] += (double) s[r][i] * s[q][i];
            }
          }
        }
      }
    }
    for (int r = 0; r < n; r++) {
      for (int q = r; q < n; q++) {
        gram.setEntry(r, q, sums[r][q]);
        gram.setEntry(q, r, sums[r][q]);
      }
    }
    double[] gains =
        new SingularValueDecomposition(gram)
            .getSolver()
            .solve(new ArrayRealVector(products))
            .toArray();
    double explained = 0;
    for (int r = 0; r < n; r++) {
      for (int q = 0; q < n; q++) {
        explained += gains[r] * gains[q] * gram.getEntry(r, q);
      }
      explained -= 2 * gains[r] * products[r];
      double gainDb = sums[r][r] > 0 && gains[r] > 0 ? Db.ofAmplitude(gains[r]) : Double.NaN;
      suited.add(new Suited(roles.get(r), late[r] / mix.sampleRate(), gainDb));
    }
    double left = Math.max(1e-15 * whole, whole + explained);
    leftDb = whole > 0 ? Db.ofPower(left / whole) : Double.NaN;
  }

  /** How late a stem is against the mix that holds it, in samples; 0 where it stands right. */
  private static double delay(Audio mix, Audio stem) {
    float[] sum = new float[LENGTH];
    double[] cross = new double[LENGTH];
    for (long at = 0; at < mix.frames(); at += LENGTH / 2) {
      float[] a = java.util.Arrays.copyOf(mix.samples(0, at, LENGTH / 2), LENGTH);
      float[] b = java.util.Arrays.copyOf(stem.samples(0, at, LENGTH / 2), LENGTH);
      Fft.forward(a);
      Fft.forward(b);
      for (int k = 2; k < LENGTH; k += 2) {
        cross[k] += (double) b[k] * a[k] + (double) b[k + 1] * a[k + 1];
        cross[k + 1] += (double) b[k + 1] * a[k] - (double) b[k] * a[k + 1];
      }
    }
    for (int k = 2; k < LENGTH; k += 2) {
      double scale = Math.pow(Math.hypot(cross[k], cross[k + 1]) + 1e-20, -WHITENING);
      sum[k] = (float) (cross[k] * scale);
      sum[k + 1] = (float) (cross[k + 1] * scale);
    }
    Fft.inverse(sum);
    int reach = Math.min(LENGTH / 2 - 1, (int) (REACH_SECONDS * mix.sampleRate()));
    int best = 0;
    for (int lag = -reach; lag <= reach; lag++) {
      best = at(sum, lag) > at(sum, best) ? lag : best;
    }
    double before = at(sum, best - 1);
    double here = at(sum, best);
    double after = at(sum, best + 1);
    double bend = before - 2 * here + after;
    double late = best + (bend < 0 ? 0.5 * (before - after) / bend : 0);
    return Math.abs(late) < NO_DELAY ? 0 : late;
  }

  private static double at(float[] circular, int lag) {
    return circular[Math.floorMod(lag, circular.length)];
  }

  /** What is left of the mix, dB. */
  public double leftDb() {
    return leftDb;
  }

  /** What suits each stem, in the order of the stems. */
  public List<Suited> suited() {
    return suited;
  }
}
