package kettlesieve.core.listen;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.signal.Biquad;

/**
 * What lies between the deck and the device: side, band. A change is crossfaded over 10 ms, so that
 * it does not click. Used by one thread.
 */
final class OutputChain {
  private final int sampleRate;
  private final int fadeFrames;
  private Stage now;
  private Stage before;
  private int fadeLeft;
  private float[] leftBefore = new float[0];
  private float[] rightBefore = new float[0];

  OutputChain(int sampleRate) {
    this.sampleRate = sampleRate;
    this.fadeFrames = Math.max(1, (int) Math.round(Deck.FADE_SECONDS * sampleRate));
    this.now = new Stage(Side.BOTH, null, sampleRate);
  }

  /** Changes what is heard; null for all frequencies. */
  void set(Side side, Band band) {
    if (side == now.side && java.util.Objects.equals(band, now.band)) {
      return;
    }
    before = now;
    now = new Stage(side, band, sampleRate);
    fadeLeft = fadeFrames;
  }

  /** Works on a block in place. */
  void process(float[] left, float[] right, int frames) {
    if (fadeLeft == 0) {
      now.process(left, right, frames);
      return;
    }
    leftBefore = java.util.Arrays.copyOf(left, frames);
    rightBefore = java.util.Arrays.copyOf(right, frames);
    before.process(leftBefore, rightBefore, frames);
    now.process(left, right, frames);
    for (int i = 0; i < frames && fadeLeft > 0; i++, fadeLeft--) {
      float share = (float) (fadeFrames - fadeLeft + 1) / fadeFrames;
      left[i] = share * left[i] + (1 - share) * leftBefore[i];
      right[i] = share * right[i] + (1 - share) * rightBefore[i];
      if (fadeLeft == 1) {
        before = null;
      }
    }
  }

  /** One setting with its filters' memories. */
  private static final class Stage {
    private final Side side;
    private final Band band;
    private final List<Biquad> filters = new ArrayList<>();
    private final double[][] memory;

    Stage(Side side, Band band, int rate) {
      this.side = side;
      this.band = band;
      if (band != null) {
        // Butterworth of the fourth order at each end: two sections with these qualities.
        for (double q : new double[] {0.541196, 1.306563}) {
          if (band.low() > 10) {
            filters.add(Biquad.highPass(Math.min(band.low(), 0.45 * rate), q, rate));
          }
          if (band.high() < 0.45 * rate) {
            filters.add(Biquad.lowPass(band.high(), q, rate));
          }
        }
      }
      memory = new double[2 * filters.size()][2];
    }

    void process(float[] left, float[] right, int frames) {
      if (side != Side.BOTH) {
        for (int i = 0; i < frames; i++) {
          float l = left[i];
          float r = right[i];
          left[i] = side.weight(0) * l + side.weight(1) * r;
          right[i] = side.weight(2) * l + side.weight(3) * r;
        }
      }
      for (int f = 0; f < filters.size(); f++) {
        run(filters.get(f), memory[2 * f], left, frames);
        run(filters.get(f), memory[2 * f + 1], right, frames);
      }
    }

    /** Transposed direct form II. */
    private static void run(Biquad f, double[] z, float[] x, int frames) {
      for (int i = 0; i < frames; i++) {
        double in = x[i];
        double out = f.b0() * in + z[0];
        z[0] = f.b1() * in - f.a1() * out + z[1];
        z[1] = f.b2() * in - f.a2() * out;
        x[i] = (float) out;
      }
    }
  }
}
