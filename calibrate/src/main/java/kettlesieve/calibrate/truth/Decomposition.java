package kettlesieve.calibrate.truth;

/**
 * A version V taken apart by the known speech C and the known noise N: V = a·C + b·N + rest, with
 * complex factors a and b by least squares in tiles of a third-octave by about a sixth of a second.
 * That is the split of the separation evaluation (Vincent et al. 2006) with gains that may change
 * over time and frequency, as a denoiser's do.
 *
 * @param noiseLeft Σ|bN|² over Σ|N|², dB
 * @param wantedDistortion mean over tiles that hold speech of 10·log10(|C|²/|(1−a)C|²), held
 *     between −10 and 35 dB, weighted by the tile's |C|^0.4
 * @param artifacts Σ|rest|² over Σ|C|², dB
 */
record Decomposition(double noiseLeft, double wantedDistortion, double artifacts) {
  private static final int FRAMES = 8;
  private static final double THIRD = Math.pow(10, 0.1);
  private static final double LEAST_DB = -10;
  private static final double MOST_DB = 35;
  private static final double SILENT = 1e-5;

  static Decomposition of(float[] clean, float[] noise, float[] version, int rate) {
    int length = Integer.highestOneBit((int) (0.04 * rate));
    float[][] c = ShortTime.of(clean, length, length / 2);
    float[][] n = ShortTime.of(noise, length, length / 2);
    float[][] v = ShortTime.of(version, length, length / 2);
    double strongest = 0;
    double noiseAll = 0;
    double noiseKept = 0;
    double cleanAll = 0;
    double rest = 0;
    double weighted = 0;
    double weights = 0;
    for (int round = 0; round < 2; round++) {
      for (int t = 0; t + FRAMES <= c.length; t += FRAMES) {
        for (double low = 100; low * THIRD < Math.min(8000, 0.47 * rate); low *= THIRD) {
          int first = (int) Math.ceil(low * length / rate);
          int end = Math.max(first + 1, (int) Math.ceil(low * THIRD * length / rate));
          Tile tile = new Tile(c, n, v, t, first, end);
          if (round == 0) {
            strongest = Math.max(strongest, tile.cc);
            continue;
          }
          tile.solve();
          noiseAll += tile.nn;
          noiseKept += tile.keptNoise();
          cleanAll += tile.cc;
          rest += tile.rest();
          if (tile.cc > SILENT * strongest) {
            double weight = Math.pow(tile.cc, 0.2);
            double db = 10 * Math.log10(tile.cc / Math.max(tile.lostSpeech(), 1e-12 * tile.cc));
            weighted += weight * Math.max(LEAST_DB, Math.min(MOST_DB, db));
            weights += weight;
          }
        }
      }
    }
    return new Decomposition(
        10 * Math.log10(Math.max(noiseKept, 1e-12 * noiseAll) / noiseAll),
        weighted / weights,
        10 * Math.log10(Math.max(rest, 1e-12 * cleanAll) / cleanAll));
  }

  /** Sums over one tile. */
  private static final class Tile {
    private double cc;
    private double nn;
    private double vv;
    private double cnRe;
    private double cnIm;
    private double cvRe;
    private double cvIm;
    private double nvRe;
    private double nvIm;
    private double aRe;
    private double aIm;
    private double bRe;
    private double bIm;

    Tile(float[][] c, float[][] n, float[][] v, int from, int first, int end) {
      for (int t = from; t < from + FRAMES; t++) {
        for (int k = first; k < end; k++) {
          double cr = c[t][2 * k];
          double ci = c[t][2 * k + 1];
          double nr = n[t][2 * k];
          double ni = n[t][2 * k + 1];
          double vr = v[t][2 * k];
          double vi = v[t][2 * k + 1];
          cc += cr * cr + ci * ci;
          nn += nr * nr + ni * ni;
          vv += vr * vr + vi * vi;
          cnRe += cr * nr + ci * ni;
          cnIm += cr * ni - ci * nr;
          cvRe += cr * vr + ci * vi;
          cvIm += cr * vi - ci * vr;
          nvRe += nr * vr + ni * vi;
          nvIm += nr * vi - ni * vr;
        }
      }
    }

    /** a and b of the normal equations, a little regularised. */
    void solve() {
      double c = cc * (1 + 1e-9) + 1e-20;
      double n = nn * (1 + 1e-9) + 1e-20;
      double determinant = c * n - cnRe * cnRe - cnIm * cnIm;
      if (determinant < 1e-6 * c * n) {
        aRe = cvRe / c;
        aIm = cvIm / c;
        return;
      }
      aRe = (n * cvRe - (cnRe * nvRe - cnIm * nvIm)) / determinant;
      aIm = (n * cvIm - (cnRe * nvIm + cnIm * nvRe)) / determinant;
      bRe = (c * nvRe - (cnRe * cvRe + cnIm * cvIm)) / determinant;
      bIm = (c * nvIm - (cnRe * cvIm - cnIm * cvRe)) / determinant;
    }

    double keptNoise() {
      return (bRe * bRe + bIm * bIm) * nn;
    }

    double lostSpeech() {
      return ((1 - aRe) * (1 - aRe) + aIm * aIm) * cc;
    }

    double rest() {
      return Math.max(0, vv - (aRe * cvRe + aIm * cvIm) - (bRe * nvRe + bIm * nvIm));
    }
  }
}
