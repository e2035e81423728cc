package kettlesieve.core.listen;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;

/**
 * Something to play, and where the source's moments lie in it.
 *
 * @param audio in its own time
 * @param map from seconds of the source to seconds of {@code audio}
 */
record TimedSound(Audio audio, TimeMap map) {

  static TimedSound of(Audio audio) {
    return new TimedSound(audio, TimeMap.IDENTITY);
  }

  /** The frame that plays at a frame of the source. */
  long own(long sourceFrame) {
    return map.identity() ? sourceFrame : convert(sourceFrame, true);
  }

  /** The source's frame that belongs to a frame of this. */
  long source(long ownFrame) {
    return map.identity() ? ownFrame : convert(ownFrame, false);
  }

  private long convert(long frame, boolean forward) {
    double seconds = (double) frame / audio.sampleRate();
    double there = forward ? map.at(seconds) : map.inverse(seconds);
    return Math.round(there * audio.sampleRate());
  }
}
