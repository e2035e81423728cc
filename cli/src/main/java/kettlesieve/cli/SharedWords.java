package kettlesieve.cli;

import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.List;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.Tags;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.work.ResultStore;

/** Words that several commands take. */
final class SharedWords {
  private SharedWords() {}

  /** The day that is shown; today for null. */
  static LocalDate day(String date) {
    try {
      return date == null ? LocalDate.now() : LocalDate.parse(date);
    } catch (DateTimeParseException e) {
      throw new UsageException("--date reads YYYY-MM-DD, not '" + date + "'");
    }
  }

  /** Tags that were told singly. */
  static List<String> tags(List<String> told) {
    if (!told.stream().allMatch(Tags::valid)) {
      throw new UsageException("--tag takes a word or a few, up to " + Tags.LONGEST + " letters");
    }
    return Tags.clean(told.stream());
  }

  /** What was measured before is taken from the cache, unless it is to be measured again. */
  static ResultStore store(boolean again) {
    return again ? ResultStore.inMemory() : ResultStore.standard();
  }

  /** How many comparisons are worked on at once; as many as there are processors for null. */
  static int jobs(Integer told) {
    if (told != null && told < 1) {
      throw new UsageException("--jobs is 1 or more");
    }
    return told == null ? Runtime.getRuntime().availableProcessors() : told;
  }

  /** Refuses a delivery profile that there is not; null is none. */
  static void checkProfile(String profile, Scoring scoring) {
    if (profile != null && scoring.profile(profile).isEmpty()) {
      throw new UsageException(
          "--profile is one of "
              + scoring.profiles().stream().map(Profile::name).collect(Collectors.joining(", ")));
    }
  }
}
