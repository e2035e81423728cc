package kettlesieve.core.match;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.signal.Db;

/**
 * A stretched or shifted version: it keeps its own time, and a map tells where the source's moments
 * lie in it.
 *
 * @param match what was found and corrected
 * @param found what was found
 * @param asked what was asked of it
 * @param delivered the version as it came
 * @param audio in its own time at the source's rate, level not yet changed
 * @param fit where the moments of the source lie in it
 */
public record StretchedVersion(
    Match match, Found found, MatchSettings asked, Audio delivered, Audio audio, MapFit fit)
    implements Matched {
  /** From seconds of the source to seconds of the version. */
  public TimeMap map() {
    return fit.map();
  }

  /** The version in its own time, at the matched level. */
  public Audio levelled() {
    return audio.times(Db.toAmplitude(match.gainDb()));
  }
}
