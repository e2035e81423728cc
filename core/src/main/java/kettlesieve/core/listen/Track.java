package kettlesieve.core.listen;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.audio.TimeMap;

/**
 * One thing to listen to.
 *
 * @param matched with matched level
 * @param delivered at the level it came with
 * @param removed what the version took out; null where there is no such thing
 * @param map from the source's time to this track's own
 * @param stems the parts of a version in stems, by role; empty for others
 */
public record Track(
    Audio matched, Audio delivered, Audio removed, TimeMap map, Map<String, Audio> stems) {
  public Track {
    stems = Collections.unmodifiableMap(new LinkedHashMap<>(stems));
  }

  /** The source, or a clean recording: nothing was matched and nothing removed. */
  public static Track source(Audio source) {
    return new Track(source, source, null, TimeMap.IDENTITY, Map.of());
  }

  /** A version against its source. */
  public static Track version(Audio source, Audio matched, Audio delivered) {
    return new Track(
        matched,
        delivered,
        SumAudio.remainder(source, List.of(matched)),
        TimeMap.IDENTITY,
        Map.of());
  }

  /** A version with a time of its own. */
  public static Track stretched(Audio matched, Audio delivered, TimeMap map) {
    return new Track(matched, delivered, null, map, Map.of());
  }

  /** A version in stems against the mix. */
  public static Track stems(Audio mix, Map<String, Audio> stems) {
    List<Audio> fitted = stems.values().stream().map(a -> a.asChannels(mix.channels())).toList();
    Audio sum = SumAudio.of(fitted);
    return new Track(sum, sum, SumAudio.remainder(mix, List.of(sum)), TimeMap.IDENTITY, stems);
  }

  /** What sounds under the given settings. */
  TimedSound sound(boolean levelMatched, boolean onlyRemoved, Set<String> roles, Audio source) {
    if (!stems.isEmpty() && !roles.isEmpty()) {
      return TimedSound.of(someStems(onlyRemoved, roles, source));
    }
    if (onlyRemoved && removed != null) {
      return TimedSound.of(removed);
    }
    return new TimedSound(levelMatched ? matched : delivered, map);
  }

  private Audio someStems(boolean onlyRemoved, Set<String> roles, Audio source) {
    List<Audio> heard =
        stems.entrySet().stream()
            .filter(e -> roles.contains(e.getKey()))
            .map(e -> e.getValue().asChannels(source.channels()))
            .toList();
    Audio sum = heard.isEmpty() ? source.times(0) : SumAudio.of(heard);
    return onlyRemoved ? SumAudio.remainder(source, List.of(sum)) : sum;
  }
}
