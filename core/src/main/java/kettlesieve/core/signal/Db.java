package kettlesieve.core.signal;

/** Decibels. Levels in dBFS are 20·log10 of the RMS: a full-scale sine reads −3.01 dBFS. */
public final class Db {
  private Db() {}

  /** 10·log10 of a power ratio; −∞ for 0. */
  public static double ofPower(double power) {
    return 10 * Math.log10(power);
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
