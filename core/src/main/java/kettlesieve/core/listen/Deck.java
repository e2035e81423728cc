package kettlesieve.core.listen;

import java.util.List;
import java.util.function.UnaryOperator;
import kettlesieve.core.audio.Audio;

/**
 * Renders what is heard: one recording at a time, with a crossfade of 10 ms whenever the recording
 * or the place changes, and at the seam of a loop. The fade is straight, because versions of one
 * source are alike: their sum keeps its level.
 *
 * <p>All places are given in frames of the source. A stretched version is played in its own time;
 * its map tells where the source's moments lie, so that a switch lands on the same word.
 *
 * <p>Used by one thread; {@link Player} puts a thread and a device behind it.
 */
public final class Deck {
  /** Length of a crossfade. */
  public static final double FADE_SECONDS = 0.010;

  private static final long HERE = -1;

  /**
   * A stretch of the source's time that is played.
   *
   * @param from first frame
   * @param to frame after the last
   */
  public record Stretch(long from, long to) {}

  private final int fadeFrames;
  private TimedSound now;
  private long position;
  private TimedSound before;
  private long positionBefore;
  private int fadeLeft;
  private List<Stretch> loop = List.of();
  private int inLoop;
  private UnaryOperator<TimedSound> atPass = UnaryOperator.identity();
  private float[] other = new float[0];

  /** A change that came during a fade: it waits for the fade's end, or there would be a jump. */
  private boolean queued;

  private TimedSound queuedSound;
  private long queuedFrame;

  /** A deck with nothing on it, at a rate in Hz. */
  public Deck(int sampleRate) {
    this.fadeFrames = Math.max(1, (int) Math.round(FADE_SECONDS * sampleRate));
  }

  /** Position of the next sample, in frames of the source. */
  public long position() {
    return now == null ? position : now.source(position);
  }

  /** Goes on with another recording in the same place; null is silence. */
  public void choose(Audio audio) {
    choose(audio == null ? null : TimedSound.of(audio));
  }

  /** Goes on with another recording at the same moment of the source; null is silence. */
  void choose(TimedSound sound) {
    if (queued) {
      queuedSound = sound;
    } else if (!java.util.Objects.equals(sound, now)) {
      change(sound, HERE);
    }
  }

  /** Goes on in another place. */
  public void seek(long frame) {
    change(queued ? queuedSound : now, Math.max(0, frame));
  }

  /** Begins with a recording, fading in from silence. */
  public void begin(Audio audio, long frame) {
    begin(audio == null ? null : TimedSound.of(audio), frame);
  }

  void begin(TimedSound sound, long frame) {
    now = null;
    fadeTo(sound, Math.max(0, frame));
  }

  /**
   * Repeats a stretch for as long as the position is in it or before it.
   *
   * @param from first frame
   * @param to frame after the last; not over {@code from}: no loop
   */
  public void loop(long from, long to) {
    loop(List.of(new Stretch(from, to)));
  }

  /**
   * Plays stretches one after the other, again and again. Those shorter than two fades are left
   * out.
   *
   * @param stretches in their order; empty for no loop
   */
  public void loop(List<Stretch> stretches) {
    loop = stretches.stream().filter(s -> s.to() - s.from() > 2L * fadeFrames).toList();
    inLoop = 0;
    long place = position();
    for (int i = 0; i < loop.size(); i++) {
      if (place >= loop.get(i).from() && place < loop.get(i).to()) {
        inLoop = i;
        return;
      }
    }
    if (!loop.isEmpty() && (loop.size() > 1 || place >= loop.get(0).to())) {
      seek(loop.get(0).from());
    }
  }

  /** Asked at the end of each pass through the whole loop for what sounds in the next. */
  void atPass(UnaryOperator<TimedSound> next) {
    this.atPass = next;
  }

  /** Whether everything has been played. */
  public boolean atEnd() {
    if (queued) {
      return false;
    }
    return now == null && fadeLeft == 0
        || now != null && loop.isEmpty() && position >= now.audio().frames();
  }

  private void change(TimedSound sound, long sourceFrame) {
    if (fadeLeft > 0) {
      queued = true;
      queuedSound = sound;
      queuedFrame = sourceFrame;
    } else {
      fadeTo(sound, sourceFrame == HERE ? position() : sourceFrame);
    }
  }

  private void fadeTo(TimedSound sound, long sourceFrame) {
    before = now;
    positionBefore = position;
    now = sound;
    position = sound == null ? sourceFrame : sound.own(sourceFrame);
    fadeLeft = fadeFrames;
  }

  /** Begins the next stretch so that its first sample comes when the fade is over. */
  private void nextStretch(boolean early) {
    TimedSound next = now;
    inLoop++;
    if (inLoop >= loop.size()) {
      inLoop = 0;
      next = atPass.apply(now);
    }
    fadeTo(next, loop.get(inLoop).from());
    if (early) {
      position -= fadeFrames;
    }
  }

  /** Renders the next frames in stereo. */
  public void render(float[] left, float[] right, int frames) {
    int done = 0;
    while (done < frames) {
      if (queued && fadeLeft == 0) {
        queued = false;
        fadeTo(queuedSound, queuedFrame == HERE ? position() : queuedFrame);
      }
      int count = frames - done;
      if (!loop.isEmpty() && now != null) {
        count = untilSeam(count);
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

  /** How many frames may be rendered in one go; goes on to the next stretch where one ends. */
  private int untilSeam(int wanted) {
    long end = now.own(loop.get(inLoop).to());
    if (position <= end - fadeFrames) {
      // The seam's fade ends where the stretch does, so the loop's period is exact.
      long untilSeam = end - fadeFrames - position;
      if (untilSeam == 0 && fadeLeft == 0) {
        nextStretch(true);
      } else if (untilSeam > 0) {
        return (int) Math.min(wanted, untilSeam);
      }
      return fadeLeft > 0 ? Math.min(wanted, fadeLeft) : wanted;
    }
    if (position < end) {
      return (int) Math.min(wanted, end - position);
    }
    if (fadeLeft == 0) {
      nextStretch(false);
    }
    return wanted;
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

  private static void read(
      TimedSound sound, int side, long at, float[] into, int offset, int count) {
    if (sound == null) {
      java.util.Arrays.fill(into, offset, offset + count, 0f);
    } else {
      Audio audio = sound.audio();
      audio.read(Math.min(side, audio.channels() - 1), at, into, offset, count);
    }
  }
}
