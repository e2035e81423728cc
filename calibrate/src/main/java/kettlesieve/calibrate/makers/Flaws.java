package kettlesieve.calibrate.makers;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.calibrate.corpus.StemMaterial;
import kettlesieve.core.audio.Audio;

/** Single flaws, of known size, of stems that are otherwise as given. */
public final class Flaws {
  private Flaws() {}

  /** Each stem with so much of each other, each pair by a gain that is drawn within 6 dB of it. */
  public static StemMaterial leaking(StemMaterial m, double db, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    List<String> roles = List.copyOf(m.stems().keySet());
    Map<String, Audio> made = new LinkedHashMap<>();
    for (String role : roles) {
      float[][] out = new float[2][];
      double[] gains = new double[roles.size()];
      for (int r = 0; r < gains.length; r++) {
        double own = db + (seed == 0 ? 0 : 6 * random.nextDouble() - 3);
        gains[r] = roles.get(r).equals(role) ? 1 : Math.pow(10, own / 20);
      }
      for (int c = 0; c < 2; c++) {
        out[c] = new float[(int) m.stems().get(role).frames()];
        for (int r = 0; r < gains.length; r++) {
          float[] x = m.stems().get(roles.get(r)).wholeChannel(c);
          for (int i = 0; i < x.length; i++) {
            out[c][i] += (float) gains[r] * x[i];
          }
        }
      }
      made.put(role, Audio.of(m.stems().get(role).sampleRate(), out));
    }
    return new StemMaterial(made);
  }

  /** So much of one and the rest of the other. */
  static StemMaterial blend(StemMaterial m, StemMaterial other, double share) {
    Map<String, Audio> made = new LinkedHashMap<>();
    m.stems()
        .forEach(
            (role, a) -> {
              float[][] out = new float[2][];
              for (int c = 0; c < 2; c++) {
                out[c] = a.wholeChannel(c);
                float[] y = other.stems().get(role).wholeChannel(c);
                for (int i = 0; i < y.length; i++) {
                  out[c][i] = (float) (share * out[c][i] + (1 - share) * y[i]);
                }
              }
              made.put(role, Audio.of(a.sampleRate(), out));
            });
    return new StemMaterial(made);
  }

  /** Each cell turned by a random angle up to so much. */
  public static StemMaterial scrambled(StemMaterial m, int length, double most, long seed) {
    Stft stft = new Stft(length);
    return StemTools.changed(
        m,
        (x, role, unused) -> {
          SplittableRandom random = new SplittableRandom(seed + 31L * role);
          float[][] frames = stft.frames(x);
          for (float[] frame : frames) {
            for (int k = 1; k < length / 2; k++) {
              double angle = most * (2 * random.nextDouble() - 1);
              float re = frame[2 * k];
              float im = frame[2 * k + 1];
              frame[2 * k] = (float) (re * Math.cos(angle) - im * Math.sin(angle));
              frame[2 * k + 1] = (float) (re * Math.sin(angle) + im * Math.cos(angle));
            }
          }
          return stft.joined(frames, x.length);
        });
  }

  /**
   * Pieces silenced.
   *
   * @param seconds length of a piece
   * @param share of the time that is silent
   */
  public static StemMaterial holes(StemMaterial m, double seconds, double share, long seed) {
    return StemTools.changed(
        m,
        (x, role, unused) -> {
          SplittableRandom random = new SplittableRandom(seed + 31L * role);
          int piece = (int) (seconds * m.mix().sampleRate());
          float[] y = x.clone();
          int fade = piece / 10;
          for (int at = 0; at < y.length; at += piece) {
            if (random.nextDouble() < share) {
              for (int i = at; i < Math.min(y.length, at + piece); i++) {
                int edge = Math.min(i - at, at + piece - 1 - i);
                y[i] *= edge < fade ? 1 - (float) edge / fade : 0;
              }
            }
          }
          return y;
        });
  }

  /** Single cells taken out at random, so that what is left tinkles. */
  public static StemMaterial musical(StemMaterial m, int length, double share, long seed) {
    Stft stft = new Stft(length);
    return StemTools.changed(
        m,
        (x, role, unused) -> {
          SplittableRandom random = new SplittableRandom(seed + 31L * role);
          float[][] frames = stft.frames(x);
          double[] gain = new double[length / 2];
          for (float[] frame : frames) {
            for (int k = 1; k < length / 2; k++) {
              double want = random.nextDouble() < share ? 0 : 1;
              gain[k] = random.nextInt(2) == 0 ? want : gain[k];
              frame[2 * k] *= (float) gain[k];
              frame[2 * k + 1] *= (float) gain[k];
            }
          }
          return stft.joined(frames, x.length);
        });
  }

  /** Nothing above a frequency. */
  static StemMaterial dull(StemMaterial m, double hz) {
    Stft stft = new Stft(4096);
    return StemTools.changed(
        m,
        (x, role, unused) -> {
          float[][] frames = stft.frames(x);
          int top = (int) (hz * 4096 / m.mix().sampleRate());
          for (float[] frame : frames) {
            for (int k = top; k < 2048; k++) {
              frame[2 * k] = 0;
              frame[2 * k + 1] = 0;
            }
          }
          return stft.joined(frames, x.length);
        });
  }

  /**
   * As a codec of few bits leaves it: what lies so far under its band's loudest is gone, the rest
   * is rounded to steps as coarse.
   */
  static StemMaterial coded(StemMaterial m, int length, double downDb) {
    Stft stft = new Stft(length);
    double down = Math.pow(10, -downDb / 20);
    return StemTools.changed(
        m,
        (x, role, unused) -> {
          float[][] frames = stft.frames(x);
          for (float[] frame : frames) {
            for (int from = 1; from < length / 2; ) {
              int to = Math.min(length / 2, from + Math.max(4, from / 4));
              double loud = 0;
              for (int i = 2 * from; i < 2 * to; i++) {
                loud = Math.max(loud, Math.abs(frame[i]));
              }
              double step = loud * down + 1e-12;
              for (int i = 2 * from; i < 2 * to; i++) {
                frame[i] = (float) (step * Math.rint(frame[i] / step));
              }
              from = to;
            }
          }
          return stft.joined(frames, x.length);
        });
  }
}
