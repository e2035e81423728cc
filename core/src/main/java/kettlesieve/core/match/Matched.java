package kettlesieve.core.match;

/** A version that can be heard and measured against its source. */
public sealed interface Matched permits MatchedVersion, StretchedVersion, MatchedStems {
  /** What was found and corrected. */
  Match match();

  /** What was found, before anything set by hand. */
  Found found();
}
