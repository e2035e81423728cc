package kettlesieve.core.measure;

import kettlesieve.core.match.MapFit;
import kettlesieve.core.match.StretchedVersion;

/** A stretched or shifted version beside its source. Used by one thread at a time. */
public final class StretchedPair implements Subject {
  private final SourceAnalysis source;
  private final StretchedVersion version;
  private final double ratio;
  private final double pitch;
  private final Memo shared = new Memo();

  /**
   * What several measures of a version in its own time need, worked out when the first asks for it.
   *
   * @param <T> what it gives
   */
  public interface OfStretched<T> {
    /** Works it out. */
    T of(StretchedPair warp) throws NotMeasurableException;
  }

  /**
   * @param source what belongs to the source, the same object for all versions
   * @param version in its own time
   * @param ratio the length asked for over the source's
   * @param pitch the frequency ratio asked for; 1 where pitch is to stay
   */
  public StretchedPair(
      SourceAnalysis source, StretchedVersion version, double ratio, double pitch) {
    this.source = source;
    this.version = version;
    this.ratio = ratio;
    this.pitch = pitch;
  }

  @Override
  public String words() {
    return "a version in its own time";
  }

  @Override
  public boolean hasReference() {
    return false;
  }

  /** What belongs to the source. */
  public SourceAnalysis source() {
    return source;
  }

  /** The version in its own time. */
  public StretchedVersion version() {
    return version;
  }

  /** The length asked for over the source's. */
  public double ratio() {
    return ratio;
  }

  /** The frequency ratio asked for; 1 where pitch is to stay. */
  public double pitch() {
    return pitch;
  }

  /** How the source's time runs in the version. */
  public MapFit fit() {
    return version.fit();
  }

  /** The frame of the source's excerpt at a moment of the source, seconds. */
  public int frame(double seconds) {
    return frame(source, seconds);
  }

  /** The same before there is a version. */
  public static int frame(SourceAnalysis source, double seconds) {
    double within = seconds - source.source().startSeconds();
    int frame = (int) Math.round(within / source.source().framing().hopSeconds());
    return Math.max(0, Math.min(source.timeline().frames() - 1, frame));
  }

  /**
   * What a family of measures needs.
   *
   * @throws NotMeasurableException if it cannot be worked out
   */
  public <T> T shared(OfStretched<T> analysis) throws NotMeasurableException {
    return shared.get(analysis, () -> analysis.of(this));
  }
}
