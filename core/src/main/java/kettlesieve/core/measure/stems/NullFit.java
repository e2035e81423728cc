package kettlesieve.core.measure.stems;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.DotProduct;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.task.Stop;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.factory.LinearSolverFactory_DDRM;
import org.ejml.interfaces.linsol.LinearSolverDense;

/**
 * How well the stems of a tool add up to the mix once each has the delay and the gain that suit it
 * best: what is gone then was a mere matter of level or delay, what is left is loss.
 */
public final class NullFit {
  /** Of a set. */
  public static final StemSet.OfSet<NullFit> OF = NullFit::new;

  private static final int LENGTH = 1 << 15;

  /** Half a second each: more of them would tell nothing new of one delay. */
  private static final int STRETCHES = 64;

  private static final double REACH_SECONDS = 0.1;
  private static final int READ = 1 << 13;
  private static final double NO_DELAY = 0.25;

  /** Stems that leave a millionth of the mix, 60 dB down, stand where they should. */
  private static final double ADDS_UP = 1e-6;

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
    List<Audio> stems = roles.stream().map(set::stem).toList();
    double[] late = new double[stems.size()];
    Gains gains = new Gains(mix, stems);
    if (gains.left > ADDS_UP * gains.whole) {
      late = delays(mix.downmix(), stems.stream().map(Audio::downmix).toList(), set.stop());
      if (Arrays.stream(late).anyMatch(l -> l != 0)) {
        gains = new Gains(mix, moved(stems, late));
      }
    }
    for (int r = 0; r < late.length; r++) {
      suited.add(new Suited(roles.get(r), late[r] / mix.sampleRate(), gains.db[r]));
    }
    leftDb = gains.whole > 0 ? Db.ofPower(gains.left / gains.whole) : Double.NaN;
  }

  private static List<Audio> moved(List<Audio> stems, double[] late) {
    List<Audio> moved = new ArrayList<>();
    for (int r = 0; r < late.length; r++) {
      Audio stem = stems.get(r);
      moved.add(
          late[r] == 0
              ? stem
              : LinearTimeAudio.map(stem, stem.sampleRate(), stem.frames(), late[r], 1));
    }
    return moved;
  }

  /** One gain for each stem, all together the nearest to the mix. */
  private static final class Gains {
    private final double[] db;

    /** Energy of the mix, and of what the gained stems leave of it. */
    private final double whole;

    private final double left;

    Gains(Audio mix, List<Audio> stems) {
      int n = stems.size();
      DMatrixRMaj gram = new DMatrixRMaj(n, n);
      DMatrixRMaj products = new DMatrixRMaj(n, 1);
      double energy = 0;
      float[] read = new float[READ];
      double[] x = new double[READ];
      double[][] s = new double[n][READ];
      for (int c = 0; c < mix.channels(); c++) {
        for (long at = 0; at < mix.frames(); at += READ) {
          int length = (int) Math.min(READ, mix.frames() - at);
          mix.read(c, at, read, 0, length);
          widen(read, x, length);
          energy += DotProduct.of(x, x, length);
          for (int r = 0; r < n; r++) {
            stems.get(r).read(c, at, read, 0, length);
            widen(read, s[r], length);
            products.add(r, 0, DotProduct.of(x, s[r], length));
            for (int q = 0; q <= r; q++) {
              gram.add(q, r, DotProduct.of(s[q], s[r], length));
            }
          }
        }
      }
      for (int r = 0; r < n; r++) {
        for (int q = 0; q < r; q++) {
          gram.set(r, q, gram.get(q, r));
        }
      }
      DMatrixRMaj gains = new DMatrixRMaj(n, 1);
      // Stems that are copies of each other, or silent, leave more than one answer.
      LinearSolverDense<DMatrixRMaj> solver = LinearSolverFactory_DDRM.pseudoInverse(true);
      if (energy > 0 && solver.setA(gram.copy())) {
        solver.solve(products.copy(), gains);
      }
      double explained = 0;
      db = new double[n];
      for (int r = 0; r < n; r++) {
        double gain = gains.get(r, 0);
        for (int q = 0; q < n; q++) {
          explained += gain * gains.get(q, 0) * gram.get(r, q);
        }
        explained -= 2 * gain * products.get(r, 0);
        db[r] = gram.get(r, r) > 0 && gain > 0 ? Db.ofAmplitude(gain) : Double.NaN;
      }
      whole = energy;
      left = Math.max(1e-15 * whole, whole + explained);
    }
  }

  private static void widen(float[] from, double[] to, int length) {
    for (int i = 0; i < length; i++) {
      to[i] = from[i];
    }
  }

  /** How late stems are against the mix that holds them, in samples; 0 where they stand right. */
  private static double[] delays(Audio mix, List<Audio> stems, Stop stop) {
    int reach = (int) (REACH_SECONDS * mix.sampleRate());
    int length = Math.max(LENGTH, Fft.powerOfTwo(4L * reach));
    // A stretch of a stem stands before one of the mix that reaches further on both sides.
    int step = length - 2 * reach;
    List<BitSet> loudest = stems.stream().map(s -> loudest(s, step, stop)).toList();
    float[][] cross = new float[stems.size()][length];
    float[] a = new float[length];
    float[] b = new float[length];
    for (int stretch = 0; (long) stretch * step < mix.frames(); stretch++) {
      stop.check();
      int here = stretch;
      if (loudest.stream().noneMatch(l -> l.get(here))) {
        continue;
      }
      long at = (long) stretch * step;
      mix.read(0, at - reach, a, 0, length);
      Fft.forward(a);
      for (int r = 0; r < cross.length; r++) {
        if (!loudest.get(r).get(stretch)) {
          continue;
        }
        Arrays.fill(b, 0);
        stems.get(r).read(0, at, b, reach, step);
        Fft.forward(b);
        float[] sum = cross[r];
        for (int k = 2; k < length; k += 2) {
          sum[k] += b[k] * a[k] + b[k + 1] * a[k + 1];
          sum[k + 1] += b[k + 1] * a[k] - b[k] * a[k + 1];
        }
      }
    }
    double[] late = new double[cross.length];
    for (int r = 0; r < late.length; r++) {
      late[r] = delay(cross[r], reach);
    }
    return late;
  }

  /** The stretches in which a stem says most about where it stands. */
  private static BitSet loudest(Audio stem, int step, Stop stop) {
    int count = Math.toIntExact((stem.frames() + step - 1) / step);
    BitSet chosen = new BitSet(count);
    if (count <= STRETCHES) {
      chosen.set(0, count);
      return chosen;
    }
    double[] energies = new double[count];
    float[] x = new float[step];
    for (int i = 0; i < count; i++) {
      stop.check();
      stem.read(0, (long) i * step, x, 0, step);
      for (float sample : x) {
        energies[i] += sample * sample;
      }
    }
    IntStream.range(0, count)
        .boxed()
        .sorted(Comparator.comparingDouble(i -> -energies[i]))
        .limit(STRETCHES)
        .forEach(chosen::set);
    return chosen;
  }

  private static double delay(float[] cross, int reach) {
    float[] sum = new float[cross.length];
    for (int k = 2; k < sum.length; k += 2) {
      double scale = Math.pow(Math.hypot(cross[k], cross[k + 1]) + 1e-20, -WHITENING);
      sum[k] = (float) (cross[k] * scale);
      sum[k + 1] = (float) (cross[k + 1] * scale);
    }
    Fft.inverse(sum);
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
