package kettlesieve.core.measure;

import java.util.Optional;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.FrameRange;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.match.SourceMaterial;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Intelligibility;
import kettlesieve.core.signal.Loudness;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * A matched version beside its source: what every measure is given. Analyses that several measures
 * need are worked out once, when the first asks for them. Used by one thread at a time; what
 * belongs to the source alone is shared between pairs.
 */
public final class Pair {
  /** In bands, gains below this count as this: a silent version is not infinitely quieter. */
  public static final double GAIN_FLOOR_DB = -60;

  private final SourceAnalysis shared;
  private final MatchedVersion version;
  private final int firstFrame;
  private final int endFrame;
  private PauseLevels versionPauses;
  private WantedEnergies wantedEnergies;
  private Repairs repairs;
  private final Separation[] separations = new Separation[2];

  /**
   * @param shared what belongs to the source, the same object for all its versions
   * @param version matched against the same source material
   */
  public Pair(SourceAnalysis shared, MatchedVersion version) {
    this.shared = shared;
    this.version = version;
    FrameRange range =
        FrameRange.covered(
            framing(),
            shared.source().startSeconds(),
            version.match().coveredFrom(),
            version.match().coveredTo());
    this.firstFrame = range.first();
    this.endFrame = range.end();
  }

  public SourceMaterial source() {
    return shared.source();
  }

  public MatchedVersion version() {
    return version;
  }

  public Framing framing() {
    return source().framing();
  }

  public Timeline timeline() {
    return shared.timeline();
  }

  public Bootstrap bootstrap() {
    return shared.bootstrap();
  }

  public ThirdOctaveBands bands() {
    return shared.bands();
  }

  public int channels() {
    return source().channels();
  }

  /** First frame that the version covers whole. */
  public int firstFrame() {
    return firstFrame;
  }

  /** Frame after the last that the version covers whole. */
  public int endFrame() {
    return endFrame;
  }

  /** Spectra of a channel of the version; multiply powers by {@code version().powerGain()}. */
  public Spectrogram versionSpectrum(int channel) {
    return version.spectra().get(channel);
  }

  /** The clean recording over the excerpt, on the source's time. */
  public Optional<Audio> reference() {
    return shared.reference();
  }

  /** Makes sure that pauses were found. */
  public void needPauses() throws NotMeasurableException {
    Optional<String> problem = source().activity().problem();
    if (problem.isPresent()) {
      throw new NotMeasurableException(problem.get());
    }
  }

  /** Levels of the source in its pauses. */
  public PauseLevels sourcePauses() throws NotMeasurableException {
    needPauses();
    return shared.pauseLevels();
  }

  /** Levels of the version in the source's pauses, after matching. */
  public PauseLevels versionPauses() throws NotMeasurableException {
    needPauses();
    if (versionPauses == null) {
      versionPauses =
          new PauseLevels(
              source(), version.spectra(), version.powerGain(), bands(), firstFrame, endFrame);
    }
    return versionPauses;
  }

  /** Energies over wanted cells, and gains over unwanted ones. */
  public WantedEnergies wantedEnergies() throws NotMeasurableException {
    needPauses();
    if (wantedEnergies == null) {
      wantedEnergies = new WantedEnergies(this);
    }
    return wantedEnergies;
  }

  /** Loudness of the source's excerpt. */
  public Loudness sourceLoudness() {
    return shared.loudness();
  }

  /** Frames in which the source has a click, over all channels. */
  public boolean[] clickFrames() {
    return shared.clickFrames();
  }

  /** Positions of the source's clicks in a channel, samples from the start of the excerpt. */
  public long[] clicks(int channel) {
    return shared.clicks(channel);
  }

  /** What was done to the source. */
  public Job job() {
    return shared.job();
  }

  /** Frames that hold clipped samples of the source, over all channels. */
  public boolean[] clippedFrames() {
    return shared.clippedFrames();
  }

  /**
   * Whether a frame can tell what a version lost: in declipping, frames with clipped samples
   * cannot, because a good repair takes out the treble that clipping put in.
   */
  public boolean judges(int frame) {
    return job() != Job.DECLIP || !clippedFrames()[frame];
  }

  /**
   * Frames within clipped passages that hold no clipped sample: a repair has no reason to change
   * anything there.
   */
  public boolean[] betweenClipped() {
    boolean[] clipped = clippedFrames();
    boolean[] between = new boolean[clipped.length];
    for (Clipping.Passage passage : source().clipping().passages()) {
      int rate = framing().sampleRate();
      int first = frameOf(Math.round((passage.from() - 0.5) * rate));
      int last = frameOf(Math.round((passage.to() + 0.5) * rate));
      for (int t = first; t <= last; t++) {
        between[t] = !clipped[t];
      }
    }
    return between;
  }

  /**
   * What became of the source's clipped samples.
   *
   * @throws NotMeasurableException if the source is nowhere clipped
   */
  public Repairs repairs() throws NotMeasurableException {
    if (!source().clipping().any()) {
      throw new NotMeasurableException("no clipping was found in the source");
    }
    if (repairs == null) {
      repairs = new Repairs(this);
    }
    return repairs;
  }

  /** Spectra of a channel of the clean recording. */
  public Spectrogram referenceSpectrum(int channel) {
    return shared.referenceSpectra().get(channel);
  }

  /**
   * The separation evaluation against the clean recording and what was unwanted, by block and slot.
   *
   * @param images whether channels are evaluated as they are; if not, on the downmix
   */
  public Separation separation(boolean images) throws NotMeasurableException {
    if (reference().isEmpty()) {
      throw new NotMeasurableException("no reference");
    }
    int index = images ? 1 : 0;
    if (separations[index] == null) {
      separations[index] = new Separation(this, shared.separation(images), images);
    }
    return separations[index];
  }

  /** The intelligibility of what the version covers, against the clean recording. */
  public Intelligibility intelligibility() throws NotMeasurableException {
    Audio clean = reference().orElseThrow(() -> new NotMeasurableException("no reference"));
    Audio own = version.audio().downmix().slice(firstSample(), endSample());
    boolean whole = firstSample() == 0 && endSample() == clean.frames();
    return whole
        ? Intelligibility.of(shared.intelligible(), own)
        : Intelligibility.of(clean.downmix().slice(firstSample(), endSample()), own);
  }

  /** First sample of the excerpt that the version covers. */
  public long firstSample() {
    double from = version.match().coveredFrom() - source().startSeconds();
    return Math.max(0, Math.round(from * framing().sampleRate()));
  }

  /** Sample after the last of the excerpt that the version covers. */
  public long endSample() {
    double to = version.match().coveredTo() - source().startSeconds();
    return Math.min(source().audio().frames(), Math.round(to * framing().sampleRate()));
  }

  /** The frame that stands for a sample in blocks and slots. */
  public int frameOf(long sample) {
    return (int) Math.max(0, Math.min(framing().count() - 1L, sample / framing().hop()));
  }
}
