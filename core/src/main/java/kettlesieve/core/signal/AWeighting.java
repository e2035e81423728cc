package kettlesieve.core.signal;

/** Frequency weighting A, IEC 61672-1, annex E (analytical form). */
public final class AWeighting {
  private static final double F1 = 20.598997;
  private static final double F2 = 107.65265;
  private static final double F3 = 737.86223;
  private static final double F4 = 12194.217;
  private static final double AT_1_KHZ = magnitude(1000);

  private AWeighting() {}

  /** Weight at a frequency in dB, 0 at 1 kHz; −∞ at 0 Hz. */
  public static double db(double hz) {
    return Db.ofAmplitude(magnitude(hz) / AT_1_KHZ);
  }

  /** Weight at a frequency as a power factor. */
  public static double power(double hz) {
    double ratio = magnitude(hz) / AT_1_KHZ;
    return ratio * ratio;
  }

  private static double magnitude(double hz) {
    double f = hz * hz;
    return F4
        * F4
        * f
        * f
        / ((f + F1 * F1) * Math.sqrt((f + F2 * F2) * (f + F3 * F3)) * (f + F4 * F4));
  }
}
