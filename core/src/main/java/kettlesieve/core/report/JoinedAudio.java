package kettlesieve.core.report;

import java.util.List;
import kettlesieve.core.audio.Audio;

/** Recordings one after another with silence between, each faded in and out within itself. */
final class JoinedAudio implements Audio {
  private static final double FADE_SECONDS = 0.010;

  private final List<Audio> pieces;
  private final int rate;
  private final int channels;
  private final long gap;
  private final double gain;
  private final long[] starts;

  JoinedAudio(List<Audio> pieces, int rate, int channels, long gap, double gain) {
    this.pieces = pieces;
    this.rate = rate;
    this.channels = channels;
    this.gap = gap;
    this.gain = gain;
    this.starts = new long[pieces.size() + 1];
    for (int i = 0; i < pieces.size(); i++) {
      starts[i + 1] = starts[i] + pieces.get(i).frames() + gap;
    }
  }

  @Override
  public int sampleRate() {
    return rate;
  }

  @Override
  public int channels() {
    return channels;
  }

  @Override
  public long frames() {
    return pieces.isEmpty() ? 0 : starts[pieces.size()] - gap;
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    java.util.Arrays.fill(into, offset, offset + length, 0f);
    for (int p = 0; p < pieces.size(); p++) {
      Audio piece = pieces.get(p);
      long first = Math.max(from, starts[p]);
      long end = Math.min(from + length, starts[p] + piece.frames());
      if (first >= end) {
        continue;
      }
      int at = offset + (int) (first - from);
      piece.read(channel, first - starts[p], into, at, (int) (end - first));
      for (long i = first; i < end; i++) {
        long within = i - starts[p];
        into[at + (int) (i - first)] *= (float) (gain * fade(within, piece.frames()));
      }
    }
  }

  /** Straight fades of 10 ms, or as long as half the piece. */
  private double fade(long at, long frames) {
    double length = Math.max(1, Math.min(FADE_SECONDS * rate, frames / 2.0));
    double edge = Math.min(at, frames - 1 - at);
    return Math.min(1, edge / length);
  }
}
