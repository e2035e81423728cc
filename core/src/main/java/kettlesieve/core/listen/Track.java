package kettlesieve.core.listen;

import kettlesieve.core.signal.Audio;

/**
 * One thing to listen to, on the source's time.
 *
 * @param matched with matched level
 * @param delivered at the level it came with
 * @param removed the source minus the matched version; null for the source itself
 */
public record Track(Audio matched, Audio delivered, Audio removed) {

  /** The source: nothing was matched and nothing removed. */
  public static Track source(Audio source) {
    return new Track(source, source, null);
  }

  /** A version against its source. */
  public static Track version(Audio source, Audio matched, Audio delivered) {
    return new Track(matched, delivered, new DifferenceAudio(source, matched));
  }

  /** What sounds under the given settings. */
  Audio audio(boolean levelMatched, boolean onlyRemoved) {
    if (onlyRemoved && removed != null) {
      return removed;
    }
    return levelMatched ? matched : delivered;
  }
}
