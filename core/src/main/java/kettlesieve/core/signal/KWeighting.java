package kettlesieve.core.signal;

/**
 * The two filters of ITU-R BS.1770-5, annex 1: a shelf for the head and a high-pass. The standard
 * prints their coefficients for 48 kHz; for other rates the same analogue filters are transformed
 * bilinearly (at 48 kHz this gives the printed numbers).
 */
public final class KWeighting {
  private KWeighting() {}

  /** The shelving filter (stage 1) at a rate in Hz. */
  public static Biquad shelf(int sampleRate) {
    double frequency = 1681.974450955533;
    double gainDb = 3.999843853973347;
    double q = 0.7071752369554196;
    double k = Math.tan(Math.PI * frequency / sampleRate);
    double vh = Db.toAmplitude(gainDb);
    double vb = Math.pow(vh, 0.4996667741545416);
    double a0 = 1 + k / q + k * k;
    return new Biquad(
        (vh + vb * k / q + k * k) / a0,
        2 * (k * k - vh) / a0,
        (vh - vb * k / q + k * k) / a0,
        2 * (k * k - 1) / a0,
        (1 - k / q + k * k) / a0);
  }

  /** The high-pass filter (stage 2) at a rate in Hz. */
  public static Biquad highPass(int sampleRate) {
    double frequency = 38.13547087602444;
    double q = 0.5003270373238773;
    double k = Math.tan(Math.PI * frequency / sampleRate);
    double a0 = 1 + k / q + k * k;
    return new Biquad(1, -2, 1, 2 * (k * k - 1) / a0, (1 - k / q + k * k) / a0);
  }
}
