package kettlesieve.core.match;

/** Where a version was found on the source's time, before anything that a person sets by hand. */
public sealed interface Placement permits Alignment, MapFit {}
