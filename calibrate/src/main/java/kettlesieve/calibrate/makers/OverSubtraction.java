package kettlesieve.calibrate.makers;

import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Framing;

/** Subtracts six times the learned noise power, down to nothing: deliberately too much. */
final class OverSubtraction {
  private static final double FACTOR = 6;
  private static final double FLOOR = 1e-3;

  private OverSubtraction() {}

  static Audio process(Audio in, Audio sample) {
    int length = Framing.of(in).length() / 2;
    Frames framing = new Frames(length, length / 2);
    double[] noise = framing.meanPowers(sample.wholeChannel(0));
    float[][] frames = framing.of(in.wholeChannel(0));
    for (float[] frame : frames) {
      for (int k = 0; k < noise.length; k++) {
        Frames.scale(frame, k, gain(Frames.power(frame, k), noise[k]));
      }
    }
    return Audio.of(in.sampleRate(), framing.samples(frames, Math.toIntExact(in.frames())));
  }

  private static float gain(double power, double noise) {
    return (float) Math.sqrt(Math.max(FLOOR * FLOOR, 1 - FACTOR * noise / Math.max(power, 1e-30)));
  }
}
