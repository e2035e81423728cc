package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The line on which most lags of short pieces of a recording lie. Each piece votes with the few
 * strongest peaks of its correlation, so that a pause, a repeated word or a period of a tone, whose
 * own strongest peak lies anywhere, does not decide: every line through two peaks of different
 * pieces is tried, and the one on which the most weight lies wins (the idea of random sample
 * consensus, Fischler &amp; Bolles 1981, with all pairs instead of random ones). Medians of slopes,
 * which stood here before, gave way where half of the pieces were pauses.
 */
final class DriftLine {
  private static final int PEAKS_A_PIECE = 3;
  private static final int FEWEST_PIECES = 4;
  private static final double STEEPEST = 1.05e-3;
  private static final double SAMPLES_BESIDE = 2.5;
  private static final double LEAST_SHARE = 0.4;

  private DriftLine() {}

  /**
   * A lag that stands out in a piece.
   *
   * @param piece number of the piece
   * @param at its middle, samples
   * @param lag samples
   * @param height of the correlation, with its sign
   */
  record Peak(int piece, double at, double lag, double height) {}

  /** Adds a piece's strongest peaks; lag 0 of {@code r} stands for {@code first}. */
  static void addStrongest(
      List<Peak> peaks, int piece, double at, long first, float[] r, int lags) {
    List<Integer> found = new ArrayList<>();
    for (int i = 1; i + 1 < lags; i++) {
      double here = Math.abs(r[i]);
      if (here >= Math.abs(r[i - 1]) && here > Math.abs(r[i + 1])) {
        int place = found.size();
        while (place > 0 && Math.abs(r[found.get(place - 1)]) < here) {
          place--;
        }
        if (place < PEAKS_A_PIECE) {
          found.add(place, i);
          if (found.size() > PEAKS_A_PIECE) {
            found.remove(PEAKS_A_PIECE);
          }
        }
      }
    }
    for (int i : found) {
      peaks.add(new Peak(piece, at, first + i, r[i]));
    }
  }

  /** Delay at sample 0, drift and polarity of the line; empty if most pieces lie on none. */
  static Optional<Alignment> through(List<Peak> peaks) {
    double best = 0;
    Peak one = null;
    Peak other = null;
    for (int i = 0; i < peaks.size(); i++) {
      for (int j = i + 1; j < peaks.size(); j++) {
        Peak a = peaks.get(i);
        Peak b = peaks.get(j);
        if (a.piece() != b.piece()
            && Math.abs(b.lag() - a.lag()) <= STEEPEST * Math.abs(b.at() - a.at())) {
          double weight = 0;
          for (Peak p : on(a, b, peaks)) {
            weight += Math.abs(p.height());
          }
          if (weight > best) {
            best = weight;
            one = a;
            other = b;
          }
        }
      }
    }
    if (one == null) {
      return Optional.empty();
    }
    List<Peak> on = on(one, other, peaks);
    double all = 0;
    for (int i = 0; i < peaks.size(); i++) {
      // The strongest of a piece stands first.
      if (i == 0 || peaks.get(i).piece() != peaks.get(i - 1).piece()) {
        all += Math.abs(peaks.get(i).height());
      }
    }
    if (on.size() < FEWEST_PIECES || best < LEAST_SHARE * all) {
      return Optional.empty();
    }
    double sign = 0;
    List<double[]> points = new ArrayList<>();
    for (Peak p : on) {
      sign += p.height();
      points.add(new double[] {p.at(), p.lag(), Math.abs(p.height())});
    }
    double[] line = RobustLine.through(points);
    return Optional.of(new Alignment(line[0], line[1] * 1e6, sign < 0 ? -1 : 1, 0));
  }

  /** At most one peak a piece. */
  private static List<Peak> on(Peak a, Peak b, List<Peak> peaks) {
    double slope = (b.lag() - a.lag()) / (b.at() - a.at());
    List<Peak> on = new ArrayList<>();
    for (Peak p : peaks) {
      boolean near = Math.abs(a.lag() + slope * (p.at() - a.at()) - p.lag()) <= SAMPLES_BESIDE;
      if (near && (on.isEmpty() || on.get(on.size() - 1).piece() != p.piece())) {
        on.add(p);
      }
    }
    return on;
  }
}
