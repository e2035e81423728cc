package kettlesieve.core.measure;

/**
 * A value per band.
 *
 * @param hz mid-band frequencies, rising
 * @param version the value for this version; NaN where there is none
 * @param source the value for the source; NaN where there is none, empty if it has no meaning
 */
public record BandSpectrum(double[] hz, double[] version, double[] source) {
  /** No spectrum. */
  public static final BandSpectrum NONE =
      new BandSpectrum(new double[0], new double[0], new double[0]);
}
