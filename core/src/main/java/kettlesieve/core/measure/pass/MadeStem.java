package kettlesieve.core.measure.pass;

import java.util.Arrays;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.ownership.Ownership;
import kettlesieve.core.signal.Spectrogram;

/**
 * How something comes about that is no stem itself.
 *
 * @param of the stems that are summed
 * @param remainder whether their sum is taken from the mix
 * @param spectra of a recording of its own, by channel; null for what is formed of stems
 */
record MadeStem(int[] of, boolean remainder, List<Spectrogram> spectra) {
  static MadeStem formed(String role, List<String> stems) {
    boolean remainder = Roles.parts(role).isEmpty();
    List<String> parts = remainder ? Roles.without(role) : Roles.parts(role);
    return new MadeStem(
        parts.stream().mapToInt(stems::indexOf).filter(i -> i >= 0).toArray(), remainder, null);
  }

  static MadeStem of(Audio audio) {
    return new MadeStem(new int[0], false, SourceMaterial.spectra(audio));
  }

  void form(Ownership.Frame frame, float[][] to) {
    for (int c = 0; c < to.length; c++) {
      float[] sum = to[c];
      Arrays.fill(sum, 0);
      for (int s : of) {
        float[] stem = frame.stems()[s][c];
        for (int i = 0; i < sum.length; i++) {
          sum[i] += stem[i];
        }
      }
      if (remainder) {
        float[] mix = frame.mix()[c];
        for (int i = 0; i < sum.length; i++) {
          sum[i] = mix[i] - sum[i];
        }
      }
    }
  }

  /** The same of one channel, of stems by stem, channel and frame. */
  void form(float[] mix, float[][][][] stems, int channel, int frame, float[] to) {
    Arrays.fill(to, 0);
    for (int s : of) {
      float[] stem = stems[s][channel][frame];
      for (int i = 0; i < to.length; i++) {
        to[i] += stem[i];
      }
    }
    if (remainder) {
      for (int i = 0; i < to.length; i++) {
        to[i] = mix[i] - to[i];
      }
    }
  }
}
