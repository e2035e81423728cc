package kettlesieve.calibrate.truth;

import java.util.Set;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.corpus.Material;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.work.PreparedExcerpt;

/** Works out what is true of the versions of a scene. */
public final class Truths {
  private static final Set<String> NEEDED = Set.of("si-sdr", "stoi", "sar", "sir");

  private final Material material;
  private final PreparedExcerpt preparedExcerpt;

  /**
   * @throws CalibrationException if the scene cannot be compared
   */
  public Truths(Material material) throws CalibrationException {
    this.material = material;
    try {
      this.preparedExcerpt = PreparedExcerpt.of(material.source(), material.clean(), null, null);
    } catch (MatchException e) {
      throw new CalibrationException(e.getMessage(), e);
    }
  }

  /**
   * Of one version.
   *
   * @throws CalibrationException if it cannot be matched
   */
  public Truth of(Audio version) throws CalibrationException {
    try {
      MatchedVersion matched = preparedExcerpt.match(version, MatchOverride.NONE);
      Readings taken = preparedExcerpt.measure(matched, NEEDED);
      int rate = material.clean().sampleRate();
      float[] clean = material.clean().wholeChannel(0);
      float[] noise = material.noise().wholeChannel(0);
      float[] own = levelled(matched.audio().samples(0, 0, clean.length), clean, noise);
      Decomposition parts = Decomposition.of(clean, noise, own, rate);
      return new Truth(
          value(taken, "si-sdr"),
          value(taken, "stoi"),
          FrequencyWeightedSnr.of(clean, own, rate),
          value(taken, "sar"),
          value(taken, "sir"),
          parts.noiseLeft(),
          parts.wantedDistortion(),
          parts.artifacts());
    } catch (MatchException e) {
      throw new CalibrationException(e.getMessage(), e);
    }
  }

  /** At the level at which it holds the speech as loud as the clean recording does. */
  private static float[] levelled(float[] version, float[] clean, float[] noise) {
    double cc = 0;
    double nn = 0;
    double cn = 0;
    double cv = 0;
    double nv = 0;
    for (int i = 0; i < clean.length; i++) {
      cc += (double) clean[i] * clean[i];
      nn += (double) noise[i] * noise[i];
      cn += (double) clean[i] * noise[i];
      cv += (double) clean[i] * version[i];
      nv += (double) noise[i] * version[i];
    }
    double share = (nn * cv - cn * nv) / (cc * nn - cn * cn);
    float gain = (float) (1 / Math.max(0.05, Math.min(20, share)));
    for (int i = 0; i < version.length; i++) {
      version[i] *= gain;
    }
    return version;
  }

  private static double value(Readings taken, String id) throws CalibrationException {
    return taken
        .reading(id)
        .orElseThrow(() -> new CalibrationException(id + " could not be measured"))
        .value();
  }
}
