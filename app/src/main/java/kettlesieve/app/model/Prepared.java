package kettlesieve.app.model;

import kettlesieve.core.listen.Track;
import kettlesieve.core.match.Match;
import kettlesieve.core.signal.Audio;

/**
 * A version ready to be heard and drawn.
 *
 * @param match what was found and corrected
 * @param aligned on the source's time and polarity, level as it came
 * @param matched also at the source's level
 * @param track for the player
 */
public record Prepared(Match match, Audio aligned, Audio matched, Track track) {}
