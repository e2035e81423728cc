package kettlesieve.calibrate.makers;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.calibrate.corpus.StemMaterial;
import kettlesieve.core.audio.Audio;

/**
 * Tools that go by the mix: harmonic–percussive (Fitzgerald 2010), factorisation (Lee &amp; Seung
 * 2001), centre. Which part is which role they are told by the true stems, as a person would tell
 * them by ear.
 */
final class BlindTools {
  private BlindTools() {}

  /** What a tool splits the mix's cells into, by part, frame and bin: shares that add up to one. */
  private interface Split {
    float[][][] of(float[][][] mix);
  }

  /** Steady sounds and strokes, by medians along time and frequency; then by bands to roles. */
  static StemMaterial harmonic(StemMaterial m, int length, int around, double sharpness) {
    return parted(
        m,
        length,
        mix -> {
          int frames = mix[0].length;
          int bins = length / 2;
          float[][] size = magnitudes(mix, bins);
          float[][][] parts = new float[2][frames][bins];
          float[] window = new float[around];
          for (int t = 0; t < frames; t++) {
            for (int k = 1; k < bins; k++) {
              for (int i = 0; i < around; i++) {
                int at = Math.max(0, Math.min(frames - 1, t + i - around / 2));
                window[i] = size[at][k];
              }
              Arrays.sort(window);
              double steady = Math.pow(window[around / 2] + 1e-9, 2 * sharpness);
              for (int i = 0; i < around; i++) {
                window[i] = size[t][Math.max(1, Math.min(bins - 1, k + i - around / 2))];
              }
              Arrays.sort(window);
              double stroke = Math.pow(window[around / 2] + 1e-9, 2 * sharpness);
              parts[0][t][k] = (float) (steady / (steady + stroke));
              parts[1][t][k] = 1 - parts[0][t][k];
            }
          }
          return parts;
        });
  }

  /** What is alike left and right, and what is not. */
  static StemMaterial centre(StemMaterial m, int length) {
    return parted(
        m,
        length,
        mix -> {
          int frames = mix[0].length;
          int bins = length / 2;
          float[][][] parts = new float[3][frames][bins];
          for (int t = 0; t < frames; t++) {
            for (int k = 1; k < bins; k++) {
              float[] l = mix[0][t];
              float[] r = mix[1][t];
              double left = Math.hypot(l[2 * k], l[2 * k + 1]);
              double right = Math.hypot(r[2 * k], r[2 * k + 1]);
              double apart = Math.hypot(l[2 * k] - r[2 * k], l[2 * k + 1] - r[2 * k + 1]);
              double alike = Math.pow(Math.max(0, 1 - apart / (left + right + 1e-9)), 3);
              double side = (1 - alike) * left / (left + right + 1e-9);
              parts[0][t][k] = (float) alike;
              parts[1][t][k] = (float) side;
              parts[2][t][k] = (float) (1 - alike - side);
            }
          }
          return parts;
        });
  }

  /** Spectra that come again, and when: non-negative factors of the magnitudes. */
  static StemMaterial factors(StemMaterial m, int length, int parts, int rounds, long seed) {
    return parted(
        m,
        length,
        mix -> {
          int frames = mix[0].length;
          int bins = length / 2;
          float[][] v = magnitudes(mix, bins);
          SplittableRandom random = new SplittableRandom(seed);
          float[][] w = new float[parts][bins];
          float[][] h = new float[parts][frames];
          for (int p = 0; p < parts; p++) {
            for (int k = 0; k < bins; k++) {
              w[p][k] = 0.1f + random.nextInt(1000) / 1000f;
            }
            for (int t = 0; t < frames; t++) {
              h[p][t] = 0.1f + random.nextInt(1000) / 1000f;
            }
          }
          float[] ratio = new float[bins];
          for (int round = 0; round < rounds; round++) {
            float[][] up = new float[parts][bins];
            double[] all = new double[parts];
            for (int t = 0; t < frames; t++) {
              ratios(v[t], w, h, t, ratio);
              for (int p = 0; p < parts; p++) {
                double top = 0;
                double bottom = 1e-9;
                for (int k = 1; k < bins; k++) {
                  top += w[p][k] * ratio[k];
                  bottom += w[p][k];
                }
                h[p][t] *= (float) (top / bottom);
              }
              ratios(v[t], w, h, t, ratio);
              for (int p = 0; p < parts; p++) {
                all[p] += h[p][t];
                for (int k = 1; k < bins; k++) {
                  up[p][k] += h[p][t] * ratio[k];
                }
              }
            }
            for (int p = 0; p < parts; p++) {
              for (int k = 1; k < bins; k++) {
                w[p][k] *= (float) (up[p][k] / (all[p] + 1e-9));
              }
            }
          }
          float[][][] shares = new float[parts][frames][bins];
          for (int t = 0; t < frames; t++) {
            for (int k = 1; k < bins; k++) {
              double sum = 1e-12;
              for (int p = 0; p < parts; p++) {
                sum += w[p][k] * h[p][t];
              }
              for (int p = 0; p < parts; p++) {
                shares[p][t][k] = (float) (w[p][k] * h[p][t] / sum);
              }
            }
          }
          return shares;
        });
  }

