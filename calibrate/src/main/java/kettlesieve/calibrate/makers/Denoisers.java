package kettlesieve.calibrate.makers;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.Program;
import kettlesieve.calibrate.corpus.Material;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.rig.SmoothedWiener;
import kettlesieve.core.task.Progress;

/** The makers of denoised versions. */
public final class Denoisers {
  /** How many amounts a sweep has. */
  public static final int AMOUNTS = 14;

  private static final double GATE_CLOSED = Math.pow(10, -26 / 20.0);

  private Denoisers() {}

  /**
   * All of them.
   *
   * @param cache where what they fetch is kept between runs
   */
  public static List<Maker<Material>> all(Path cache) {
    RecurrentSuppressor recurrent = new RecurrentSuppressor(cache.resolve("rnnoise"));
    return List.of(
        new Maker<>("untouched", Maker.Kind.UNTOUCHED, (m, f) -> m.source()),
        new Maker<>("clean", Maker.Kind.IDEAL, (m, f) -> m.clean()),
        new Maker<>("partial-14", Maker.Kind.IDEAL, (m, f) -> partial(m, -14)),
        new Maker<>("fft-mild", Maker.Kind.REAL, (m, f) -> filter(m, 10, "")),
        new Maker<>("fft-strong", Maker.Kind.REAL, (m, f) -> filter(m, 32, ":tn=1")),
        new Maker<>("means", Maker.Kind.REAL, (m, f) -> nonLocalMeans(m, 3)),
        new Maker<>("wavelet", Maker.Kind.REAL, (m, f) -> wavelet(m, 1)),
        new Maker<>("profile-mild", Maker.Kind.REAL, (m, f) -> profile(m, f, 0.12)),
        new Maker<>("profile-strong", Maker.Kind.REAL, (m, f) -> profile(m, f, 0.4)),
        new Maker<>(
            "preprocessor", Maker.Kind.REAL, (m, f) -> SpeechPreprocessor.process(m.source(), -24)),
        new Maker<>("recurrent", Maker.Kind.REAL, (m, f) -> recurrent.process(m.source(), f)),
        new Maker<>(
            "wiener-60",
            Maker.Kind.REAL,
            (m, f) -> new SmoothedWiener().process(m.source(), 60, Progress.SILENT)),
        new Maker<>(
            "subtraction-70",
            Maker.Kind.REAL,
            (m, f) -> new PlainSubtraction().process(m.source(), 70, Progress.SILENT)),
        new Maker<>(
            "over-subtraction",
            Maker.Kind.BAD,
            (m, f) -> OverSubtraction.process(m.source(), m.sample())),
        new Maker<>("gate", Maker.Kind.BAD, (m, f) -> gate(m)),
        new Maker<>(
            "low-pass",
            Maker.Kind.BAD,
            (m, f) ->
                FilterGraph.process(m.source(), "lowpass=f=3400,lowpass=f=3400,lowpass=f=3400")));
  }

  /**
   * Processors from too little to far too much, in {@link #AMOUNTS} steps.
   *
   * @param id in tables
   * @param way makes the version of a step from 0 on
   */
  public record Sweep(String id, Step way) {
    /** Makes one version. */
    public interface Step {
      /** As {@link Maker.Way#make}, with a step. */
      Audio make(Material material, Path folder, int step) throws CalibrationException;
    }
  }

  /** All processors of which more or less can be taken. */
  public static List<Sweep> sweeps() {
    return List.of(
        new Sweep("fft", (m, f, i) -> filter(m, 4 + 4 * i, "")),
        new Sweep("means", (m, f, i) -> nonLocalMeans(m, 0.1 * Math.pow(1.6, i))),
        new Sweep("wavelet", (m, f, i) -> wavelet(m, 0.25 * Math.pow(1.25, i))),
        new Sweep("profile", (m, f, i) -> profile(m, f, 0.02 * Math.pow(1.35, i))),
        new Sweep("preprocessor", (m, f, i) -> SpeechPreprocessor.process(m.source(), -4 - 4 * i)),
        new Sweep(
            "wiener",
            (m, f, i) -> new SmoothedWiener().process(m.source(), 7 * (i + 1), Progress.SILENT)),
        new Sweep(
            "subtraction",
            (m, f, i) -> new PlainSubtraction().process(m.source(), 7 * (i + 1), Progress.SILENT)));
  }

