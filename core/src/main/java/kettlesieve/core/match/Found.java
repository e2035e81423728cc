package kettlesieve.core.match;

/**
 * What looking for a version found, before anything that a person sets by hand: kept, it spares
 * looking again.
 *
 * @param place where it was found
 * @param levelAt the place at which the level was matched, which may have been set by hand; null
 *     where the level does not depend on it
 * @param level what its level was matched on; null where levels are left alone
 */
public record Found(Placement place, Alignment levelAt, LevelMatch level) {
  /** The alignment of something found before; null if nothing was. */
  static Alignment alignment(Found before) {
    return before != null && before.place() instanceof Alignment a ? a : null;
  }

  /** The level of something found before, if it was matched at that place; else null. */
  static LevelMatch level(Found before, Alignment at) {
    return before != null && at.equals(before.levelAt()) ? before.level() : null;
  }
}
