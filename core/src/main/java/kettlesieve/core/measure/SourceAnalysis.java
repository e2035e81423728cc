package kettlesieve.core.measure;

import java.util.List;
import java.util.Optional;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.SourceMaterial;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Clicks;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Intelligibility;
import kettlesieve.core.signal.Loudness;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.SumAudio;
import kettlesieve.core.signal.ThirdOctaveBands;

/** What measures need of the source alone, worked out once for all versions. Thread-safe. */
public final class SourceAnalysis {
  /** Robust deviations of the residual from which on the source has a click. */
  public static final double CLICK_DEVIATIONS = 18;

  private final SourceMaterial source;
  private final Audio reference;
  private final Job job;
  private final Timeline timeline;
  private final Bootstrap bootstrap;
  private final ThirdOctaveBands bands;
  private PauseLevels pauseLevels;
  private boolean[] clickFrames;
  private long[][] clicks;
  private boolean[] clippedFrames;
  private final BssEval[] separations = new BssEval[2];
  private List<Spectrogram> referenceSpectra;
  private Intelligibility.Clean intelligible;
  private Loudness loudness;

  /**
   * @param source the analysed source
   * @param reference the clean recording over the same excerpt and on the same time; null if none
   */
  public SourceAnalysis(SourceMaterial source, Audio reference) {
    this(source, reference, Job.DENOISE);
  }

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

  public SourceMaterial source() {
    return source;
  }

  public Job job() {
    return job;
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
        Clicks.mark(clicks(c), framing, clickFrames);
      }
    }
    return clickFrames;
  }

  /** Positions of the clicks in a channel of the excerpt. */
  synchronized long[] clicks(int channel) {
    if (clicks == null) {
      clicks = new long[source.channels()][];
      for (int c = 0; c < clicks.length; c++) {
        clicks[c] = Clicks.positions(source.audio(), c, CLICK_DEVIATIONS);
      }
    }
    return clicks[channel];
  }

  /** Frames that hold clipped samples, over all channels. */
  synchronized boolean[] clippedFrames() {
    if (clippedFrames == null) {
      clippedFrames = new boolean[source.framing().count()];
      for (int c = 0; c < source.channels(); c++) {
        for (int i = 0; i < source.clipping().runs(c); i++) {
          Clicks.mark(
              new long[] {source.clipping().run(c, i).from()}, source.framing(), clippedFrames);
        }
      }
    }
    return clippedFrames;
  }

  /** The separation of any version into the clean recording, what was unwanted, and artifacts. */
  synchronized BssEval separation(boolean images) {
    if (separations[images ? 1 : 0] == null) {
      Audio unwanted = SumAudio.remainder(source.audio(), List.of(reference));
      List<Audio> sources = List.of(reference, unwanted);
      separations[images ? 1 : 0] =
          images
              ? BssEval.ofImages(sources)
              : BssEval.ofSources(sources.stream().map(Audio::downmix).toList());
    }
    return separations[images ? 1 : 0];
  }

  /** Short-time spectra of the clean recording, one a channel. */
  synchronized List<Spectrogram> referenceSpectra() {
    if (referenceSpectra == null) {
      referenceSpectra = SourceMaterial.spectra(reference);
    }
    return referenceSpectra;
  }

  /** The clean recording's side of the intelligibility, over the whole excerpt. */
  synchronized Intelligibility.Clean intelligible() {
    if (intelligible == null) {
      intelligible = new Intelligibility.Clean(reference.downmix());
    }
    return intelligible;
  }
}
