package kettlesieve.core.measure.stretch;

import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Analysis;
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

  private final PitchProfile.Shift found;
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
    this.drawn = source.drawn(version, found, warp.source().bootstrap());
  }

  /** The block of a moment of the source's time line. */
  private static int block(SourceAnalysis source, double seconds) {
    return source.timeline().block(StretchedPair.frame(source, seconds));
  }

  /** How far it moved, cents. */
  public double cents() {
    return found.cents();
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
    return Math.pow(2, (found.likeness() >= SURE ? found.cents() : asked) / 1200);
  }
}