  private static void ratios(float[] v, float[][] w, float[][] h, int t, float[] ratio) {
    Arrays.fill(ratio, 1e-9f);
    for (int p = 0; p < w.length; p++) {
      float gain = h[p][t];
      for (int k = 1; k < ratio.length; k++) {
        ratio[k] += gain * w[p][k];
      }
    }
    for (int k = 1; k < ratio.length; k++) {
      ratio[k] = v[k] / ratio[k];
    }
  }

  private static float[][] magnitudes(float[][][] mix, int bins) {
    float[][] size = new float[mix[0].length][bins];
    for (int t = 0; t < size.length; t++) {
      for (int k = 1; k < bins; k++) {
        double power = 0;
        for (float[][] channel : mix) {
          power +=
              channel[t][2 * k] * channel[t][2 * k] + channel[t][2 * k + 1] * channel[t][2 * k + 1];
        }
        size[t][k] = (float) Math.sqrt(power);
      }
    }
    return size;
  }

  /** Parts given, octave by octave, to the role that has most in them. */
  private static StemMaterial parted(StemMaterial m, int length, Split split) {
    Stft stft = new Stft(length);
    int bins = length / 2;
    List<String> roles = List.copyOf(m.stems().keySet());
    Audio all = m.mix();
    float[][][] mix = {stft.frames(all.wholeChannel(0)), stft.frames(all.wholeChannel(1))};
    float[][][] parts = split.of(mix);
    int frames = mix[0].length;
    int octaves = 32 - Integer.numberOfLeadingZeros(bins);
    double[][][] held = new double[parts.length][octaves][roles.size()];
    for (int r = 0; r < roles.size(); r++) {
      float[][] own = stft.frames(m.stems().get(roles.get(r)).downmix().wholeChannel(0));
      for (int t = 0; t < frames; t++) {
        for (int k = 1; k < bins; k++) {
          double power = own[t][2 * k] * own[t][2 * k] + own[t][2 * k + 1] * own[t][2 * k + 1];
          int octave = 31 - Integer.numberOfLeadingZeros(k);
          for (int p = 0; p < parts.length; p++) {
            held[p][octave][r] += parts[p][t][k] * power;
          }
        }
      }
    }
    float[][][][] masked = new float[2][roles.size()][frames][length];
    for (int p = 0; p < parts.length; p++) {
      for (int k = 1; k < bins; k++) {
        int octave = 31 - Integer.numberOfLeadingZeros(k);
        int best = 0;
        for (int r = 1; r < roles.size(); r++) {
          best = held[p][octave][r] > held[p][octave][best] ? r : best;
        }
        for (int c = 0; c < 2; c++) {
          for (int t = 0; t < frames; t++) {
            masked[c][best][t][2 * k] += parts[p][t][k] * mix[c][t][2 * k];
            masked[c][best][t][2 * k + 1] += parts[p][t][k] * mix[c][t][2 * k + 1];
          }
        }
      }
    }
    Map<String, Audio> made = new LinkedHashMap<>();
    for (int r = 0; r < roles.size(); r++) {
      float[] left = stft.joined(masked[0][r], (int) all.frames());
      float[] right = stft.joined(masked[1][r], (int) all.frames());
      made.put(roles.get(r), Audio.of(all.sampleRate(), left, right));
    }
    return new StemMaterial(made);
  }
}
