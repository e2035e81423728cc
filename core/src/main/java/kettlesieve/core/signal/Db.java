package kettlesieve.core.signal;

/** Decibels. Levels in dBFS are 20·log10 of the RMS: a full-scale sine reads −3.01 dBFS. */
public final class Db {
  private Db() {}

  /** 10·log10 of a power ratio; −∞ for 0. */
  public static double ofPower(double power) {
    return 10 * Math.log10(power);
  }

  /**
   * 10·log10 of a power ratio within 10⁻⁵ dB, several times as fast: for the gains of single cells,
   * of which there are millions.
   *
   * @param power from 10⁻³⁷ to 10³⁷
   */
  public static double nearlyOfPower(float power) {
    int bits = Float.floatToRawIntBits(power);
    int exponent = (bits >> 23) - 127;
    int mantissa = bits & 0x7fffff;
    float[] table = Mantissas.DB;
    int at = mantissa >> Mantissas.SHIFT;
    float within = (mantissa & (1 << Mantissas.SHIFT) - 1) * Mantissas.STEP;
    float low = table[at];
    return exponent * Mantissas.OCTAVE_DB + low + within * (table[at + 1] - low);
  }

  /** Decibels of the numbers from 1 to 2. */
  private static final class Mantissas {
    static final int SHIFT = 13;
    static final float STEP = 1f / (1 << SHIFT);
    static final double OCTAVE_DB = 10 * Math.log10(2);
    static final float[] DB = new float[(1 << 23 - SHIFT) + 1];

    static {
      for (int i = 0; i < DB.length; i++) {
        DB[i] = (float) (10 * Math.log10(1 + (double) i / (DB.length - 1)));
      }
    }
  }

  /** 20·log10 of an amplitude ratio; −∞ for 0. */
  public static double ofAmplitude(double amplitude) {
    return 20 * Math.log10(amplitude);
  }

  /** The power ratio of a value in dB. */
  public static double toPower(double db) {
    return Math.pow(10, db / 10);
  }

  /** The amplitude ratio of a value in dB. */
  public static double toAmplitude(double db) {
    return Math.pow(10, db / 20);
  }
}
