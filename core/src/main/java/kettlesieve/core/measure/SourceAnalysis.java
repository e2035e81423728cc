package kettlesieve.core.measure;

import java.util.Optional;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.ThirdOctaveBands;

/** What measures need of the source alone, worked out once for all versions. Thread-safe. */
public final class SourceAnalysis {
  private final SourceMaterial source;
  private final Audio reference;
  private final Job job;
  private final Timeline timeline;
  private final Bootstrap bootstrap;
  private final ThirdOctaveBands bands;
  private final Memo shared = new Memo();

  /**
   * @param source the analysed source
   * @param reference the clean recording over the same excerpt, on the same time and at the same
   *     level; null if none
   * @param job what was done to the source
   */
  public SourceAnalysis(SourceMaterial source, Audio reference, Job job) {
    this.job = job;
    this.source = source;
    this.reference = reference;
    this.timeline = new Timeline(source);
    this.bootstrap = new Bootstrap(timeline.blocks());
    this.bands = new ThirdOctaveBands(source.framing());
  }

  /** The analysed source. */
  public SourceMaterial source() {
    return source;
  }

  /** What was done to it. */
  public Job job() {
    return job;
  }

  /** How its frames are gathered. */
  public Timeline timeline() {
    return timeline;
  }

  /** Draws for its blocks. */
  public Bootstrap bootstrap() {
    return bootstrap;
  }

  /** Third-octave bands of its framing. */
  public ThirdOctaveBands bands() {
    return bands;
  }

  /** The clean recording over the excerpt. */
  public Optional<Audio> reference() {
    return Optional.ofNullable(reference);
  }

  /**
   * What a family of measures needs, worked out when the first asks for it.
   *
   * @throws NotMeasurableException if it cannot be worked out
   */
  public <T> T shared(Analysis.OfSource<T> analysis) throws NotMeasurableException {
    return shared.get(analysis, () -> analysis.of(this));
  }
}
