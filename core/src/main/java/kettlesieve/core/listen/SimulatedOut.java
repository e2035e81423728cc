package kettlesieve.core.listen;

import java.util.Arrays;
import java.util.concurrent.locks.LockSupport;

/**
 * Stands in where there is no sound device: keeps the time that playing would take and remembers
 * the last minute of what would have been heard.
 */
public final class SimulatedOut implements SoundOut {
  private static final int REMEMBER_SECONDS = 60;

  private final boolean realTime;
  private int sampleRate = 48_000;
  private float[] left = new float[1 << 16];
  private float[] right = new float[1 << 16];
  private int recorded;
  private long startedNanos;
  private long taken;

  /**
   * @param realTime whether writing takes as long as listening would
   */
  public SimulatedOut(boolean realTime) {
    this.realTime = realTime;
  }

  @Override
  public String name() {
    return "simulated output";
  }

  @Override
  public boolean simulated() {
    return true;
  }

  @Override
  public synchronized void open(int rate) {
    sampleRate = rate;
    startedNanos = System.nanoTime();
    taken = 0;
  }

  @Override
  public void write(float[] l, float[] r, int frames) {
    remember(l, r, frames);
    if (realTime) {
      long due = startedNanos + taken * 1_000_000_000L / sampleRate;
      for (long left = due - System.nanoTime(); left > 0; left = due - System.nanoTime()) {
        LockSupport.parkNanos(left);
        if (Thread.currentThread().isInterrupted()) {
          return;
        }
      }
    }
  }

  private synchronized void remember(float[] l, float[] r, int frames) {
    if (recorded + frames > left.length) {
      if (left.length >= REMEMBER_SECONDS * sampleRate) {
        int keep = left.length / 2;
        System.arraycopy(left, recorded - keep, left, 0, keep);
        System.arraycopy(right, recorded - keep, right, 0, keep);
        recorded = keep;
      } else {
        left = Arrays.copyOf(left, left.length * 2);
        right = Arrays.copyOf(right, right.length * 2);
      }
    }
    System.arraycopy(l, 0, left, recorded, frames);
    System.arraycopy(r, 0, right, recorded, frames);
    recorded += frames;
    taken += frames;
  }

  /** What was heard on the left, oldest sample first. */
  public synchronized float[] heardLeft() {
    return Arrays.copyOf(left, recorded);
  }

  /** What was heard on the right, oldest sample first. */
  public synchronized float[] heardRight() {
    return Arrays.copyOf(right, recorded);
  }

  /** Forgets what was heard. */
  public synchronized void forget() {
    recorded = 0;
  }

  @Override
  public int pendingFrames() {
    return 0;
  }

  @Override
  public void close() {
    // There is nothing to let go of; what was heard stays readable.
  }
}
