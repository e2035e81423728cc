package kettlesieve.core.listen;

import java.io.IOException;

/** Where sound goes: a device, or something that stands in for one. Used by one thread. */
public interface SoundOut extends AutoCloseable {
  /** What it is, for people. */
  String name();

  /** Whether nothing is really heard. */
  boolean simulated();

  /**
   * Makes ready to take stereo sound.
   *
   * @throws IOException if there is no device that takes it; the message says why
   */
  void open(int sampleRate) throws IOException;

  /**
   * Takes a block, and returns when there is room for the next.
   *
   * @throws IOException if the device was lost
   */
  void write(float[] left, float[] right, int frames) throws IOException;

  /** Frames taken but not yet heard. */
  int pendingFrames();

  /** Lets go of the device at once. */
  @Override
  void close();
}
