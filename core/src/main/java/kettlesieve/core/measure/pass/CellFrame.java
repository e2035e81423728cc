package kettlesieve.core.measure.pass;

import kettlesieve.core.ground.CellMask;
import kettlesieve.core.ground.Ground;
import kettlesieve.core.ground.NoiseEstimate;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.signal.BoxMean;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Spectrogram;

/** One frame of one channel during a {@link CellPass}, source beside version. */
public final class CellFrame {
  private final Pair pair;
  private final Ground ground;
  private final PhasesKept phases;
  private final NoiseEstimate covering;
  private final Spectrogram sourceSpectrum;
  private final Spectrogram versionSpectrum;
  private final CellMask wanted;
  private final CellMask unwanted;
  private final BoxMean sourceMean;
  private final BoxMean versionMean;
  private final float gain;
  private int frame;
  private int block;
  private float[] lost;
  private float[] source;
  private float[] version;
  private float[] noise;
  private Smoothed smoothed;

  CellFrame(Pair pair, Ground ground, int channel, PhasesKept phases) {
    this.pair = pair;
    this.phases = phases;
    this.ground = ground;
    this.covering = ground.covering(channel);
    this.sourceSpectrum = pair.source().spectrum(channel);
    this.versionSpectrum = pair.versionSpectrum(channel);
    this.wanted = ground.wanted(channel);
    this.unwanted = ground.unwanted(channel);
    int bins = pair.framing().bins();
    this.sourceMean = new BoxMean(2, bins, pair.framing().count(), sourceSpectrum::powers);
    this.versionMean = new BoxMean(2, bins, pair.endFrame(), versionSpectrum::powers);
    this.gain = (float) pair.version().powerGain();
  }

  void moveTo(int t) {
    frame = t;
    smoothed = null;
    block = pair.timeline().block(t);
    lost = phases.shares(block);
    noise = covering.moveTo(t);
    source = sourceSpectrum.powers(t);
    version = versionSpectrum.powers(t);
  }

  /** Which frame it is. */
  public int frame() {
    return frame;
  }

  /** The bootstrap block of the frame. */
  public int block() {
    return block;
  }

  /** Number of bins. */
  public int bins() {
    return source.length;
  }

  /** Whether the wanted sound goes on in this frame. */
  public boolean active() {
    return ground.active(frame);
  }

  /** Whether a cell holds wanted sound. */
  public boolean wanted(int bin) {
    return wanted.has(frame, bin);
  }

  /** The first bin from one on that holds wanted sound; −1 if there is none. */
  public int nextWanted(int from) {
    return wanted.next(frame, from);
  }

  /** The first bin from one on that holds nothing wanted; −1 if there is none. */
  public int nextUnwanted(int from) {
    return unwanted.next(frame, from);
  }

  boolean unwanted(int bin) {
    return unwanted.has(frame, bin);
  }

  /** Power of the source in a cell. */
  public float source(int bin) {
    return source[bin];
  }

  /** Power of the version in a cell, matched. */
  public float version(int bin) {
    return gain * version[bin];
  }

  /**
   * Power of the version in a wanted cell, matched, as far as what it lacks is a loss: see {@link
   * PhasesKept}.
   */
  public float kept(int bin) {
    float own = gain * version[bin];
    if (own >= source[bin]) {
      return own;
    }
    int band = pair.bands().ofBin(bin);
    return band < 0 || lost[band] == 1 ? own : source[bin] + lost[band] * (own - source[bin]);
  }

  /** Which share of what is taken away from a band in this frame is a loss. */
  public float lost(int band) {
    return lost[band];
  }

  /** Powers of the source by bin, not to be changed. */
  public float[] source() {
    return source;
  }

  /** Powers of the version by bin, not matched, not to be changed; see {@link #gain}. */
  public float[] version() {
    return version;
  }

  /** Powers of what is not wanted by bin, not to be changed. */
  public float[] noise() {
    return noise;
  }

  /** What the version's powers are to be multiplied by to be matched. */
  public float gain() {
    return gain;
  }

  /** Power of what is not wanted in a cell. */
  public float noise(int bin) {
    return noise[bin];
  }

  /** Gain of the 5×5 means around each bin of the frame, matched, dB. */
  public Smoothed smoothed() {
    if (smoothed == null) {
      smoothed = new Smoothed(sourceMean.row(frame), versionMean.row(frame), gain);
    }
    return smoothed;
  }

  /** Means over 5×5 cells along a frame. */
  public record Smoothed(float[] source, float[] version, float gain) {
    private static final float LEAST = 1e-30f;

    /** Gain of the smoothed powers, version over source, dB. */
    public double gainDb(int bin) {
      float ratio = Math.max(gain * version[bin], LEAST) / Math.max(source[bin], LEAST);
      return Math.max(Pair.GAIN_FLOOR_DB, Db.nearlyOfPower(Math.max(ratio, LEAST)));
    }
  }
}
