package kettlesieve.calibrate.makers;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.calibrate.corpus.StemMaterial;
import kettlesieve.core.audio.Audio;

/** Masks of the mix by what is known, wrongly in part, of the true stems' powers. */
final class Masks {
  private Masks() {}

  /**
   * Stems by masks.
   *
   * @param length of the frames
   * @param sharpness exponent of the powers: 1 is Wiener's mask, 30 all or nothing
   * @param errorDb standard deviation of what is known wrongly of each power
   * @param smooth over how many bins and frames that error hangs together
   */
  static StemMaterial of(
      StemMaterial m, int length, double sharpness, double errorDb, int smooth, long seed) {
    List<String> roles = List.copyOf(m.stems().keySet());
    Stft stft = new Stft(length);
    int bins = length / 2;
    float[][][] out = new float[roles.size()][2][];
    float[][][][] stems = new float[2][roles.size()][][];
    for (int c = 0; c < 2; c++) {
      for (int r = 0; r < roles.size(); r++) {
        stems[c][r] = stft.frames(m.stems().get(roles.get(r)).wholeChannel(c));
      }
    }
    SplittableRandom random = new SplittableRandom(seed);
    int frames = stems[0][0].length;
    float[][][][] masked = new float[2][roles.size()][frames][length];
    double[] weight = new double[roles.size()];
    double[][] error = new double[roles.size()][bins / smooth + 2];
    double keep = 1 - 1.0 / smooth;
    double fresh = Math.sqrt(1 - keep * keep) * errorDb;
    for (int t = 0; t < frames; t++) {
      for (double[] own : error) {
        for (int i = 0; i < own.length; i++) {
          own[i] = keep * own[i] + fresh * random.nextGaussian();
        }
      }
      for (int k = 1; k < bins; k++) {
        double sum = 0;
        for (int r = 0; r < weight.length; r++) {
          double power = 1e-12;
          for (int c = 0; c < 2; c++) {
            float a = stems[c][r][t][2 * k];
            float b = stems[c][r][t][2 * k + 1];
            power += a * a + b * b;
          }
          double f = (double) k / smooth;
          int i = (int) f;
          double off = error[r][i] + (f - i) * (error[r][i + 1] - error[r][i]);
          weight[r] = sharpness * (Math.log(power) + off * Math.log(10) / 10);
          sum = r == 0 ? weight[r] : Math.max(sum, weight[r]);
        }
        double all = 0;
        for (int r = 0; r < weight.length; r++) {
          weight[r] = Math.exp(weight[r] - sum);
          all += weight[r];
        }
        for (int c = 0; c < 2; c++) {
          float re = 0;
          float im = 0;
          for (int r = 0; r < weight.length; r++) {
            re += stems[c][r][t][2 * k];
            im += stems[c][r][t][2 * k + 1];
          }
          for (int r = 0; r < weight.length; r++) {
            float mask = (float) (weight[r] / all);
            masked[c][r][t][2 * k] = mask * re;
            masked[c][r][t][2 * k + 1] = mask * im;
          }
        }
      }
    }
    int samples = (int) m.stems().get(roles.get(0)).frames();
    Map<String, Audio> made = new LinkedHashMap<>();
    for (int r = 0; r < roles.size(); r++) {
      for (int c = 0; c < 2; c++) {
        out[r][c] = stft.joined(masked[c][r], samples);
      }
      made.put(roles.get(r), Audio.of(m.stems().get(roles.get(r)).sampleRate(), out[r]));
    }
    return new StemMaterial(made);
  }
}
