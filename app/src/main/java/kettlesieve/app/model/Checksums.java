package kettlesieve.app.model;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.Recording;
import kettlesieve.core.work.PreparedSource;

/** Checksums of files are noted when they are first read; that is no change to undo. */
final class Checksums {
  private Checksums() {}

  /** With those of the source and of the clean recording, where they are not known yet. */
  static Comparison noted(Comparison comparison, Recording source, Recording reference) {
    Comparison c = comparison;
    if (c.source() != null && c.source().sha256() == null) {
      c = c.withSource(c.source().withSha256(source.facts().sha256()));
    }
    if (c.reference() != null && c.reference().sha256() == null && reference != null) {
      c = c.withReference(c.reference().withSha256(reference.facts().sha256()));
    }
    return c;
  }

  /** Without those of files that were written anew: that was said, and what they are now counts. */
  static Comparison forgotten(Comparison comparison, Set<Path> files) {
    Comparison c = comparison;
    for (Version v : comparison.versions()) {
      if (v.media() != null && files.contains(v.media().file())) {
        c = c.withVersion(v.withMedia(v.media().withSha256(null)));
      } else if (v.stems().values().stream().anyMatch(s -> files.contains(s.media().file()))) {
        Map<String, Stem> stems = new LinkedHashMap<>(v.stems());
        stems.replaceAll(
            (role, stem) ->
                files.contains(stem.media().file())
                    ? stem.withMedia(stem.media().withSha256(null))
                    : stem);
        c = c.withVersion(v.withStems(stems));
      }
    }
    return c;
  }

  /** With those of a version's files. */
  static Comparison noted(Comparison comparison, String id, Map<String, Recording> files) {
    return comparison
        .version(id)
        .map(v -> comparison.withVersion(noted(v, files)))
        .orElse(comparison);
  }

  private static Version noted(Version v, Map<String, Recording> files) {
    if (v.media() != null) {
      Recording own = files.get(PreparedSource.WHOLE);
      return own == null || v.media().sha256() != null
          ? v
          : v.withMedia(v.media().withSha256(own.facts().sha256()));
    }
    Map<String, Stem> stems = new LinkedHashMap<>(v.stems());
    stems.replaceAll(
        (role, stem) ->
            stem.media().sha256() != null || !files.containsKey(role)
                ? stem
                : stem.withMedia(stem.media().withSha256(files.get(role).facts().sha256())));
    return v.withStems(stems);
  }
}
