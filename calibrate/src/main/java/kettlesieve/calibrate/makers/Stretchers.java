package kettlesieve.calibrate.makers;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.Program;
import kettlesieve.calibrate.WorkFolder;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.LowPass;
import kettlesieve.core.signal.Windows;
import kettlesieve.core.task.Progress;

/** Processors of time and pitch, good, middling and bad ones, of several kinds. */
public final class Stretchers {
  private static final int[] WINDOWS = {1024, 4096, 8192};
  private static final double[] JOINS = {0.02, 0.06};

  private final Path folder;

  /**
   * @param folder for the time of the making
   */
  public Stretchers(Path folder) {
    this.folder = folder;
  }

  /**
   * Versions by the name of what made them.
   *
   * @param job stretch or pitch
   * @param in one channel
   * @param amount the ratio, or the semitones
   * @throws CalibrationException if one fails
   */
  public Map<String, Audio> versions(Job job, Audio in, double amount) throws CalibrationException {
    boolean stretch = job == Job.STRETCH;
    Map<String, Audio> made = new LinkedHashMap<>();
    Setup setup = new Setup(100, stretch ? amount : 1, stretch ? 0 : amount);
    for (StandIn standIn : StandIns.of(job)) {
      made.put(standIn.id(), standIn.make(in, setup, Progress.SILENT).values().iterator().next());
    }
    double ratio = stretch ? amount : Math.pow(2, amount / 12);
    Map<String, Audio> stretched = new LinkedHashMap<>();
    for (int window : WINDOWS) {
      stretched.put("free-phases-" + window, FreePhases.stretched(in, ratio, window));
    }
    for (double seconds : JOINS) {
      stretched.put("joins-" + Math.round(1000 * seconds), joined(in, ratio, seconds));
    }
    stretched.put("scattered-phases", scattered(in, ratio));
    stretched.forEach((id, audio) -> made.put(id, stretch ? audio : faster(audio, ratio)));
    if (stretch) {
      made.put("sox-tempo", sox(in, "tempo", number(1 / amount)));
      made.put("sox-tempo-speech", sox(in, "tempo", "-s", number(1 / amount)));
      made.put("sox-stretch", sox(in, "stretch", number(amount)));
    } else {
      made.put("sox-pitch", sox(in, "pitch", number(100 * amount)));
    }
    return made;
  }

  private static String number(double x) {
    return String.format(Locale.ROOT, "%.6f", x);
  }

  private Audio sox(Audio in, String... effect) throws CalibrationException {
    try (WorkFolder work = WorkFolder.in(folder)) {
      Path own = work.path();
      WavWriter.write(in, own.resolve("in.wav"), WavWriter.Format.FLOAT, Progress.SILENT);
      List<String> words =
          new ArrayList<>(List.of("sox", "-D", "in.wav", "-e", "float", "out.wav"));
      words.addAll(List.of(effect));
      Program.run(own, words);
      Audio made =
          new MediaReader(own.resolve("decoded"))
              .read(own.resolve("out.wav"), Progress.SILENT)
              .audio();
      return Audio.of(made.sampleRate(), made.wholeChannel(0));
    } catch (IOException | MediaException e) {
      throw new CalibrationException("the version cannot be kept: " + e.getMessage(), e);
    }
  }

  /** Pieces put one after the other as they come, cross-faded over a tenth of their length. */
  static Audio joined(Audio in, double ratio, double seconds) {
    float[] x = in.wholeChannel(0);
    int step = (int) (seconds * in.sampleRate());
    int fade = Math.max(8, step / 10);
    float[] y = new float[(int) (x.length * ratio)];
    for (int to = 0; to < y.length; to += step) {
      int from = (int) (to / ratio);
      for (int i = -fade; i < step && to + i < y.length; i++) {
        if (to + i < 0 || from + i < 0 || from + i >= x.length) {
          continue;
        }
        double in1 = i < 0 ? (i + fade) / (double) fade : 1;
        double out1 = i >= step - fade ? (step - i) / (double) fade : 1;
        y[to + i] += (float) (in1 * out1 * x[from + i]);
      }
    }
    return Audio.of(in.sampleRate(), y);
  }

  /** Levels of long windows with phases drawn by chance: everything is smeared into a cloud. */
  static Audio scattered(Audio in, double ratio) {
    int length = 8192;
    int hop = length / 4;
    float[] window = Windows.hann(length);
    float[] y = new float[(int) (in.frames() * ratio)];
    SplittableRandom random = new SplittableRandom(8192);
    float[] frame = new float[length];
    for (int to = -length; to < y.length; to += hop) {
      in.read(0, Math.round((to + length / 2) / ratio) - length / 2, frame, 0, length);
      for (int i = 0; i < length; i++) {
        frame[i] *= window[i];
      }
      Fft.forward(frame);
      for (int k = 1; k < length / 2; k++) {
        double size = Math.hypot(frame[2 * k], frame[2 * k + 1]);
        double phase = 2 * Math.PI * random.nextDouble();
        frame[2 * k] = (float) (size * Math.cos(phase));
        frame[2 * k + 1] = (float) (size * Math.sin(phase));
      }
      Fft.inverse(frame);
      for (int i = 0; i < length; i++) {
        if (to + i >= 0 && to + i < y.length) {
          y[to + i] += 0.8f * frame[i] * window[i];
        }
      }
    }
    return Audio.of(in.sampleRate(), y);
  }

  /** Read faster by a factor, so that what was stretched by it is moved in pitch. */
  static Audio faster(Audio in, double factor) {
    Audio below = factor > 1 ? LowPass.of(in, 0.45 * in.sampleRate() / factor) : in;
    float[] x = below.wholeChannel(0);
    float[] y = new float[(int) (x.length / factor)];
    for (int i = 0; i < y.length; i++) {
      double at = i * factor;
      int k = (int) at;
      double f = at - k;
      double a = x[Math.max(0, k - 1)];
      double b = x[k];
      double c = x[Math.min(x.length - 1, k + 1)];
      double d = x[Math.min(x.length - 1, k + 2)];
      // Catmull and Rom's cubic through four samples.
      y[i] =
          (float)
              (b + 0.5 * f * (c - a + f * (2 * a - 5 * b + 4 * c - d + f * (3 * (b - c) + d - a))));
    }
    return Audio.of(in.sampleRate(), y);
  }
}
