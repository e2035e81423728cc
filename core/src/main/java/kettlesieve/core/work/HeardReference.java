package kettlesieve.core.work;

import java.util.Optional;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.Matched;

/** The clean recording as it is listened to, matched once. Safe to use from several threads. */
final class HeardReference {
  private final PreparedExcerpt place;
  private final Audio clean;
  private Matched matched;

  /**
   * @param place on whose time and level
   * @param clean null if there is none
   */
  HeardReference(PreparedExcerpt place, Audio clean) {
    this.place = place;
    this.clean = clean;
  }

  synchronized Optional<Matched> matched() throws MatchException {
    if (matched == null && clean != null) {
      matched = place.match(clean, MatchOverride.NONE);
    }
    return Optional.ofNullable(matched);
  }
}
