package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonInclude;

/**
 * A place in time and frequency with a note.
 *
 * @param id stays the same for as long as the mark is in its comparison
 * @param from seconds of the source's time
 * @param to seconds, not before {@code from}; the same for a moment
 * @param low Hz; null for the whole range
 * @param high Hz; null for the whole range
 * @param note what was heard
 * @param axis missed, added or lost; null if not said
 * @param version id of the version it was heard in; null for the source or all
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Mark(
    String id,
    double from,
    double to,
    Double low,
    Double high,
    String note,
    String axis,
    String version) {
  public Mark {
    if (!(from >= 0) || !(to >= from) || Double.isInfinite(to)) {
      throw new IllegalArgumentException("a mark lies at 0 or later and ends after its start");
    }
    note = note == null ? "" : note;
  }

  /** A moment, with nothing said of it yet. */
  public static Mark at(double seconds, String version) {
    return new Mark("", seconds, seconds, null, null, "", null, version);
  }

  /** The same with another id. */
  public Mark withId(String value) {
    return new Mark(value, from, to, low, high, note, axis, version);
  }

  /** The same with another note. */
  public Mark withNote(String value) {
    return new Mark(id, from, to, low, high, value, axis, version);
  }

  /** The same with another axis. */
  public Mark withAxis(String value) {
    return new Mark(id, from, to, low, high, note, value, version);
  }

  /** The same with another span. */
  public Mark withSpan(double newFrom, double newTo) {
    return new Mark(id, newFrom, newTo, low, high, note, axis, version);
  }

  /** The same with another band. */
  public Mark withBand(Double newLow, Double newHigh) {
    return new Mark(id, from, to, newLow, newHigh, note, axis, version);
  }
}
