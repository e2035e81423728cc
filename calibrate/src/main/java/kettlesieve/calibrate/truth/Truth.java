package kettlesieve.calibrate.truth;

/**
 * What is true of a version, told from the clean recording and the noise that was added to it.
 *
 * @param siSdr scale-invariant signal-to-distortion ratio, dB (Le Roux et al. 2019)
 * @param stoi short-time objective intelligibility (Taal et al. 2011)
 * @param fwSegSnr frequency-weighted segmental signal-to-noise ratio, dB (Hu &amp; Loizou 2008)
 * @param sar signal to artifacts, dB (Vincent et al. 2006)
 * @param sir signal to interference, dB, the same
 * @param noiseLeft noise that is left over that of the source, dB
 * @param wantedDistortion speech over what became of it other than a common gain,
 *     frequency-weighted and segmental, dB
 * @param artifacts what is neither speech nor noise, over the speech, dB
 */
public record Truth(
    double siSdr,
    double stoi,
    double fwSegSnr,
    double sar,
    double sir,
    double noiseLeft,
    double wantedDistortion,
    double artifacts) {
  private static final double SI_SDR_APART = 2;
  private static final double STOI_APART = 0.02;
  private static final double FW_SEG_SNR_APART = 1;

  /**
   * 1 if at least two of the three overall measures say that this is clearly better than another,
   * −1 if worse, 0 if it is not clear.
   */
  public int against(Truth other) {
    int votes =
        vote(siSdr - other.siSdr, SI_SDR_APART)
            + vote(stoi - other.stoi, STOI_APART)
            + vote(fwSegSnr - other.fwSegSnr, FW_SEG_SNR_APART);
    return votes >= 2 ? 1 : votes <= -2 ? -1 : 0;
  }

  private static int vote(double difference, double apart) {
    return difference >= apart ? 1 : difference <= -apart ? -1 : 0;
  }
}
