package kettlesieve.app.model;

import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.listen.Track;
import kettlesieve.core.match.Heard;
import kettlesieve.core.match.Match;
import kettlesieve.core.match.Matched;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.match.StretchedVersion;

/**
 * A version ready to be heard and drawn.
 *
 * @param match what was found and corrected
 * @param matched on the source's polarity and level; on its time too, unless the map says otherwise
 * @param map from the source's time to that of {@code matched}
 * @param stems the matched stems by role; empty for a version in one file
 * @param track for the player
 * @param from as it was matched; null for a clean recording
 */
public record Prepared(
    Match match, Audio matched, TimeMap map, Map<String, Audio> stems, Track track, Matched from) {

  /** Of a version that was matched against a source. */
  static Prepared of(Matched matched, Audio source) {
    Heard heard = Heard.of(matched);
    Track track;
    if (matched instanceof MatchedVersion v) {
      track = Track.version(source, heard.audio(), v.alignedWhole());
    } else if (matched instanceof StretchedVersion v) {
      track = Track.stretched(heard.audio(), v.audio(), v.map());
    } else {
      track = Track.stems(source, heard.stems());
    }
    return new Prepared(matched.match(), heard.audio(), heard.map(), heard.stems(), track, matched);
  }

  /** As it sounds, for what leaves the program. */
  public Heard heard() {
    return new Heard(matched, map, stems);
  }
}
