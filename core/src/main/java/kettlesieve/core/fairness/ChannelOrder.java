package kettlesieve.core.fairness;

import java.util.Locale;
import java.util.Optional;
import java.util.function.DoubleUnaryOperator;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/**
 * What became of left and right: one of them gone, both the same, exchanged, or out of balance.
 * Levels of the octaves from 125 Hz to 8 kHz at moments all over both recordings are compared, so
 * that it can be told of stretched and shifted versions as well.
 */
final class ChannelOrder {
  private static final int PLACES = 48;
  private static final double LOOK_SECONDS = 0.3;
  private static final double LOWEST_HZ = 90;
  private static final int OCTAVES = 7;

  /** A channel that lies so far under the other is gone. */
  private static final double GONE = 1e-3;

  /** Side over middle from which on it is no stereo any more, and until which it was. */
  private static final double MONO = 1e-5;

  private static final double STEREO = 1e-3;

  /** Balances have to differ by so much, dB, for their order to be told. */
  private static final double LEAST_DB = 0.5;

  private static final double EXCHANGED = 0.25;
  private static final double OUT_OF_BALANCE_DB = 1.5;
  private static final double AUDIBLE = 1e-5;

  private ChannelOrder() {}

  /** Powers of left, right, middle and side by place and octave. */
  private record Sides(double[][] left, double[][] right, double mid, double side) {
    static Sides of(Audio audio, double[] seconds) {
      int length = Fft.powerOfTwo((long) (LOOK_SECONDS * audio.sampleRate()));
      float[] window = Windows.hann(length);
      double[][][] powers = new double[2][seconds.length][OCTAVES];
      double mid = 0;
      double side = 0;
      for (int p = 0; p < seconds.length; p++) {
        long from = Math.round(seconds[p] * audio.sampleRate()) - length / 2;
        float[] left = audio.samples(0, from, length);
        float[] right = audio.samples(1, from, length);
        for (int i = 0; i < length; i++) {
          mid += Math.pow(left[i] + right[i], 2);
          side += Math.pow(left[i] - right[i], 2);
        }
        octaves(left, window, audio.sampleRate(), powers[0][p]);
        octaves(right, window, audio.sampleRate(), powers[1][p]);
      }
      return new Sides(powers[0], powers[1], mid, side);
    }

    private static void octaves(float[] x, float[] window, int rate, double[] to) {
      for (int i = 0; i < x.length; i++) {
        x[i] *= window[i];
      }
      Fft.forward(x);
      for (int k = 1; k < x.length / 2; k++) {
        double octave = Math.log((double) k * rate / x.length / LOWEST_HZ) / Math.log(2);
        if (octave >= 0 && octave < OCTAVES) {
          to[(int) octave] += (double) x[2 * k] * x[2 * k] + (double) x[2 * k + 1] * x[2 * k + 1];
        }
      }
    }

    static double sum(double[][] powers) {
      double sum = 0;
      for (double[] place : powers) {
        for (double p : place) {
          sum += p;
        }
      }
      return sum;
    }
  }

  /**
   * In words; empty where left and right are as they were, or where there are not two.
   *
   * @param there where a moment of the source lies in the version, seconds
   */
  static Optional<String> of(Audio source, Audio version, DoubleUnaryOperator there) {
    if (source.channels() != 2 || version.channels() != 2) {
      return Optional.empty();
    }
    double[] own = new double[PLACES];
    double[] other = new double[PLACES];
    for (int p = 0; p < PLACES; p++) {
      own[p] = source.seconds() * (p + 0.5) / PLACES;
      other[p] = there.applyAsDouble(own[p]);
    }
    Sides before = Sides.of(source, own);
    Sides after = Sides.of(version, other);
    Optional<String> gone = gone(before, after);
    if (gone.isPresent()) {
      return gone;
    }
    if (before.side() > STEREO * before.mid() && after.side() < MONO * after.mid()) {
      return Optional.of("left and right are the same: it is in mono");
    }
    return moved(before, after);
  }

  private static Optional<String> gone(Sides before, Sides after) {
    double[] was = {Sides.sum(before.left()), Sides.sum(before.right())};
    double[] is = {Sides.sum(after.left()), Sides.sum(after.right())};
    for (int c = 0; c < 2; c++) {
      if (is[c] < GONE * is[1 - c] && was[c] > GONE * was[1 - c]) {
        return Optional.of((c == 0 ? "left" : "right") + " is silent, or next to it");
      }
    }
    return Optional.empty();
  }

  private static Optional<String> moved(Sides before, Sides after) {
    double all = Sides.sum(before.left()) + Sides.sum(before.right());
    double weights = 0;
    double kept = 0;
    double turned = 0;
    double own = 0;
    double shift = 0;
    for (int p = 0; p < PLACES; p++) {
      for (int o = 0; o < OCTAVES; o++) {
        double power = before.left()[p][o] + before.right()[p][o];
        double there = after.left()[p][o] + after.right()[p][o];
        if (power < AUDIBLE * all || there <= 0) {
          continue;
        }
        double was = db(before.left()[p][o], before.right()[p][o]);
        double is = db(after.left()[p][o], after.right()[p][o]);
        double weight = Math.sqrt(power);
        weights += weight;
        kept += weight * (is - was) * (is - was);
        turned += weight * (is + was) * (is + was);
        own += weight * was * was;
        shift += weight * (is - was);
      }
    }
    if (weights == 0) {
      return Optional.empty();
    }
    if (Math.sqrt(own / weights) > LEAST_DB && turned < EXCHANGED * kept) {
      return Optional.of("left and right are exchanged");
    }
    double balance = shift / weights;
    return Math.abs(balance) < OUT_OF_BALANCE_DB
        ? Optional.empty()
        : Optional.of(
            String.format(
                Locale.ROOT,
                "%s is louder against %s by %.1f dB",
                balance > 0 ? "left" : "right",
                balance > 0 ? "right" : "left",
                Math.abs(balance)));
  }

  private static double db(double left, double right) {
    return Math.max(-20, Math.min(20, 10 * Math.log10((left + 1e-20) / (right + 1e-20))));
  }
}
