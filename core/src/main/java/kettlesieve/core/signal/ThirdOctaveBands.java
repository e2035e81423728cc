package kettlesieve.core.signal;

/**
 * One-third-octave bands, base ten, IEC 61260-1: exact mid-band frequencies 1000·10^(n/10) Hz,
 * edges a factor 10^(1/20) below and above. From 50 Hz up to the last band whose lower edge is
 * under the Nyquist limit and whose middle is, too.
 */
public final class ThirdOctaveBands {
  private static final int FIRST = -13;
  private static final double HALF = Math.pow(10, 0.05);

  private final int count;
  private final int[] bandOfBin;
  private final int[] firstBins;

  /** The bands of a framing, with each of its bins given to the band it lies in. */
  public ThirdOctaveBands(Framing framing) {
    double nyquist = framing.sampleRate() / 2.0;
    int n = 0;
    while (middleHz(n) < nyquist && middleHz(n) < 21_000) {
      n++;
    }
    this.count = n;
    this.bandOfBin = new int[framing.bins()];
    for (int k = 0; k < bandOfBin.length; k++) {
      bandOfBin[k] = bandAt(k * framing.binHz());
    }
    this.firstBins = new int[count + 1];
    int bin = 0;
    for (int b = 0; b <= count; b++) {
      while (bin < bandOfBin.length
          && (bandOfBin[bin] < 0 ? bin * framing.binHz() < lowHz(b) : bandOfBin[bin] < b)) {
        bin++;
      }
      firstBins[b] = bin;
    }
  }

  /** Number of bands. */
  public int count() {
    return count;
  }

  /** The band of a bin, or −1 if the bin lies outside all bands. */
  public int ofBin(int bin) {
    return bandOfBin[bin];
  }

  /**
   * Whether a band holds any bin: at low frequencies the bins stand further apart than the bands.
   */
  public boolean hasBins(int band) {
    return firstBin(band) < endBin(band);
  }

  /** First bin of a band; its end where the band holds none. */
  public int firstBin(int band) {
    return firstBins[band];
  }

  /** The bin after the last one of a band. */
  public int endBin(int band) {
    return firstBins[band + 1];
  }

  /** The band that holds a frequency, or −1. */
  public int bandAt(double hz) {
    if (hz <= 0) {
      return -1;
    }
    int band = (int) Math.round(10 * Math.log10(hz / 1000)) - FIRST;
    return band >= 0 && band < count ? band : -1;
  }

  /** Exact mid-band frequency, Hz. */
  public static double middleHz(int band) {
    return 1000 * Math.pow(10, (band + FIRST) / 10.0);
  }

  /** Lower edge, Hz. */
  public static double lowHz(int band) {
    return middleHz(band) / HALF;
  }

  /** Upper edge, Hz. */
  public static double highHz(int band) {
    return middleHz(band) * HALF;
  }
}
