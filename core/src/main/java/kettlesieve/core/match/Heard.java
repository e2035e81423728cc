package kettlesieve.core.match;

import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;

/**
 * A version as it sounds beside its source.
 *
 * @param audio on the source's polarity and level; on its time too, unless the map says otherwise
 * @param map from the source's time to that of {@code audio}
 * @param stems by role, levels as delivered; empty for a version in one file
 */
public record Heard(Audio audio, TimeMap map, Map<String, Audio> stems) {
  /** Of a version that was matched. */
  public static Heard of(Matched matched) {
    if (matched instanceof MatchedVersion v) {
      return new Heard(v.wholeAudio(), TimeMap.IDENTITY, Map.of());
    }
    if (matched instanceof StretchedVersion v) {
      return new Heard(v.levelled(), v.map(), Map.of());
    }
    MatchedStems v = (MatchedStems) matched;
    return new Heard(v.sum(), TimeMap.IDENTITY, v.stems());
  }

  /** What of it lies between two seconds of the source, one sample at least. */
  public Audio between(double from, double to) {
    int rate = audio.sampleRate();
    return cut(audio, Math.round(Math.max(0, map.at(from)) * rate), Math.round(map.at(to) * rate));
  }

  /** The same of a stem; null if there is none of the role. */
  public Audio between(String role, double from, double to) {
    Audio stem = stems.get(role);
    int rate = audio.sampleRate();
    return stem == null ? null : cut(stem, Math.round(from * rate), Math.round(to * rate));
  }

  private static Audio cut(Audio of, long from, long to) {
    return of.slice(from, Math.max(from + 1, Math.min(of.frames(), to)));
  }
}
