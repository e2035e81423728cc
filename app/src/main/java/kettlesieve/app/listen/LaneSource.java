package kettlesieve.app.listen;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import kettlesieve.app.model.Prepared;
import kettlesieve.app.model.VersionState;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.match.Match;
import kettlesieve.core.media.Recording;

/**
 * What a lane draws. Far out the file itself is drawn through the place that was found for it, so
 * that its peaks need be read only once; close up the matched sound is drawn, to the sample.
 *
 * @param near the matched sound
 * @param nearMap from the source's time to {@code near}
 * @param far what is drawn from a distance
 * @param farMap from the source's time to {@code far}
 * @param factor on the amplitude of {@code far}, negative for an inverted file
 */
record LaneSource(Audio near, TimeMap nearMap, Audio far, TimeMap farMap, double factor) {

  /** A recording as it is. */
  static LaneSource of(Audio audio) {
    return new LaneSource(audio, TimeMap.IDENTITY, audio, TimeMap.IDENTITY, 1);
  }

  /** A version. */
  static LaneSource of(VersionState state, int sourceRate, Set<String> roles, Audio source) {
    Prepared p = state.prepared();
    if (!p.stems().isEmpty()) {
      return of(stems(p.stems(), roles, source));
    }
    Recording recording = state.recording();
    Match m = p.match();
    double factor = Math.pow(10, m.gainDb() / 20) * m.polarity();
    if (!p.map().identity()) {
      return new LaneSource(p.matched(), p.map(), recording.audio(), p.map(), factor);
    }
    TimeMap place = TimeMap.line(m.delaySamples() / sourceRate, 1 + m.driftPpm() * 1e-6);
    return new LaneSource(p.matched(), TimeMap.IDENTITY, recording.audio(), place, factor);
  }

  static Audio stems(Map<String, Audio> stems, Set<String> roles, Audio source) {
    List<Audio> heard = new ArrayList<>();
    stems.forEach(
        (role, audio) -> {
          if (roles.isEmpty() || roles.contains(role)) {
            heard.add(audio.asChannels(source.channels()));
          }
        });
    return heard.isEmpty() ? source.times(0) : SumAudio.of(heard);
  }

  /** The same in its own time: a moment of the axis is a moment of the recording. */
  LaneSource inOwnTime() {
    return new LaneSource(near, TimeMap.IDENTITY, far, TimeMap.IDENTITY, factor);
  }
}
