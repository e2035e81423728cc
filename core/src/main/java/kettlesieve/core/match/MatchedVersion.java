package kettlesieve.core.match;

import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Spectrogram;

/**
 * A version on the source's time, polarity and level.
 *
 * @param match what was found and corrected
 * @param found what was found
 * @param delivered the version as it came, at its own rate and level
 * @param alignedWhole the version on the source's whole time line, level not yet changed
 * @param aligned the same over the excerpt
 * @param spectra of {@code aligned}, one a channel; multiply powers by {@link #powerGain()}
 */
public record MatchedVersion(
    Match match,
    Found found,
    Audio delivered,
    Audio alignedWhole,
    Audio aligned,
    List<Spectrogram> spectra)
    implements Matched {

  /** What powers are to be multiplied by to have the matched level. */
  public double powerGain() {
    return Db.toPower(match.gainDb());
  }

  /** The version over the excerpt, matched in everything. */
  public Audio audio() {
    return aligned.times(Db.toAmplitude(match.gainDb()));
  }

  /** The version on the source's whole time line, matched in everything. */
  public Audio wholeAudio() {
    return alignedWhole.times(Db.toAmplitude(match.gainDb()));
  }
}
