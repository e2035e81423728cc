package kettlesieve.core.measure.cells;

import kettlesieve.core.match.SourceMaterial;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.signal.Clicks;

/** Clicks of the source: where a detector by linear prediction finds impulses. */
public final class SourceClicks {
  /** Robust deviations of the residual from which on the source has a click. */
  public static final double DEVIATIONS = 18;

  /** Those of the excerpt. */
  public static final Analysis.OfSource<SourceClicks> OF = SourceClicks::new;

  private final long[][] positions;
  private final boolean[] frames;

  private SourceClicks(SourceAnalysis analysis) {
    SourceMaterial source = analysis.source();
    this.positions = new long[source.channels()][];
    this.frames = new boolean[source.framing().count()];
    for (int c = 0; c < positions.length; c++) {
      positions[c] = Clicks.positions(source.audio(), c, DEVIATIONS);
      Clicks.mark(positions[c], source.framing(), frames);
    }
  }

  /** Positions in a channel, samples from the start of the excerpt. */
  public long[] positions(int channel) {
    return positions[channel];
  }

  /** Whether a frame holds a click, in any channel. */
  public boolean in(int frame) {
    return frames[frame];
  }
}
