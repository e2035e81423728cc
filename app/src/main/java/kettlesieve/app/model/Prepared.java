package kettlesieve.app.model;

import java.util.Map;
import kettlesieve.core.listen.Track;
import kettlesieve.core.match.Match;
import kettlesieve.core.match.Matched;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.match.StretchedVersion;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.TimeMap;

/**
 * A version ready to be heard and drawn.
 *
 * @param match what was found and corrected
 * @param matched on the source's polarity and level; on its time too, unless the map says otherwise
 * @param map from the source's time to that of {@code matched}
 * @param stems the matched stems by role; empty for a version in one file
 * @param track for the player
 */
public record Prepared(
    Match match, Audio matched, TimeMap map, Map<String, Audio> stems, Track track) {

  /** Of a version that was matched against a source. */
  static Prepared of(Matched matched, Audio source) {
    if (matched instanceof MatchedVersion v) {
      Audio audio = v.wholeAudio();
      return new Prepared(
          v.match(),
          audio,
          TimeMap.IDENTITY,
          Map.of(),
          Track.version(source, audio, v.alignedWhole()));
    }
    if (matched instanceof StretchedVersion v) {
      Audio audio = v.levelled();
      return new Prepared(
          v.match(), audio, v.map(), Map.of(), Track.stretched(audio, v.audio(), v.map()));
    }
    MatchedStems v = (MatchedStems) matched;
    return new Prepared(
        v.match(), v.sum(), TimeMap.IDENTITY, v.stems(), Track.stems(source, v.stems()));
  }
}
