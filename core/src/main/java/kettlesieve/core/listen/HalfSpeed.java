package kettlesieve.core.listen;

/**
 * Plays at half the speed, an octave lower, as a tape would: every sample is followed by one in
 * between, interpolated by a windowed sinc over 32 samples. Used by one thread.
 */
final class HalfSpeed {
  private static final int TAPS = 32;
  private static final float[] KERNEL = kernel();

  private final float[] leftPast = new float[TAPS];
  private final float[] rightPast = new float[TAPS];

  private static float[] kernel() {
    float[] kernel = new float[TAPS];
    double sum = 0;
    for (int i = 0; i < TAPS; i++) {
      double x = i - TAPS / 2.0 + 0.5;
      double window = Math.pow(Math.cos(Math.PI * x / TAPS), 2);
      kernel[i] = (float) (Math.sin(Math.PI * x) / (Math.PI * x) * window);
      sum += kernel[i];
    }
    for (int i = 0; i < TAPS; i++) {
      kernel[i] /= (float) sum;
    }
    return kernel;
  }

  /** Turns {@code frames} samples into twice as many. */
  void process(float[] left, float[] right, int frames, float[] leftOut, float[] rightOut) {
    stretch(left, leftPast, frames, leftOut);
    stretch(right, rightPast, frames, rightOut);
  }

  private static void stretch(float[] in, float[] past, int frames, float[] out) {
    float[] line = new float[TAPS + frames];
    System.arraycopy(past, 0, line, 0, TAPS);
    System.arraycopy(in, 0, line, TAPS, frames);
    for (int i = 0; i < frames; i++) {
      out[2 * i] = line[i + TAPS / 2];
      float sum = 0;
      for (int k = 0; k < TAPS; k++) {
        sum += KERNEL[k] * line[i + 1 + k];
      }
      out[2 * i + 1] = sum;
    }
    System.arraycopy(line, frames, past, 0, TAPS);
  }
}
