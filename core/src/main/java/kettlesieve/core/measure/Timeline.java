package kettlesieve.core.measure;

import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.Framing;

/**
 * How the frames of an excerpt are gathered: into blocks of one second for the bootstrap, and into
 * slots of about a tenth of a second for traces and spots. Excerpts over four minutes have 240
 * longer blocks, which keeps the bootstrap affordable and is the more cautious choice.
 */
public final class Timeline {
  private static final int MOST_BLOCKS = 240;

  private final Framing framing;
  private final double startSeconds;
  private final int blocks;
  private final int slotFrames;

  Timeline(SourceMaterial source) {
    this.framing = source.framing();
    this.startSeconds = source.startSeconds();
    int seconds = (int) Math.max(1, Math.floor(source.audio().seconds()));
    this.blocks = Math.min(MOST_BLOCKS, seconds);
    this.slotFrames = framing.framesIn(0.1);
  }

  /** Number of frames. */
  public int frames() {
    return framing.count();
  }

  /** Number of bootstrap blocks. */
  public int blocks() {
    return blocks;
  }

  /** The bootstrap block of a frame. */
  public int block(int frame) {
    return (int) ((long) frame * blocks / Math.max(1, framing.count()));
  }

  /** Number of slots. */
  public int slots() {
    return (framing.count() + slotFrames - 1) / slotFrames;
  }

  /** The slot of a frame. */
  public int slot(int frame) {
    return frame / slotFrames;
  }

  /** The bootstrap block of a slot. */
  public int blockOfSlot(int slot) {
    return block(slot * slotFrames);
  }

  /** First second of a slot, in the source's time. */
  public double slotStart(int slot) {
    return startSeconds + framing.startSeconds(slot * slotFrames);
  }

  /** Time of a slot's middle, in the source's time. */
  public double slotMiddle(int slot) {
    return startSeconds
        + framing.centreSeconds(slot * slotFrames)
        + (slotFrames - 1) / 2.0 * framing.hopSeconds();
  }

  /** Just after the last second of a slot, in the source's time. */
  public double slotEnd(int slot) {
    int last = Math.min(framing.count(), (slot + 1) * slotFrames) - 1;
    return startSeconds + framing.endSeconds(last);
  }
}
