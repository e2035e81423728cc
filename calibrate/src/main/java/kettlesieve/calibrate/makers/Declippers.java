package kettlesieve.calibrate.makers;

import java.nio.file.Path;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.corpus.Material;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.rig.CubicTops;
import kettlesieve.core.rig.PredictedTops;
import kettlesieve.core.task.Progress;

/** The makers of declipped versions. */
public final class Declippers {
  /** The one that takes minutes where much is clipped. */
  public static final String SLOW = "filter";

  private Declippers() {}

  /**
   * All of them.
   *
   * @param cache where versions that take long are kept between runs
   */
  public static List<Maker<Material>> all(Path cache) {
    KeptVersions kept = new KeptVersions(cache.resolve("declipped"));
    return List.of(
        new Maker<>("untouched", Maker.Kind.UNTOUCHED, (m, f) -> m.source()),
        new Maker<>("original", Maker.Kind.IDEAL, (m, f) -> m.clean()),
        new Maker<>("halfway", Maker.Kind.IDEAL, (m, f) -> towards(m, 0.5f)),
        new Maker<>("most-of-it", Maker.Kind.IDEAL, (m, f) -> towards(m, 0.8f)),
        new Maker<>("cubic-60", Maker.Kind.REAL, (m, f) -> cubic(m, 60)),
        new Maker<>("cubic-100", Maker.Kind.REAL, (m, f) -> cubic(m, 100)),
        new Maker<>("predicted-60", Maker.Kind.REAL, (m, f) -> predicted(m, 60)),
        new Maker<>("predicted-100", Maker.Kind.REAL, (m, f) -> predicted(m, 100)),
        new Maker<>(SLOW, Maker.Kind.REAL, (m, f) -> filtered(m, "adeclip", kept)),
        new Maker<>(
            "filter-fine", Maker.Kind.REAL, (m, f) -> filtered(m, "adeclip=w=25:a=6:t=5", kept)),
        new Maker<>("sparse-hard", Maker.Kind.REAL, (m, f) -> sparse(m, true)),
        new Maker<>("sparse-soft", Maker.Kind.REAL, (m, f) -> sparse(m, false)),
        new Maker<>("too-high", Maker.Kind.BAD, (m, f) -> towards(m, 2.3f)),
        new Maker<>("crackling", Maker.Kind.BAD, (m, f) -> crackling(m)),
        new Maker<>(
            "dull",
            Maker.Kind.BAD,
            (m, f) -> FilterGraph.process(predicted(m, 100), "lowpass=f=4000,lowpass=f=4000")),
        new Maker<>("worked-over", Maker.Kind.BAD, (m, f) -> workedOver(m)));
  }

  private static Audio filtered(Material m, String filter, KeptVersions kept)
      throws CalibrationException {
    return kept.of(m.source(), filter, () -> FilterGraph.process(m.source(), filter));
  }

  private static Audio cubic(Material m, double amount) {
    return new CubicTops().process(m.source(), amount, Progress.SILENT);
  }

  private static Audio predicted(Material m, double amount) {
    return new PredictedTops().process(m.source(), amount, Progress.SILENT);
  }

  /** Part of the way to the original, or beyond. */
  private static Audio towards(Material m, float share) {
    float[] x = m.source().wholeChannel(0);
    float[] clean = m.clean().wholeChannel(0);
    for (int i = 0; i < x.length; i++) {
      x[i] += share * (clean[i] - x[i]);
    }
    return Audio.of(m.source().sampleRate(), x);
  }

  private static float ceiling(float[] x) {
    float most = 0;
    for (float sample : x) {
      most = Math.max(most, Math.abs(sample));
    }
    return most;
  }

  private static Audio sparse(Material m, boolean hard) {
    float[] x = m.source().wholeChannel(0);
    return Audio.of(m.source().sampleRate(), ConsistentSparse.process(x, ceiling(x), hard));
  }

  /** A repair with kinks at the seams. */
  private static Audio crackling(Material m) throws CalibrationException {
    float[] source = m.source().wholeChannel(0);
    float[] x = predicted(m, 100).wholeChannel(0);
    float ceiling = ceiling(source);
    SplittableRandom random = new SplittableRandom(5);
    for (int i = 1; i < x.length; i++) {
      boolean now = Math.abs(source[i]) >= 0.999f * ceiling;
      boolean before = Math.abs(source[i - 1]) >= 0.999f * ceiling;
      if (now && !before) {
        x[i] *= (float) (1 + 0.35 * random.nextDouble());
      }
    }
    return Audio.of(m.source().sampleRate(), x);
  }

  /** A repair that changed all good samples a little, too. */
  private static Audio workedOver(Material m) throws CalibrationException {
    float[] x = predicted(m, 100).wholeChannel(0);
    SplittableRandom random = new SplittableRandom(6);
    double sum = 0;
    for (float sample : x) {
      sum += (double) sample * sample;
    }
    double level = Math.sqrt(sum / x.length) * Math.pow(10, -22 / 20.0);
    for (int i = 0; i < x.length; i++) {
      x[i] += (float) (level * random.nextGaussian());
    }
    return Audio.of(m.source().sampleRate(), x);
  }
}
