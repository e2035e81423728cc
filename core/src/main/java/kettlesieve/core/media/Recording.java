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
public record Recording(Path file, MediaFacts facts, Audio audio) {}
