package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.SumAudio;

/**
 * A version in stems, its sum put in the place and polarity of the mix. Levels are left alone: a
 * stem's own level is part of what is judged.
 *
 * @param match what was found and corrected for the sum
 * @param found where the sum was found
 * @param mix the whole source
 * @param stems by role, on the source's whole time line
 */
public record MatchedStems(Match match, Found found, Audio mix, Map<String, Audio> stems)
    implements Matched {
  public MatchedStems {
    stems = Collections.unmodifiableMap(new LinkedHashMap<>(stems));
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
