package kettlesieve.core.measure.voice;

import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.signal.Clicks;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Framing;

/** Frames that hold clipped samples of the source, over all channels. */
public final class ClippedFrames {
  /** Those of the excerpt. */
  public static final Analysis.OfSource<ClippedFrames> OF = ClippedFrames::new;

  private final boolean[] clipped;
  private final boolean[] between;
  private final boolean declip;

  private ClippedFrames(SourceAnalysis analysis) {
    SourceMaterial source = analysis.source();
    Framing framing = source.framing();
    Clipping clipping = source.clipping();
    this.declip = analysis.job() == Job.DECLIP;
    this.clipped = holding(clipping, source.channels(), framing);
    this.between = new boolean[framing.count()];
    for (Clipping.Passage passage : clipping.passages()) {
      int first = frame(framing, passage.from() - 0.5);
      int last = frame(framing, passage.to() + 0.5);
      for (int t = first; t <= last; t++) {
        between[t] = !clipped[t];
      }
    }
  }

  /** Whether frames hold a clipped sample of any channel; tops are often longer than a hop. */
  static boolean[] holding(Clipping clipping, int channels, Framing framing) {
    boolean[] holding = new boolean[framing.count()];
    for (int c = 0; c < channels; c++) {
      for (int i = 0; i < clipping.runs(c); i++) {
        Clipping.Run run = clipping.run(c, i);
        long last = run.from() + run.length() - 1;
        for (long sample = run.from(); sample < last; sample += framing.hop()) {
          Clicks.mark(new long[] {sample}, framing, holding);
        }
        Clicks.mark(new long[] {last}, framing, holding);
      }
    }
    return holding;
  }

  private static int frame(Framing framing, double seconds) {
    long sample = Math.round(seconds * framing.sampleRate());
    return (int) Math.max(0, Math.min(framing.count() - 1L, sample / framing.hop()));
  }

  /** Whether a frame holds a clipped sample. */
  public boolean in(int frame) {
    return clipped[frame];
  }

  /**
   * Whether a frame lies within a clipped passage and holds no clipped sample itself: a repair has
   * no reason to change anything there.
   */
  public boolean between(int frame) {
    return between[frame];
  }

  /**
   * Whether a frame can tell what a version lost: in declipping, frames with clipped samples
   * cannot, because a good repair takes out the treble that clipping put in.
   */
  public boolean judges(int frame) {
    return !declip || !clipped[frame];
  }
}
