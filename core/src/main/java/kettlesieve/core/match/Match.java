package kettlesieve.core.match;

import java.util.List;

/**
 * What was found and corrected before a version is heard or measured.
 *
 * @param delaySamples how late the version is at the source's first sample, in samples of the
 *     source's rate (positive: it comes later)
 * @param delayMs the same in milliseconds
 * @param polarity 1, or −1 for an inverted version
 * @param driftPpm how much longer the version runs, in parts per million
 * @param gainDb what is added to the version's level
 * @param ratio the version's length over the source's
 * @param confidence that this is the same recording, 0 to 1
 * @param originalRate the version's own sample rate, Hz
 * @param originalChannels the version's own number of channels
 * @param levelBasis what the level was matched on, in words
 * @param coveredFrom first second of the source that the version covers
 * @param coveredTo last second of the source that the version covers
 * @param notes what was unfair and what was done about it
 * @param warnings what the person should look at
 */
public record Match(
    double delaySamples,
    double delayMs,
    int polarity,
    double driftPpm,
    double gainDb,
    double ratio,
    double confidence,
    int originalRate,
    int originalChannels,
    String levelBasis,
    double coveredFrom,
    double coveredTo,
    List<String> notes,
    List<String> warnings) {
  public Match {
    notes = List.copyOf(notes);
    warnings = List.copyOf(warnings);
  }
}
