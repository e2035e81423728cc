package kettlesieve.app.model;

import java.util.Optional;
import java.util.function.Function;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.Recording;

/** The part of the source that every version covers. */
public final class CommonPart {
  /** Less than this is missing in every export. */
  private static final double WORTH_SECONDS = 0.25;

  private static final double LEAST_SECONDS = 0.5;

  private CommonPart() {}

  /**
   * The part, where it is noticeably less than what is compared now.
   *
   * @param source of the comparison; null as long as it is not read
   * @param states how far the versions have come
   */
  public static Optional<TimeSpan> of(
      Comparison comparison, Recording source, Function<String, VersionState> states) {
    if (source == null || comparison.together()) {
      return Optional.empty();
    }
    TimeSpan now = comparison.excerpt();
    double from = now == null ? 0 : now.from();
    double to = now == null ? source.audio().seconds() : now.to();
    double first = from;
    double last = to;
    for (Version v : comparison.versions()) {
      Prepared prepared = states.apply(v.id()).prepared();
      if (prepared != null) {
        first = Math.max(first, prepared.match().coveredFrom());
        last = Math.min(last, prepared.match().coveredTo());
      }
    }
    boolean less = first - from > WORTH_SECONDS || to - last > WORTH_SECONDS;
    return less && last - first >= LEAST_SECONDS
        ? Optional.of(new TimeSpan(Math.ceil(100 * first) / 100, Math.floor(100 * last) / 100))
        : Optional.empty();
  }
}
