package kettlesieve.core.media;

import java.nio.file.Path;
import kettlesieve.core.audio.Audio;

/**
 * A decoded file.
 *
 * @param file where it was read from
 * @param facts what is known of the file
 * @param audio its samples, at its own rate
 */
public record Recording(Path file, MediaFacts facts, Audio audio) {
  /** Whether the file holds this and no other sound: then it may stand for it. */
  public boolean whole() {
    return facts.channels() == audio.channels() && facts.streams() == null;
  }

  /**
   * One channel of it alone.
   *
   * @param channel counted from 1; null for all
   * @throws MediaException if it has no such channel
   */
  public Recording only(Integer channel) throws MediaException {
    if (channel == null) {
      return this;
    }
    if (channel > facts.channels()) {
      throw new MediaException(
          file,
          "it has " + facts.channels() + " channels, and the comparison asks for number " + channel,
          "Choose another channel of it in Gather, or all.");
    }
    return new Recording(file, facts, Audio.only(audio, channel - 1));
  }
}
