package kettlesieve.core.match;

import kettlesieve.core.task.Stop;

/** Rows of mel levels, one a frame: cut, stretched and found again in others. */
final class MelRows {
  private MelRows() {}

  static float[][] stretched(float[][] s, double ratio) {
    int count = (int) Math.max(1, Math.floor((s.length - 1) * ratio));
    float[][] out = new float[count][LogMel.BANDS];
    for (int i = 0; i < count; i++) {
      interpolate(s, i / ratio, out[i]);
    }
    return out;
  }

  private static void interpolate(float[][] rows, double at, float[] into) {
    int i = (int) Math.floor(at);
    float share = (float) (at - i);
    float[] a = rows[Math.max(0, Math.min(rows.length - 1, i))];
    float[] b = rows[Math.max(0, Math.min(rows.length - 1, i + 1))];
    for (int k = 0; k < into.length; k++) {
      into[k] = a[k] + share * (b[k] - a[k]);
    }
  }

  static float[][] piece(float[][] rows, double from, double count, double step) {
    float[][] out = new float[(int) Math.max(2, Math.round(count))][LogMel.BANDS];
    for (int i = 0; i < out.length; i++) {
      interpolate(rows, from + i * step, out[i]);
    }
    return out;
  }

  /**
   * Where a piece was found.
   *
   * @param place row of its first frame, in fractions
   * @param score normalised correlation there
   * @param margin how far it stands over the best that lies some rows away
   */
  record Peak(double place, double score, double margin) {}

  /**
   * Best place of a piece in rows around an expected one; null at the edge of the search.
   *
   * @param away rows from which on another place counts for the margin
   */
  static Peak search(float[][] piece, float[][] rows, double around, double reach, double away) {
    int span = (int) Math.round(reach);
    int start = (int) Math.round(around);
    double[] scores = new double[2 * span + 1];
    double own = energy(piece, 0, piece.length);
    if (own < 1e-6) {
      return null;
    }
    int first = Math.max(0, start - span);
    double[] others =
        new double[Math.max(0, Math.min(rows.length, start + span + piece.length) - first)];
    for (int i = 0; i < others.length; i++) {
      others[i] = product(rows[first + i], rows[first + i]);
    }
    int best = -1;
    for (int lag = -span; lag <= span; lag++) {
      Stop.checkHere();
      int at = start + lag;
      if (at < 0 || at + piece.length > rows.length) {
        scores[lag + span] = -1;
        continue;
      }
      double product = 0;
      double other = 0;
      for (int i = 0; i < piece.length; i++) {
        product += product(piece[i], rows[at + i]);
        other += others[at + i - first];
      }
      scores[lag + span] = product / Math.sqrt(own * other + 1e-12);
      if (best < 0 || scores[lag + span] > scores[best]) {
        best = lag + span;
      }
    }
    if (best <= 0 || best >= scores.length - 1) {
      return null;
    }
    double left = scores[best - 1];
    double right = scores[best + 1];
    double bend = left - 2 * scores[best] + right;
    double fine = left <= -1 || right <= -1 || bend >= 0 ? 0 : 0.5 * (left - right) / bend;
    double second = -1;
    for (int i = 0; i < scores.length; i++) {
      second = Math.abs(i - best) >= away ? Math.max(second, scores[i]) : second;
    }
    return new Peak(start + best - span + fine, scores[best], scores[best] - second);
  }

  /** Four sums side by side, so that none has to wait for the one before. */
  private static float product(float[] a, float[] b) {
    float first = 0;
    float second = 0;
    float third = 0;
    float fourth = 0;
    for (int k = 0; k < LogMel.BANDS; k += 4) {
      first += a[k] * b[k];
      second += a[k + 1] * b[k + 1];
      third += a[k + 2] * b[k + 2];
      fourth += a[k + 3] * b[k + 3];
    }
    return (first + second) + (third + fourth);
  }

  /** Normalised correlation of rows with those some rows on, the less the better they are told. */
  static double likeness(float[][] rows, double from, int count, int on) {
    int start = (int) Math.round(from);
    double product = 0;
    double own = 0;
    double other = 0;
    for (int i = start; i < start + count; i++) {
      float[] a = rows[Math.max(0, Math.min(rows.length - 1, i))];
      float[] b = rows[Math.max(0, Math.min(rows.length - 1, i + on))];
      product += product(a, b);
      own += product(a, a);
      other += product(b, b);
    }
    return product / Math.sqrt(own * other + 1e-12);
  }

  static double energy(float[][] rows, int from, int to) {
    double sum = 0;
    for (int i = Math.max(0, from); i < Math.min(rows.length, to); i++) {
      for (float x : rows[i]) {
        sum += x * x;
      }
    }
    return sum;
  }
}
