package kettlesieve.calibrate.makers;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.corpus.RoomMaterial;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.rig.DelayedPrediction;
import kettlesieve.core.rig.LateSubtraction;
import kettlesieve.core.task.Progress;

/** The makers of dereverberated versions. */
public final class Dereverbers {
  /** Versions that the squared error does not mind or minds for another reason. */
  public static final List<String> OFF_THE_TRUTH = List.of("dull", "early-free");

  /** Makers of which what they make of a sum is the sum of what they make of its parts. */
  public static final Set<String> LINEAR =
      Set.of(
          "untouched",
          "late-6",
          "late-12",
          "late-none",
          "early-free",
          "more-room",
          "dull",
          "wavering",
          "chopped");

  /** What is left of the late reflections in a version that is otherwise as good as can be. */
  private static final double DRY = 0.25;

  private Dereverbers() {}

  /**
   * All of them.
   *
   * @param cache where what they fetch is kept between runs
   */
  public static List<Maker<RoomMaterial>> all(Path cache) {
    RecurrentSuppressor recurrent = new RecurrentSuppressor(cache.resolve("rnnoise"));
    return List.of(
        new Maker<>("untouched", Maker.Kind.UNTOUCHED, (m, f) -> m.source()),
        new Maker<>("late-6", Maker.Kind.IDEAL, (m, f) -> m.mix(1, 0.5)),
        new Maker<>("late-12", Maker.Kind.IDEAL, (m, f) -> m.mix(1, DRY)),
        new Maker<>("late-none", Maker.Kind.IDEAL, (m, f) -> m.mix(1, 0)),
        new Maker<>("early-free", Maker.Kind.IDEAL, (m, f) -> m.mix(0, 0)),
        new Maker<>("more-room", Maker.Kind.BAD, (m, f) -> m.mix(1, 1.6)),
        new Maker<>("subtraction-30", Maker.Kind.REAL, (m, f) -> subtraction(m.source(), 30)),
        new Maker<>("subtraction-60", Maker.Kind.REAL, (m, f) -> subtraction(m.source(), 60)),
        new Maker<>("subtraction-100", Maker.Kind.REAL, (m, f) -> subtraction(m.source(), 100)),
        new Maker<>("prediction", Maker.Kind.REAL, (m, f) -> prediction(m.source(), 0.045, 10)),
        new Maker<>("prediction-long", Maker.Kind.REAL, (m, f) -> prediction(m.source(), 0.03, 20)),
        new Maker<>("expander", Maker.Kind.REAL, (m, f) -> gated(m.source(), 0.5, 1.6, 120)),
        new Maker<>(
            "predicted-then-expanded",
            Maker.Kind.REAL,
            (m, f) -> gated(prediction(m.source(), 0.045, 10), 0.35, 1.5, 150)),
        new Maker<>("recurrent", Maker.Kind.REAL, (m, f) -> recurrent.process(m.source(), f)),
        new Maker<>(
            "dull",
            Maker.Kind.BAD,
            (m, f) ->
                FilterGraph.process(m.mix(1, DRY), "lowpass=f=3400,lowpass=f=3400,lowpass=f=3400")),
        new Maker<>("gate", Maker.Kind.BAD, (m, f) -> gated(m.source(), 1.2, 9, 30)),
        new Maker<>(
            "twice", Maker.Kind.BAD, (m, f) -> subtraction(subtraction(m.source(), 100), 100)),
        new Maker<>("wavering", Maker.Kind.BAD, (m, f) -> wavering(m.source())),
        new Maker<>("chopped", Maker.Kind.BAD, (m, f) -> chopped(m.source())));
  }

  private static Audio prediction(Audio in, double delaySeconds, int taps) {
    return new DelayedPrediction(delaySeconds, taps).process(in, 100, Progress.SILENT);
  }

  private static Audio subtraction(Audio in, double amount) {
    return new LateSubtraction().process(in, amount, Progress.SILENT);
  }

  /**
   * FFmpeg's gate.
   *
   * @param threshold over the whole recording's root mean square
   */
  private static Audio gated(Audio in, double threshold, double ratio, double release)
      throws CalibrationException {
    double sum = 0;
    for (float x : in.wholeChannel(0)) {
      sum += (double) x * x;
    }
    double rms = Math.sqrt(sum / in.frames());
    return FilterGraph.process(
        in,
        String.format(
            Locale.ROOT,
            "agate=threshold=%.6f:ratio=%.2f:attack=3:release=%.0f:range=0.03:detection=rms",
            threshold * rms,
            ratio,
            release));
  }

  private static Audio wavering(Audio in) {
    float[] x = in.wholeChannel(0);
    for (int i = 0; i < x.length; i++) {
      double seconds = (double) i / in.sampleRate();
      x[i] *= (float) Math.pow(10, 4 * Math.sin(2 * Math.PI * 8 * seconds) / 20);
    }
    return Audio.of(in.sampleRate(), x);
  }

  private static Audio chopped(Audio in) {
    float[] x = in.wholeChannel(0);
    for (int i = 0; i < x.length; i++) {
      double seconds = (double) i / in.sampleRate();
      x[i] *= seconds % 0.37 < 0.05 ? 0.02f : 1;
    }
    return Audio.of(in.sampleRate(), x);
  }
}
