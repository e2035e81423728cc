package kettlesieve.core;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.ConcurrentHashMap;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.signal.Convolution;
import kettlesieve.core.task.Progress;

/** Real speech and made noise for tests. Where the recordings come from: fixtures/README.md. */
public final class Sounds {
  private static final Map<String, Audio> READ = new ConcurrentHashMap<>();

  private Sounds() {}

  public static Path resource(String name) {
    try {
      return Path.of(Sounds.class.getResource("/" + name).toURI());
    } catch (URISyntaxException e) {
      throw new IllegalStateException(e);
    }
  }

  public static Audio read(String name) {
    return READ.computeIfAbsent(
        name,
        n -> {
          try {
            Path cache = Files.createTempDirectory("cache");
            return new MediaReader(cache).read(resource(n), Progress.SILENT).audio();
          } catch (MediaException | IOException e) {
            throw new IllegalStateException(e);
          }
        });
  }

  /** Announcements at 48 kHz with pauses of 0.8 s, about 12 s, RMS of the speech about −25 dBFS. */
  public static float[] speech48() {
    return joined(
        48_000,
        "speech/front-center.flac",
        "speech/front-left.flac",
        "speech/front-right.flac",
        "speech/rear-center.flac");
  }

  /** A reading at 16 kHz with pauses of 0.8 s between its sentences. */
  public static float[] speech16() {
    return joined(
        16_000, "speech/reading-0880.flac", "speech/reading-0930.flac", "speech/reading-0870.flac");
  }

  private static float[] joined(int rate, String... files) {
    int gap = (int) (0.8 * rate);
    int total = gap;
    for (String file : files) {
      total += (int) read(file).frames() + gap;
    }
    float[] all = new float[total];
    int at = gap;
    for (String file : files) {
      float[] part = read(file).wholeChannel(0);
      System.arraycopy(part, 0, all, at, part.length);
      at += part.length + gap;
    }
    return all;
  }

  public static double rms(float[] x) {
    double sum = 0;
    for (float v : x) {
      sum += (double) v * v;
    }
    return Math.sqrt(sum / x.length);
  }

  public static float[] white(int length, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    float[] noise = new float[length];
    for (int i = 0; i < length; i++) {
      noise[i] = (float) random.nextGaussian();
    }
    return noise;
  }

  /** Noise whose power falls by 3 dB an octave (Paul Kellet's filter, common practice). */
  public static float[] pink(int length, long seed) {
    float[] white = white(length, seed);
    double b0 = 0;
    double b1 = 0;
    double b2 = 0;
    for (int i = 0; i < length; i++) {
      double w = white[i];
      b0 = 0.99765 * b0 + w * 0.0990460;
      b1 = 0.96300 * b1 + w * 0.2965164;
      b2 = 0.57000 * b2 + w * 1.0526913;
      white[i] = (float) (b0 + b1 + b2 + w * 0.1848);
    }
    return white;
  }

  /** Mains hum of ten partials over a little hiss. */
  public static float[] hum(int length, int rate, long seed) {
    float[] hiss = white(length, seed);
    for (int i = 0; i < length; i++) {
      double sum = 0.08 * hiss[i];
      for (int h = 1; h <= 10; h++) {
        sum += Math.sin(2 * Math.PI * 50 * h * i / rate + h) / h;
      }
      hiss[i] = (float) sum;
    }
    return hiss;
  }

  /** {@code a + factor·b}. */
  public static float[] mix(float[] a, float[] b, double factor) {
    float[] sum = new float[a.length];
    for (int i = 0; i < a.length; i++) {
      sum[i] = (float) (a[i] + factor * b[i]);
    }
    return sum;
  }

  /** The factor that puts noise so many dB below speech, by their RMS. */
  public static double noiseFactor(float[] speech, float[] noise, double snrDb) {
    return rms(speech) / rms(noise) * Math.pow(10, -snrDb / 20);
  }

  public static float[] sine(int rate, double seconds, double hz, double amplitude, double phase) {
    float[] x = new float[(int) Math.round(rate * seconds)];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (amplitude * Math.sin(2 * Math.PI * hz * i / rate + phase));
    }
    return x;
  }

  /** Numbers of a 32-bit linear congruential generator, the same as in the fixtures' scripts. */
  public static float[] congruential(int count) {
    long state = 12345;
    float[] values = new float[count];
    for (int i = 0; i < count; i++) {
      state = (1664525 * state + 1013904223) & 0xffffffffL;
      values[i] = (float) (state / 2147483648.0 - 1);
    }
    return values;
  }

  /** A low-pass of linear phase and no delay: a Hamming-windowed sinc of 401 taps. */
  public static float[] lowPass(float[] x, int rate, double hz) {
    int half = 200;
    double[] taps = new double[2 * half + 1];
    for (int k = -half; k <= half; k++) {
      double sinc = k == 0 ? 2 * hz / rate : Math.sin(2 * Math.PI * hz / rate * k) / (Math.PI * k);
      taps[k + half] = sinc * (0.54 + 0.46 * Math.cos(Math.PI * k / half));
    }
    // Half of the taps look ahead: the sound is put that much earlier, and cut off again.
    float[] through = Convolution.of(Arrays.copyOf(x, x.length + half), taps);
    return Arrays.copyOfRange(through, half, through.length);
  }

  /** Writes one channel as a WAV file of floats. */
  public static void write(Path file, int rate, float[] x) throws IOException {
    WavWriter.write(Audio.of(rate, x), file, WavWriter.Format.FLOAT, Progress.SILENT);
  }

  public static Path temp(String prefix) {
    try {
      return Files.createTempDirectory(prefix);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
