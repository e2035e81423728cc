package kettlesieve.core.listen;

/** What happens at the end of each pass of a loop. */
public enum Turns {
  /** The same goes on. */
  STAY,
  /** The next version, all round and again; the source has its turn too. */
  NEXT,
  /** The source and the chosen version in turn. */
  WITH_SOURCE
}
