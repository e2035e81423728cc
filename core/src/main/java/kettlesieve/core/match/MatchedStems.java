package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.comparison.RoleSum;

/**
 * A version in stems, its sum put in the place and polarity of the mix. Levels are left alone: a
 * stem's own level is part of what is judged.
 *
 * @param match what was found and corrected for the sum
 * @param found where the sum was found
 * @param mix the whole source
 * @param stems by role, on the source's whole time line
 * @param formed by role, what was formed of stems: sums, and the mix without some
 * @param chains by role, the steps before a stem that was taken from another
 */
public record MatchedStems(
    Match match,
    Found found,
    Audio mix,
    Map<String, Audio> stems,
    Map<String, Audio> formed,
    Map<String, List<Step>> chains)
    implements Matched {
  /**
   * An earlier step of the chain that a stem came out of.
   *
   * @param words what it is, for people
   * @param audio on the source's whole time line
   */
  public record Step(String words, Audio audio) {}

  public MatchedStems {
    stems = Collections.unmodifiableMap(new LinkedHashMap<>(stems));
    formed = Collections.unmodifiableMap(new LinkedHashMap<>(formed));
    chains = Collections.unmodifiableMap(new LinkedHashMap<>(chains));
  }

  /** Stems as a tool gave them. */
  MatchedStems(Match match, Found found, Audio mix, Map<String, Audio> stems) {
    this(match, found, mix, stems, Map.of(), Map.of());
  }

  /** With the sums and remainders that can be formed of its stems, but for those it has itself. */
  public MatchedStems forming(List<RoleSum> sums) {
    Map<String, Audio> more = new LinkedHashMap<>();
    for (RoleSum sum : sums) {
      if (has(sum) && !stems.containsKey(sum.role())) {
        more.put(sum.role(), of(sum));
      }
    }
    return new MatchedStems(match, found, mix, stems, more, chains);
  }

  /** With the steps that its stems came out of, the first one first, by role. */
  public MatchedStems withChains(Map<String, List<Step>> value) {
    return new MatchedStems(match, found, mix, stems, formed, value);
  }

  /** Its stems and what was formed of them, by role. */
  public Map<String, Audio> parts() {
    Map<String, Audio> all = new LinkedHashMap<>(stems);
    all.putAll(formed);
    return all;
  }

  /** The stems of some roles together; roles that are not there are left out. */
  public Audio sum(Iterable<String> roles) {
    List<Audio> parts = new ArrayList<>();
    roles.forEach(
        r -> {
          if (stems.containsKey(r)) {
            parts.add(stems.get(r).asChannels(mix.channels()));
          }
        });
    return parts.isEmpty() ? mix.times(0) : SumAudio.of(parts);
  }

  /** All stems together. */
  public Audio sum() {
    return sum(stems.keySet());
  }

  /** The mix without the stems of some roles. */
  public Audio remainder(Iterable<String> roles) {
    return SumAudio.remainder(mix, List.of(sum(roles)));
  }

  /** Whether all that a sum is made of is there. */
  public boolean has(RoleSum sum) {
    return stems.keySet().containsAll(sum.roles());
  }

  /** A role made of others. */
  public Audio of(RoleSum sum) {
    return sum.remainder() ? remainder(sum.roles()) : sum(sum.roles());
  }
}
