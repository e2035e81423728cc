package kettlesieve.calibrate.makers;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.function.UnaryOperator;
import kettlesieve.calibrate.corpus.StemMaterial;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/**
 * Separators with known errors: masks made of the true stems' powers, spoilt in several ways, and
 * one that goes by bands of frequency alone.
 *
 * @param id its name
 * @param way how it makes stems
 */
public record Separators(String id, UnaryOperator<StemMaterial> way) {
  private static final int LENGTH = 4096;
  private static final int HOP = LENGTH / 4;

  /** All of them. */
  public static List<Separators> all() {
    return List.of(
        new Separators("good", m -> masked(m, 1, 1, 0, 1)),
        new Separators("soft", m -> masked(m, 0.6, 3, 0, 2)),
        new Separators("hard", m -> masked(m, 3, 6, 0, 3)),
        new Separators("leaky", m -> masked(m, 1, 3, 0.35, 4)),
        new Separators("bands", Separators::bands));
  }

  /** The true stems with so much of each other. */
  public static StemMaterial leaking(StemMaterial m, double db) {
    float gain = (float) Math.pow(10, db / 20);
    Map<String, Audio> stems = new LinkedHashMap<>();
    m.stems()
        .forEach(
            (role, own) -> {
              List<Audio> parts = new ArrayList<>(List.of(own));
              m.stems().forEach((r, a) -> parts.add(r.equals(role) ? a.times(0) : a.times(gain)));
              Audio sum = SumAudio.of(parts);
              stems.put(role, Audio.of(sum.sampleRate(), sum.wholeChannel(0), sum.wholeChannel(1)));
            });
    return new StemMaterial(stems);
  }

  /**
   * Masks by the stems' powers.
   *
   * @param sharpness exponent of the powers: 1 is Wiener's mask, more is nearer to all or nothing
   * @param errorDb standard deviation of what is known wrongly of each power, slowly changing
   * @param leak share of the mix that every stem gets alike
   */
  private static StemMaterial masked(
      StemMaterial m, double sharpness, double errorDb, double leak, long seed) {
    List<String> roles = List.copyOf(m.stems().keySet());
    float[][][] out = new float[roles.size()][2][];
    for (int c = 0; c < 2; c++) {
      float[][][] stems = new float[roles.size()][][];
      for (int r = 0; r < stems.length; r++) {
        stems[r] = frames(m.stems().get(roles.get(r)).wholeChannel(c));
      }
      SplittableRandom random = new SplittableRandom(seed);
      double[][] error = new double[roles.size()][LENGTH / 2];
      float[][][] masked = new float[roles.size()][stems[0].length][LENGTH];
      double[] weight = new double[roles.size()];
      for (int t = 0; t < stems[0].length; t++) {
        for (int k = 1; k < LENGTH / 2; k++) {
          double sum = 0;
          float re = 0;
          float im = 0;
          for (int r = 0; r < weight.length; r++) {
            error[r][k] = 0.9 * error[r][k] + 0.436 * errorDb * random.nextGaussian();
            float a = stems[r][t][2 * k];
            float b = stems[r][t][2 * k + 1];
            re += a;
            im += b;
            double known = (a * a + b * b + 1e-12) * Math.pow(10, error[r][k] / 10);
            weight[r] = Math.pow(known, sharpness);
            sum += weight[r];
          }
          for (int r = 0; r < weight.length; r++) {
            float mask = (float) ((1 - leak) * weight[r] / sum + leak / weight.length);
            masked[r][t][2 * k] = mask * re;
            masked[r][t][2 * k + 1] = mask * im;
          }
        }
      }
      int length = (int) m.stems().get(roles.get(0)).frames();
      for (int r = 0; r < roles.size(); r++) {
        out[r][c] = joined(masked[r], length);
      }
    }
    Map<String, Audio> made = new LinkedHashMap<>();
    int rate = m.stems().get(roles.get(0)).sampleRate();
    for (int r = 0; r < roles.size(); r++) {
      made.put(roles.get(r), Audio.of(rate, out[r][0], out[r][1]));
    }
    return new StemMaterial(made);
  }

  private static StemMaterial bands(StemMaterial m) {
    Audio mix = m.mix();
    Map<String, float[][]> out = new LinkedHashMap<>();
    m.stems().keySet().forEach(r -> out.put(r, new float[2][]));
    for (int c = 0; c < 2; c++) {
      float[][] frames = frames(mix.wholeChannel(c));
      for (var stem : out.entrySet()) {
        float[][] own = new float[frames.length][LENGTH];
        for (int t = 0; t < frames.length; t++) {
          for (int k = 1; k < LENGTH / 2; k++) {
            float gain = share(stem.getKey(), k * (double) mix.sampleRate() / LENGTH);
            own[t][2 * k] = gain * frames[t][2 * k];
            own[t][2 * k + 1] = gain * frames[t][2 * k + 1];
          }
        }
        stem.getValue()[c] = joined(own, (int) mix.frames());
      }
    }
    Map<String, Audio> made = new LinkedHashMap<>();
    out.forEach((role, x) -> made.put(role, Audio.of(mix.sampleRate(), x)));
    return new StemMaterial(made);
  }

  private static float share(String role, double hz) {
    return switch (role) {
      case "bass" -> hz < 180 ? 1 : 0;
      case "drums" -> hz > 5000 ? 1 : 0.1f;
      case "vocals" -> hz > 250 && hz < 3500 ? 0.6f : 0;
      default -> hz > 180 && hz < 5000 ? 0.3f : 0;
    };
  }

  private static float[][] frames(float[] x) {
    float[] window = Windows.hann(LENGTH);
    float[][] frames = new float[x.length / HOP + 4][LENGTH];
    for (int t = 0; t < frames.length; t++) {
      for (int i = 0; i < LENGTH; i++) {
        int at = t * HOP + i - LENGTH / 2;
        frames[t][i] = at >= 0 && at < x.length ? x[at] * window[i] : 0;
      }
      Fft.forward(frames[t]);
    }
    return frames;
  }

  private static float[] joined(float[][] frames, int length) {
    float[] window = Windows.hann(LENGTH);
    float[] out = new float[length];
    float[] weight = new float[length];
    for (int t = 0; t < frames.length; t++) {
      Fft.inverse(frames[t]);
      for (int i = 0; i < LENGTH; i++) {
        int at = t * HOP + i - LENGTH / 2;
        if (at >= 0 && at < length) {
          out[at] += frames[t][i] * window[i];
          weight[at] += window[i] * window[i];
        }
      }
    }
    for (int i = 0; i < length; i++) {
      out[i] /= Math.max(1e-3f, weight[i]);
    }
    return out;
  }
}
