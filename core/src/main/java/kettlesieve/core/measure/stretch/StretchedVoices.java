package kettlesieve.core.measure.stretch;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Yin;

/** Fundamental frequencies of a source and of a version in its own time, each 10 ms. */
public final class StretchedVoices {
  /** Of a version; the source's side is worked out once for all versions. */
  public static final StretchedPair.OfStretched<StretchedVoices> OF = StretchedVoices::new;

  /** Seconds from one moment to the next. */
  static final double HOP = 0.010;

  private static final double LOW_HZ = 65;
  private static final double HIGH_HZ = 500;

  /** Fundamentals of the source, Hz; NaN where it is not voiced. */
  static final Analysis.OfSource<double[]> SOURCE =
      source -> {
        Yin yin = new Yin(source.source().whole().downmix(), LOW_HZ, HIGH_HZ);
        double[] hz = new double[(int) (source.source().audio().seconds() / HOP)];
        for (int i = 0; i < hz.length; i++) {
          hz[i] = yin.at(source.source().startSeconds() + (i + 0.5) * HOP);
        }
        return hz;
      };

  /**
   * A moment at which the source is voiced.
   *
   * @param source seconds of the source
   * @param version seconds of the version
   * @param before fundamental of the source, Hz
   * @param after of the version, Hz; NaN where it is not clearly voiced
   * @param likely the same, or where it is not clear what lies within three semitones of what was
   *     asked for; NaN if nothing does
   * @param twofold whether source and version can both be heard either way: the source at the pitch
   *     that the version was found at, the version at the one that was asked for
   */
  public record Frame(
      double source, double version, double before, double after, double likely, boolean twofold) {
    /** Whether both are voiced. */
    public boolean both() {
      return !Double.isNaN(after);
    }

    /** How much higher the version is, cents. */
    public double cents() {
      return 1200 * Math.log(after / before) / Math.log(2);
    }

    /** The same of what is likely. */
    public double likelyCents() {
      return 1200 * Math.log(likely / before) / Math.log(2);
    }
  }

  private final List<Frame> frames = new ArrayList<>();

  private StretchedVoices(StretchedPair warp)
      throws kettlesieve.core.measure.NotMeasurableException {
    double[] before = warp.source().shared(SOURCE);
    Audio version = warp.version().audio().downmix();
    Yin yin = new Yin(version, LOW_HZ * warp.pitch(), HIGH_HZ * warp.pitch());
    Yin own = new Yin(warp.source().source().whole().downmix(), LOW_HZ, HIGH_HZ);
    double start = warp.source().source().startSeconds();
    for (int i = 0; i < before.length; i++) {
      if (Double.isNaN(before[i])) {
        continue;
      }
      double at = start + (i + 0.5) * HOP;
      double there = warp.fit().map().at(at);
      if (there > 0 && there < version.seconds()) {
        double after = yin.at(there);
        double wanted = before[i] * warp.pitch();
        double near = yin.near(there, wanted);
        double likely = Double.isNaN(after) ? near : after;
        boolean twofold =
            !Double.isNaN(after)
                && !Double.isNaN(near)
                && !Double.isNaN(own.near(at, after / warp.pitch()));
        frames.add(new Frame(at, there, before[i], after, likely, twofold));
      }
    }
  }

  /** The moments at which the source is voiced, in order. */
  public List<Frame> frames() {
    return frames;
  }
}