  private static Audio partial(Material m, double db) {
    float[] clean = m.clean().wholeChannel(0);
    float[] noise = m.noise().wholeChannel(0);
    float gain = (float) Math.pow(10, db / 20);
    for (int i = 0; i < clean.length; i++) {
      clean[i] += gain * noise[i];
    }
    return Audio.of(m.clean().sampleRate(), clean);
  }

  private static double rms(Audio audio) {
    double sum = 0;
    for (float x : audio.wholeChannel(0)) {
      sum += (double) x * x;
    }
    return Math.sqrt(sum / audio.frames());
  }

  private static Audio filter(Material m, int reduction, String more) throws CalibrationException {
    double floor = Math.max(-80, Math.min(-20, 20 * Math.log10(rms(m.sample()))));
    return FilterGraph.process(
        m.source(), String.format(Locale.ROOT, "afftdn=nr=%d:nf=%.1f%s", reduction, floor, more));
  }

  private static Audio nonLocalMeans(Material m, double amount) throws CalibrationException {
    double strength = Math.min(1, amount * rms(m.sample()) * rms(m.sample()));
    return FilterGraph.process(
        m.source(),
        String.format(Locale.ROOT, "anlmdn=s=%.7f:p=0.002:r=0.004", Math.max(1e-5, strength)));
  }

  private static Audio wavelet(Material m, double amount) throws CalibrationException {
    double sigma = Math.max(1e-5, Math.min(1, amount * rms(m.sample())));
    return FilterGraph.process(
        m.source(), String.format(Locale.ROOT, "afwtdn=sigma=%.6f:percent=90:wavet=sym10", sigma));
  }

  /** Learns a noise profile and reduces by it: sox. */
  private static Audio profile(Material m, Path folder, double amount) throws CalibrationException {
    try {
      Path in = folder.resolve("in.wav");
      Path sample = folder.resolve("sample.wav");
      Path out = folder.resolve("out.wav");
      WavWriter.write(m.source(), in, WavWriter.Format.FLOAT, Progress.SILENT);
      WavWriter.write(m.sample(), sample, WavWriter.Format.FLOAT, Progress.SILENT);
      Program.run(folder, List.of("sox", "sample.wav", "-n", "noiseprof", "learned"));
      Program.run(
          folder,
          List.of(
              "sox",
              "-D",
              "in.wav",
              "-e",
              "float",
              "out.wav",
              "noisered",
              "learned",
              Double.toString(amount)));
      Audio audio = new MediaReader(folder.resolve("decoded")).read(out, Progress.SILENT).audio();
      return Audio.of(audio.sampleRate(), audio.wholeChannel(0));
    } catch (IOException | MediaException e) {
      throw new CalibrationException("the version cannot be kept: " + e.getMessage(), e);
    }
  }

  /** Closes by 26 dB where the level stays under twice the noise's. */
  private static Audio gate(Material m) {
    float[] x = m.source().wholeChannel(0);
    int rate = m.source().sampleRate();
    double threshold = 2 * rms(m.sample());
    double envelope = 0;
    double gain = GATE_CLOSED;
    double follow = Math.exp(-1 / (0.01 * rate));
    double attack = Math.exp(-1 / (0.003 * rate));
    double release = Math.exp(-1 / (0.08 * rate));
    for (int i = 0; i < x.length; i++) {
      envelope = follow * envelope + (1 - follow) * x[i] * x[i];
      double target = Math.sqrt(envelope) > threshold ? 1 : GATE_CLOSED;
      double keep = target > gain ? attack : release;
      gain = keep * gain + (1 - keep) * target;
      x[i] *= (float) gain;
    }
    return Audio.of(rate, x);
  }
}
