package kettlesieve.core.measure;

/** What measures are taken of: a version that was matched in the way its job asks for. */
public sealed interface Subject permits Pair, StemSet, StretchedPair {
  /** What it is, in words, for the reason why a measure cannot be taken of it. */
  String words();

  /** Whether the clean recording is at hand. */
  boolean hasReference();
}
