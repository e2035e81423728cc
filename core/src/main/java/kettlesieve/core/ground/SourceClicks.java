package kettlesieve.core.ground;

import java.util.Arrays;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Clicks;
import kettlesieve.core.signal.Framing;

/** Clicks of the source: where a detector by linear prediction finds impulses. */
public final class SourceClicks {
  /** Robust deviations of the residual from which on the source has a click. */
  public static final double DEVIATIONS = 18;

  private final long[][] positions;
  private final boolean[] frames;

  SourceClicks(Audio source, Framing framing) {
    this.positions = new long[source.channels()][];
    this.frames = new boolean[framing.count()];
    for (int c = 0; c < positions.length; c++) {
      positions[c] = Clicks.positions(source, c, DEVIATIONS);
      Clicks.mark(positions[c], framing, frames);
    }
  }

  /** Positions in a channel, samples from the start of the excerpt. */
  public long[] positions(int channel) {
    return positions[channel];
  }

  /** Whether there are any. */
  public boolean any() {
    return Arrays.stream(positions).anyMatch(p -> p.length > 0);
  }

  /** Whether a frame holds a click, in any channel. */
  public boolean in(int frame) {
    return frames[frame];
  }
}
