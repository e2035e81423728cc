package kettlesieve.core.match;

/**
 * Where a version was found on the source's time, before anything that a person sets by hand.
 * Finding it is most of the work of matching; who has one from before may hand it in again.
 */
public sealed interface Placement permits Alignment, MapFit {}
