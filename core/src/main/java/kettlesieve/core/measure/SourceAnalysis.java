package kettlesieve.core.measure;

import java.util.Optional;
import kettlesieve.core.match.SourceMaterial;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Clicks;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Loudness;
import kettlesieve.core.signal.ThirdOctaveBands;

/** What measures need of the source alone, worked out once for all versions. Thread-safe. */
public final class SourceAnalysis {
  private static final double CLICK_DEVIATIONS = 18;

  private final SourceMaterial source;
  private final Audio reference;
  private final Timeline timeline;
  private final Bootstrap bootstrap;
  private final ThirdOctaveBands bands;
  private PauseLevels pauseLevels;
  private boolean[] clickFrames;
  private Loudness loudness;

  /**
   * @param source the analysed source
   * @param reference the clean recording over the same excerpt and on the same time; null if none
   */
  public SourceAnalysis(SourceMaterial source, Audio reference) {
    this.source = source;
    this.reference = reference;
    this.timeline = new Timeline(source);
    this.bootstrap = new Bootstrap(timeline.blocks());
    this.bands = new ThirdOctaveBands(source.framing());
  }

  public SourceMaterial source() {
    return source;
  }

  public Timeline timeline() {
    return timeline;
  }

  public Bootstrap bootstrap() {
    return bootstrap;
  }

  public ThirdOctaveBands bands() {
    return bands;
  }

  /** The clean recording over the excerpt. */
  public Optional<Audio> reference() {
    return Optional.ofNullable(reference);
  }

  /** Loudness of the source's excerpt. */
  synchronized Loudness loudness() {
    if (loudness == null) {
      loudness = Loudness.of(source.audio());
    }
    return loudness;
  }

  synchronized PauseLevels pauseLevels() {
    if (pauseLevels == null) {
      var spectra =
          java.util.stream.IntStream.range(0, source.channels())
              .mapToObj(source::spectrum)
              .toList();
      pauseLevels = new PauseLevels(source, spectra, 1, bands, 0, source.framing().count());
    }
    return pauseLevels;
  }

  synchronized boolean[] clickFrames() {
    if (clickFrames == null) {
      Framing framing = source.framing();
      clickFrames = new boolean[framing.count()];
      for (int c = 0; c < source.channels(); c++) {
        boolean[] marked = Clicks.frames(source.audio(), c, framing, CLICK_DEVIATIONS);
        for (int t = 0; t < marked.length; t++) {
          clickFrames[t] |= marked[t];
        }
      }
    }
    return clickFrames;
  }
}
