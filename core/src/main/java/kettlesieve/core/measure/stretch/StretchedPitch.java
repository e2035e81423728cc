package kettlesieve.core.measure.stretch;

import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.StretchedPair;

/**
 * How far the pitch of a version in its own time has moved: around what was asked for, or around
 * what else would explain it, which is a change of speed in a stretch and nothing done in a shift.
 */
public final class StretchedPitch {
  /** Of a version; the source's profile is worked out once for all versions. */
  public static final StretchedPair.OfStretched<StretchedPitch> OF = StretchedPitch::new;

  /** A smaller change of speed, in cents, lies within what is searched around no shift. */
  private static final double LEAST_SPEED = 20;

  /** From here on the shift that was found is used where others need it. */
  private static final double SURE = 0.6;

  private static final Analysis.OfSource<PitchProfile> SOURCE =
      source -> {
        double start = source.source().startSeconds();
        return new PitchProfile(
            source.source().audio().downmix(),
            source.timeline().blocks(),
            seconds -> block(source, start + seconds));
      };

  private static final int FEWEST = 20;

  /** Further than a voice is moved by anyone. */
  private static final double MOST_CENTS = 3000;

  private final PitchProfile.Shift found;
  private final boolean byVoice;
  private final Estimate drawn;
  private final double speed;
  private final double asked;

  private StretchedPitch(StretchedPair warp)
      throws kettlesieve.core.measure.NotMeasurableException {
    PitchProfile source = warp.source().shared(SOURCE);
    PitchProfile version =
        new PitchProfile(
            warp.version().audio().downmix(),
            warp.source().timeline().blocks(),
            seconds -> block(warp.source(), warp.fit().map().inverse(seconds)));
    this.speed = -1200 * Math.log(warp.fit().slope()) / Math.log(2);
    this.asked = 1200 * Math.log(warp.pitch()) / Math.log(2);
    boolean stretch = warp.source().job() == Job.STRETCH;
    double guess = stretch && Math.abs(speed) > LEAST_SPEED ? speed : 0;
    this.found = source.likelier(version, stretch ? 0 : asked, guess);
    Estimate voice = voice(warp);
    this.byVoice = voice != null;
    this.drawn = byVoice ? voice : source.drawn(version, found, warp.source().bootstrap());
  }

  /**
   * Of a single voice, the median of its voiced moments: profiles of speech follow its formants,
   * which stay, and an octave up they fall on every other partial. Null where there is no voice, or
   * where it was merely played at another speed, which the profiles tell better.
   */
  private Estimate voice(StretchedPair warp)
      throws kettlesieve.core.measure.NotMeasurableException {
    if (!warp.source().shared(SingleVoice.OF).single()) {
      return null;
    }
    BlockHistograms cents =
        new BlockHistograms(warp.source().timeline(), -MOST_CENTS, MOST_CENTS, 0.5);
    int count = 0;
    for (StretchedVoices.Frame f : warp.shared(StretchedVoices.OF).frames()) {
      if (Double.isFinite(f.likelyCents())) {
        cents.add(warp.source().timeline().block(warp.frame(f.source())), f.likelyCents(), 1);
        count++;
      }
    }
    return count < FEWEST ? null : warp.source().bootstrap().estimate(cents::median);
  }

  /** The block of a moment of the source's time line. */
  private static int block(SourceAnalysis source, double seconds) {
    return source.timeline().block(StretchedPair.frame(source, seconds));
  }

  /** How far it moved, cents. */
  public double cents() {
    return drawn.value();
  }

  /** Whether the voiced moments of a single voice told it, not the profiles. */
  public boolean byVoice() {
    return byVoice;
  }

  /** The same with its distribution. */
  public Estimate estimate() {
    return drawn;
  }

  /** Correlation of the profiles there, −1 to 1. */
  public double likeness() {
    return found.likeness();
  }

  /** What was asked for, cents. */
  public double asked() {
    return asked;
  }

  /** What a mere change of speed would do to the pitch, cents. */
  public double speed() {
    return speed;
  }

  /** Whether a stretched version was merely played at another speed. */
  public boolean played() {
    return found.guess() != 0 && found.guess() == speed;
  }

  /** The ratio of frequencies that the sound of the source has in the version. */
  public double ratio() {
    return Math.pow(2, (byVoice || found.likeness() >= SURE ? drawn.value() : asked) / 1200);
  }
}
