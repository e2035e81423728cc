package kettlesieve.calibrate.truth;

import kettlesieve.calibrate.corpus.RoomMaterial;
import kettlesieve.core.match.MatchedVersion;

/**
 * What is true of dereverberated versions, told from the parts that the source was made of.
 *
 * @param wanted direct sound and early reflections
 * @param unwanted late reflections and noise
 * @param rate Hz
 */
public record RoomTruth(float[] wanted, float[] unwanted, int rate) {
  private static final double SILENT = 1e-12;

  /**
   * Of one version.
   *
   * @param siSdr scale-invariant signal-to-distortion ratio, dB (Le Roux et al. 2019)
   * @param lateLeft what is left of the unwanted parts over that of the source, dB
   */
  public record Figures(double siSdr, double lateLeft) {}

  /** For the versions of a scene. */
  public static RoomTruth of(RoomMaterial material) {
    return new RoomTruth(material.wanted(), material.unwanted(), material.source().sampleRate());
  }

  /** The truth of a version at the place of the source, whose parts are told by least squares. */
  public Figures of(MatchedVersion matched) {
    float[] version = matched.audio().samples(0, 0, wanted.length);
    double siSdr = siSdr(version);
    float gain = (float) (power(wanted) / product(wanted, version));
    for (int i = 0; i < version.length; i++) {
      version[i] *= gain;
    }
    return new Figures(siSdr, Decomposition.of(wanted, unwanted, version, rate).noiseLeft());
  }

  /**
   * The truth of a version whose maker is linear, so that it may be led over the wanted and the
   * unwanted sound one by one: what is left, over what is left of the wanted sound, is known then.
   * Least squares would take a part of what became of the early reflections for late ones, even
   * where none of these is left.
   *
   * @param ofWanted what the maker made of the wanted sound alone
   * @param ofUnwanted what it made of the unwanted sound alone
   */
  public Figures of(MatchedVersion matched, float[] ofWanted, float[] ofUnwanted) {
    double left = power(ofUnwanted) / power(unwanted) / (power(ofWanted) / power(wanted));
    return new Figures(
        siSdr(matched.audio().samples(0, 0, wanted.length)),
        10 * Math.log10(Math.max(left, SILENT)));
  }

  private double siSdr(float[] version) {
    double product = product(wanted, version);
    double kept = product * product / power(wanted);
    double all = power(version);
    return 10 * Math.log10(kept / Math.max(all - kept, 1e-10 * all));
  }

  private static double power(float[] x) {
    return product(x, x);
  }

  private static double product(float[] x, float[] y) {
    double sum = 0;
    for (int i = 0; i < x.length; i++) {
      sum += (double) x[i] * y[i];
    }
    return sum;
  }
}
