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

  /** The truth of a version at the place of the source. */
  public Figures of(MatchedVersion matched) {
    float[] version = matched.audio().samples(0, 0, wanted.length);
    double ww = 0;
    double wv = 0;
    double vv = 0;
    for (int i = 0; i < wanted.length; i++) {
      ww += (double) wanted[i] * wanted[i];
      wv += (double) wanted[i] * version[i];
      vv += (double) version[i] * version[i];
    }
    double kept = wv * wv / ww;
    double siSdr = 10 * Math.log10(kept / Math.max(vv - kept, 1e-10 * vv));
    float gain = (float) (ww / wv);
    for (int i = 0; i < version.length; i++) {
      version[i] *= gain;
    }
    return new Figures(siSdr, Decomposition.of(wanted, unwanted, version, rate).noiseLeft());
  }
}
