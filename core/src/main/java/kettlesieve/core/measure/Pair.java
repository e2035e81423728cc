package kettlesieve.core.measure;

import java.util.Optional;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.FrameRange;
import kettlesieve.core.ground.Ground;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;
import kettlesieve.core.task.Stop;

/**
 * A matched version beside its source: what every measure is given. Analyses that several measures
 * need are worked out once, when the first asks for them. Used by one thread at a time; what
 * belongs to the source alone is shared between pairs.
 */
public final class Pair implements Subject {
  /** In bands, gains below this count as this: a silent version is not infinitely quieter. */
  public static final double GAIN_FLOOR_DB = -60;

  private final SourceAnalysis source;
  private final MatchedVersion version;
  private final Stop stop;
  private final int firstFrame;
  private final int endFrame;
  private final Memo shared = new Memo();

  /**
   * @param source what belongs to the source, the same object for all its versions
   * @param version matched against the same source material
   */
  public Pair(SourceAnalysis source, MatchedVersion version) {
    this(source, version, Stop.NEVER);
  }

  /**
   * The same for work that may be given up.
   *
   * @param stop asked by whoever walks over the whole of it
   */
  public Pair(SourceAnalysis source, MatchedVersion version, Stop stop) {
    this.source = source;
    this.stop = stop;
    this.version = version;
    FrameRange range =
        FrameRange.covered(
            framing(),
            source.source().startSeconds(),
            version.match().coveredFrom(),
            version.match().coveredTo());
    this.firstFrame = range.first();
    this.endFrame = range.end();
  }

  @Override
  public String words() {
    return "a version on the source's time";
  }

  @Override
  public boolean hasReference() {
    return source.reference().isPresent();
  }

  /** What becomes of a power, in dB, not below {@link #GAIN_FLOOR_DB}. */
  public static double gainDb(double from, double to) {
    return Math.max(GAIN_FLOOR_DB, Db.ofPower(Math.max(to, 1e-30) / Math.max(from, 1e-30)));
  }

  /** Asked by whoever walks over the whole of it. */
  public Stop stop() {
    return stop;
  }

  /** The analysed source. */
  public SourceMaterial source() {
    return source.source();
  }

  /** The matched version. */
  public MatchedVersion version() {
    return version;
  }

  /** Frames of the excerpt. */
  public Framing framing() {
    return source().framing();
  }

  /** How frames are gathered. */
  public Timeline timeline() {
    return source.timeline();
  }

  /** Draws for the blocks of the excerpt. */
  public Bootstrap bootstrap() {
    return source.bootstrap();
  }

  /** Third-octave bands of the framing. */
  public ThirdOctaveBands bands() {
    return source.bands();
  }

  /** Number of channels that are compared. */
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
    return source.reference();
  }

  /**
   * The clean recording, for a measure that cannot do without.
   *
   * @throws NotMeasurableException if there is none
   */
  public Audio needReference() throws NotMeasurableException {
    return reference().orElseThrow(() -> new NotMeasurableException("no reference"));
  }

  /**
   * What is wanted and what is quiet.
   *
   * @throws NotMeasurableException if that cannot be told
   */
  public Ground ground() throws NotMeasurableException {
    Ground ground = source().ground();
    Optional<String> problem = ground.problem();
    if (problem.isPresent()) {
      throw new NotMeasurableException(problem.get());
    }
    return ground;
  }

  /** What was done to the source. */
  public Job job() {
    return source.job();
  }

  /**
   * What a family of measures needs of this pair, worked out when the first asks for it.
   *
   * @throws NotMeasurableException if it cannot be worked out
   */
  public <T> T shared(Analysis<T> analysis) throws NotMeasurableException {
    return shared.get(analysis, () -> analysis.of(this));
  }

  /**
   * The same of the source alone, worked out once for all its versions.
   *
   * @throws NotMeasurableException if it cannot be worked out
   */
  public <T> T ofSource(Analysis.OfSource<T> analysis) throws NotMeasurableException {
    return source.shared(analysis);
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
