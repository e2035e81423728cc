package kettlesieve.core.comparison;

import java.util.List;
import java.util.Optional;

/** Brings together what two programs made of the same comparison. */
final class Merge {
  private Merge() {}

  /**
   * What one made, with the versions that another added.
   *
   * @param before what both began with
   * @param theirs what the other made of it
   * @param mine what this one made of it
   * @return empty if the other did more than add versions
   */
  static Optional<Comparison> additions(Comparison before, Comparison theirs, Comparison mine) {
    List<Version> old =
        theirs.versions().stream().filter(v -> before.version(v.id()).isPresent()).toList();
    if (!theirs.withVersions(old).equals(before)) {
      return Optional.empty();
    }
    Comparison merged = mine;
    for (Version v : theirs.versions()) {
      if (before.version(v.id()).isEmpty() && !has(mine, v)) {
        boolean taken = merged.version(v.id()).isPresent();
        merged = merged.plus(taken ? v.withId(merged.freshId()) : v);
      }
    }
    return Optional.of(merged);
  }

  /** Whether a version is there already, under whatever id. */
  private static boolean has(Comparison comparison, Version version) {
    return comparison.versions().stream()
        .anyMatch(
            v ->
                v.label().equals(version.label())
                    && v.files().stream()
                        .map(MediaRef::path)
                        .toList()
                        .equals(version.files().stream().map(MediaRef::path).toList()));
  }
}
