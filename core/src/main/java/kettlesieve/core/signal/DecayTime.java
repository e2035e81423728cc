package kettlesieve.core.signal;

/** Decay times by backward integration (Schroeder 1965; ISO 3382-1). */
public final class DecayTime {
  private static final double EARLY_DB = -10;

  private DecayTime() {}

  /**
   * Early decay time: six times what the integrated decay takes to fall by 10 dB, from a straight
   * line laid through it.
   *
   * @param energy energies of equally long steps of a decay; it is followed from the largest on
   * @param stepSeconds length of a step
   * @return seconds; NaN if the decay does not fall by 10 dB
   */
  public static double early(double[] energy, double stepSeconds) {
    int start = 0;
    for (int i = 0; i < energy.length; i++) {
      start = energy[i] > energy[start] ? i : start;
    }
    double[] left = new double[energy.length + 1];
    for (int i = energy.length - 1; i >= start; i--) {
      left[i] = left[i + 1] + energy[i];
    }
    if (!(left[start] > 0)) {
      return Double.NaN;
    }
    double n = 0;
    double x = 0;
    double y = 0;
    double xx = 0;
    double xy = 0;
    boolean fell = false;
    for (int i = start; i < energy.length && left[i] > 0; i++) {
      double db = Db.ofPower(left[i] / left[start]);
      if (db < EARLY_DB) {
        fell = true;
        break;
      }
      double t = (i - start) * stepSeconds;
      n++;
      x += t;
      y += db;
      xx += t * t;
      xy += t * db;
    }
    double slope = (n * xy - x * y) / (n * xx - x * x);
    return fell && n >= 3 && slope < 0 ? -60 / slope : Double.NaN;
  }
}
