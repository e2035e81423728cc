package kettlesieve.core.score;

import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.media.MediaFacts;

/**
 * A version with its readings, not yet scored.
 *
 * @param id the version's id in its comparison
 * @param label its name
 * @param file its file
 * @param facts of the file
 * @param match what was corrected
 * @param readings what was measured
 * @param notMeasured what could not be, and why
 */
public record Measured(
    String id,
    String label,
    Path file,
    MediaFacts facts,
    Match match,
    List<Reading> readings,
    List<NotMeasured> notMeasured) {}
