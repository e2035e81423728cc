package kettlesieve.core.testpiece;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.Activity;
import kettlesieve.core.ground.PauseGround;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Framing;

/**
 * The noise of a recording's pauses, prolonged without audible repetition: frames of the mean
 * spectrum with random phases where it is steady, shuffled grains of the pauses where it changes
 * (source: design; the frames are those of a windowed Gaussian process with that spectrum).
 */
public final class PauseNoise {
  private static final int LARGEST = 8192;
  private static final int SMALLEST = 1024;
  private static final double GRAIN_SECONDS = 0.18;
  private static final double FADE_SECONDS = 0.03;

  private record Run(int from, int to) {
    int length() {
      return to - from;
    }
  }

  private final Audio audio;
  private final List<Run> runs;
  private final boolean steady;

  private PauseNoise(Audio audio, List<Run> runs, boolean steady) {
    this.audio = audio;
    this.runs = runs;
    this.steady = steady;
  }

  /**
   * Looks for the pauses of a recording.
   *
   * @throws IllegalArgumentException with the reason if it has none that can be used
   */
  public static PauseNoise of(Audio audio) {
    SourceMaterial material = SourceMaterial.of(audio, null, null, null, Job.DENOISE, null);
    PauseGround ground = material.pauses();
    if (ground.problem().isPresent()) {
      throw new IllegalArgumentException(ground.problem().get());
    }
    Activity activity = ground.activity();
    Framing framing = material.framing();
    List<Run> runs = new ArrayList<>();
    int first = -1;
    for (int t = 0; t <= framing.count(); t++) {
      boolean pause = t < framing.count() && activity.pause(t);
      if (pause && first < 0) {
        first = t;
      }
      if (!pause && first >= 0) {
        int from = (int) Math.max(0, Math.ceil(framing.startSeconds(first) * audio.sampleRate()));
        int to =
            (int)
                Math.min(
                    audio.frames(), Math.floor(framing.endSeconds(t - 1) * audio.sampleRate()));
        runs.add(new Run(from, to));
        first = -1;
      }
    }
    return new PauseNoise(audio, runs, !ground.notSteady());
  }

  /** Whether it is steady: the spectrum is prolonged, else the sound itself in grains. */
  public boolean steady() {
    return steady;
  }

  /** Where the pauses are, sample frames from and to. */
  public List<long[]> pauses() {
    return runs.stream().map(r -> new long[] {r.from(), r.to()}).toList();
  }

  /**
   * The noise, at its own level.
   *
   * @param length sample frames
   * @return one array a channel of the recording
   */
  public float[][] of(int length, long seed) {
    return steady ? frames(length, seed) : grains(length, seed);
  }

  private float[][] frames(int length, long seed) {
    int size = LARGEST;
    int longest = runs.stream().mapToInt(Run::length).max().orElse(0);
    while (size > SMALLEST && size > longest / 2) {
      size /= 2;
    }
    if (size > longest) {
      throw new IllegalArgumentException("its pauses are too short; mark or choose longer ones");
    }
    float[][] noise = new float[audio.channels()][];
    for (int c = 0; c < noise.length; c++) {
      noise[c] = frames(meanSpectrum(c, size), size, length, seed + 7919L * c);
    }
    return noise;
  }

  /** Mean power of windowed frames that lie whole in a pause, by bin. */
  private double[] meanSpectrum(int channel, int size) {
    double[] window = window(size);
    double[] mean = new double[size / 2 + 1];
    int count = 0;
    for (Run run : runs) {
      for (int at = run.from(); at + size <= run.to(); at += size / 4) {
        float[] x = audio.samples(channel, at, size);
        double[] a = new double[size];
        for (int i = 0; i < size; i++) {
          a[i] = window[i] * x[i];
        }
        Fft.forward(a);
        mean[0] += a[0] * a[0];
        mean[size / 2] += a[1] * a[1];
        for (int k = 1; k < size / 2; k++) {
          mean[k] += a[2 * k] * a[2 * k] + a[2 * k + 1] * a[2 * k + 1];
        }
        count++;
      }
    }
    for (int k = 0; k < mean.length; k++) {
      mean[k] /= count;
    }
    return mean;
  }

  /** The square root of a Hann window: at steps of half its length the squares sum to one. */
  private static double[] window(int size) {
    double[] w = new double[size];
    for (int i = 0; i < size; i++) {
      w[i] = StrictMath.sin(Math.PI * i / size);
    }
    return w;
  }

  private static float[] frames(double[] mean, int size, int length, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    double[] window = window(size);
    double[] sum = new double[length + 2 * size];
    double[] a = new double[size];
    // A frame of white spectrum has the power of its window: half of what a frame without one has.
    double scale = Math.sqrt(2);
    for (int at = 0; at < length + size; at += size / 2) {
      // Normal in both parts, as the spectrum of noise is: its level breathes as noise does.
      a[0] = Math.sqrt(mean[0]) * random.nextGaussian();
      a[1] = Math.sqrt(mean[size / 2]) * random.nextGaussian();
      for (int k = 1; k < size / 2; k++) {
        double s = Math.sqrt(mean[k] / 2);
        a[2 * k] = s * random.nextGaussian();
        a[2 * k + 1] = s * random.nextGaussian();
      }
      Fft.inverse(a);
      for (int i = 0; i < size; i++) {
        sum[at + i] += scale * window[i] * a[i];
      }
    }
    float[] x = new float[length];
    for (int i = 0; i < length; i++) {
      x[i] = (float) sum[i + size / 2];
    }
    return x;
  }

  private float[][] grains(int length, long seed) {
    int grain = (int) (GRAIN_SECONDS * audio.sampleRate());
    int fade = (int) (FADE_SECONDS * audio.sampleRate());
    List<Run> whole = runs.stream().filter(r -> r.length() >= grain + fade).toList();
    if (whole.isEmpty()) {
      throw new IllegalArgumentException("its pauses are too short; choose a longer recording");
    }
    long places = whole.stream().mapToLong(r -> r.length() - grain - fade + 1).sum();
    SplittableRandom random = new SplittableRandom(seed);
    float[][] noise = new float[audio.channels()][length];
    long last = -1;
    for (int at = -fade; at < length; at += grain) {
      long place = random.nextLong(places);
      for (int tries = 0; tries < 8 && last >= 0 && Math.abs(place - last) < grain; tries++) {
        place = random.nextLong(places);
      }
      last = place;
      int from = start(whole, place, grain + fade);
      for (int c = 0; c < noise.length; c++) {
        float[] x = audio.samples(c, from, grain + fade);
        for (int i = 0; i < x.length; i++) {
          int to = at + i;
          if (to >= 0 && to < length) {
            // At equal power: two grains have nothing to do with each other.
            double share =
                i < fade
                    ? StrictMath.sin(Math.PI / 2 * i / fade)
                    : i >= grain ? StrictMath.cos(Math.PI / 2 * (i - grain) / fade) : 1;
            noise[c][to] += (float) (share * x[i]);
          }
        }
      }
    }
    return noise;
  }

  private static int start(List<Run> whole, long place, int length) {
    long left = place;
    for (Run run : whole) {
      long here = run.length() - length + 1;
      if (left < here) {
        return (int) (run.from() + left);
      }
      left -= here;
    }
    throw new IllegalStateException("no such place");
  }
}
