package kettlesieve.cli;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Windows;
import org.jtransforms.fft.FloatFFT_1D;

/**
 * The yardstick of the bench: powers of all frames of a recording, with transforms in Java. The
 * program itself transforms faster now; the yardstick stays what it was, so that figures of
 * different days can be set beside each other.
 */
final class StftPass {
  private static final int TILE = 64;

  private StftPass() {}

  /** Goes over all channels. */
  static void over(Audio audio) {
    Framing framing = Framing.of(audio);
    FloatFFT_1D transform = new FloatFFT_1D(framing.length());
    float[] window = Windows.hann(framing.length());
    for (int c = 0; c < audio.channels(); c++) {
      for (int first = 0; first < framing.count(); first += TILE) {
        powers(audio, c, framing, first, transform, window);
      }
    }
  }

  private static float[][] powers(
      Audio audio, int channel, Framing framing, int first, FloatFFT_1D transform, float[] window) {
    int count = Math.min(TILE, framing.count() - first);
    int hop = framing.hop();
    int length = framing.length();
    float[] samples =
        audio.samples(channel, (long) first * hop, (count - 1) * hop + framing.length());
    float[][] rows = new float[count][framing.bins()];
    float[] frame = new float[length];
    for (int f = 0; f < count; f++) {
      for (int i = 0; i < length; i++) {
        frame[i] = samples[f * hop + i] * window[i];
      }
      transform.realForward(frame);
      float[] row = rows[f];
      row[0] = frame[0] * frame[0];
      row[length / 2] = frame[1] * frame[1];
      for (int k = 1; k < length / 2; k++) {
        row[k] = 2 * (frame[2 * k] * frame[2 * k] + frame[2 * k + 1] * frame[2 * k + 1]);
      }
    }
    return rows;
  }
}
