package kettlesieve.core.listen;

import kettlesieve.core.signal.Audio;

/**
 * Renders what is heard: one recording at a time, with a crossfade of 10 ms whenever the recording
 * or the place changes, and at the seam of a loop. The fade is straight, because versions of one
 * source are alike: their sum keeps its level.
 *
 * <p>Used by one thread; {@link Player} puts a thread and a device behind it.
 */
public final class Deck {
  /** Length of a crossfade. */
  public static final double FADE_SECONDS = 0.010;

  private static final long HERE = -1;

  private final int fadeFrames;
  private Audio now;
  private long position;
  private Audio before;
  private long positionBefore;
  private int fadeLeft;
  private long loopFrom;
  private long loopTo = -1;
  private float[] other = new float[0];

  /** A change that came during a fade: it waits for the fade's end, or there would be a jump. */
  private boolean queued;

  private Audio queuedAudio;
  private long queuedFrame;

  public Deck(int sampleRate) {
    this.fadeFrames = Math.max(1, (int) Math.round(FADE_SECONDS * sampleRate));
  }

  /** Position of the next sample, in frames. */
  public long position() {
    return position;
  }

  /** Goes on with another recording in the same place; null is silence. */
  public void choose(Audio audio) {
    if (queued) {
      queuedAudio = audio;
    } else if (audio != now) {
      change(audio, HERE);
    }
  }

  /** Goes on in another place. */
  public void seek(long frame) {
    change(queued ? queuedAudio : now, Math.max(0, frame));
  }

  /** Begins with a recording, fading in from silence. */
  public void begin(Audio audio, long frame) {
    now = null;
    fadeTo(audio, Math.max(0, frame));
  }

  /**
   * Repeats a stretch for as long as the position is in it or before it.
   *
   * @param from first frame
   * @param to frame after the last; not over {@code from}: no loop
   */
  public void loop(long from, long to) {
    this.loopFrom = from;
    this.loopTo = to - from > 2L * fadeFrames ? to : -1;
    if (loopTo > 0 && position >= loopTo) {
      seek(loopFrom);
    }
  }

  /** Whether everything has been played. */
  public boolean atEnd() {
    if (queued) {
      return false;
    }
    return now == null && fadeLeft == 0 || now != null && loopTo < 0 && position >= now.frames();
  }

  private void change(Audio audio, long frame) {
    if (fadeLeft > 0) {
      queued = true;
      queuedAudio = audio;
      queuedFrame = frame;
    } else {
      fadeTo(audio, frame == HERE ? position : frame);
    }
  }

  private void fadeTo(Audio audio, long frame) {
    before = now;
    positionBefore = position;
    now = audio;
    position = frame;
    fadeLeft = fadeFrames;
  }

  /** Renders the next frames in stereo. */
  public void render(float[] left, float[] right, int frames) {
    int done = 0;
    while (done < frames) {
      if (queued && fadeLeft == 0) {
        queued = false;
        fadeTo(queuedAudio, queuedFrame == HERE ? position : queuedFrame);
      }
      int count = frames - done;
      if (loopTo > 0 && position <= loopTo - fadeFrames) {
        // The seam's fade ends where the loop does, so its period is exact.
        long untilSeam = loopTo - fadeFrames - position;
        if (untilSeam == 0 && fadeLeft == 0) {
          fadeTo(now, loopFrom - fadeFrames);
        } else if (untilSeam > 0) {
          count = (int) Math.min(count, untilSeam);
        } else {
          count = Math.min(count, fadeLeft);
        }
      } else if (loopTo > 0 && position < loopTo) {
        count = (int) Math.min(count, loopTo - position);
      } else if (loopTo > 0 && fadeLeft == 0) {
        fadeTo(now, loopFrom);
      }
      if (fadeLeft > 0) {
        count = Math.min(count, fadeLeft);
      }
      mix(left, 0, done, count);
      mix(right, 1, done, count);
      position += count;
      positionBefore += count;
      fadeLeft = Math.max(0, fadeLeft - count);
      done += count;
    }
  }

  private void mix(float[] into, int side, int offset, int count) {
    read(now, side, position, into, offset, count);
    if (fadeLeft == 0) {
      return;
    }
    if (other.length < count) {
      other = new float[count];
    }
    read(before, side, positionBefore, other, 0, count);
    for (int i = 0; i < count; i++) {
      float share = (fadeFrames - fadeLeft + i + 1f) / fadeFrames;
      into[offset + i] = share * into[offset + i] + (1 - share) * other[i];
    }
  }

  private static void read(Audio audio, int side, long at, float[] into, int offset, int count) {
    if (audio == null) {
      java.util.Arrays.fill(into, offset, offset + count, 0f);
    } else {
      audio.read(Math.min(side, audio.channels() - 1), at, into, offset, count);
    }
  }
}
