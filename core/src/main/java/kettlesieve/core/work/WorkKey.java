package kettlesieve.core.work;

import java.util.HashSet;
import java.util.Set;
import java.util.function.Function;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.media.Checksum;

/**
 * What a result depends on, as one checksum: the bytes of the files, the parameters, and the
 * program's own code. Equal keys have equal results, on any day and under any name.
 *
 * <p>The checksum is that of a {@link KeyText} of all parts: two different sets of parts never make
 * the same text, whatever is in their names. A part that is missing here makes results of other
 * work pass for these; the test goes over all of them.
 *
 * @param sha256 lower-case hexadecimal
 */
public record WorkKey(String sha256) {
  /** Of the analysed source: with it go pauses, and warnings of them. */
  static WorkKey ofSource(Comparison c, Function<MediaRef, String> files) {
    Function<MediaRef, String> checksum = taken(files);
    MatchSettings settings = MatchSettings.of(c);
    return of(
        new KeyText()
            .part("kind", "source")
            .part("source", checksum.apply(c.source()))
            .part("reference", c.reference() == null ? null : checksum.apply(c.reference()))
            .parts("places", c.places(), WorkKey::span)
            .parts("pauses", c.pauses(), WorkKey::span)
            .part("job", settings.job())
            .part("level", settings.level())
            .part("ratio", settings.ratio())
            .part("semitones", settings.semitones())
            .part("code", CodeVersion.OWN));
  }

  /** Of a version measured against that source. */
  static WorkKey ofVersion(
      WorkKey source, Comparison c, Version version, Function<MediaRef, String> files) {
    Function<MediaRef, String> checksum = taken(files);
    KeyText text = new KeyText().part("kind", "version").part("source", source.sha256());
    files(text, version, checksum);
    byHand(text, version.match());
    asked(text, version);
    text.parts("excerpts", c.together() ? c.excerpts() : null, (t, e) -> t.part("name", e.name()));
    if (c.job().inStems()) {
      // Which of them it is: one with the same files may have been taken from other parts.
      text.part("which", c.versions().indexOf(version));
      beside(text, c, checksum);
    }
    return of(text);
  }

  /** Of where a version was found at each place, whatever is set by hand. */
  static WorkKey ofPlacement(WorkKey source, Version version, Function<MediaRef, String> files) {
    Function<MediaRef, String> checksum = taken(files);
    KeyText text = new KeyText().part("kind", "placement").part("source", source.sha256());
    files(text, version, checksum);
    asked(text, version);
    return of(text);
  }

  /**
   * Of the scores of a whole comparison, as a round-up takes them: of everything that its file
   * says, names and tags as well, and of the files that it names.
   */
  static WorkKey ofScores(String comparison, Comparison c, Function<MediaRef, String> files) {
    Function<MediaRef, String> checksum = taken(files);
    return of(
        new KeyText()
            .part("kind", "scores")
            .part("comparison", comparison)
            .part("profile", c.profile())
            .parts("files", c.files(), (t, f) -> t.part("sum", checksum.apply(f)))
            .part("code", CodeVersion.OWN));
  }

  /** The bytes of a file, and what of it is taken. */
  private static Function<MediaRef, String> taken(Function<MediaRef, String> checksum) {
    return ref -> checksum.apply(ref) + (ref.part().isEmpty() ? "" : " " + ref.part());
  }

  private static void span(KeyText text, TimeSpan span) {
    // A place that is the whole source has no span.
    text.part("from", span == null ? null : span.from());
    text.part("to", span == null ? null : span.to());
  }

  private static void asked(KeyText text, Version version) {
    text.part("ratio", version.ratio())
        .part("semitones", version.semitones())
        .part("back", version.back());
  }

  private static void byHand(KeyText text, MatchOverride match) {
    text.part("delay", match.delaySamples())
        .part("polarity", match.polarity())
        .part("gain", match.gainDb())
        .part("drift", match.driftPpm())
        .part("length", match.ratio());
  }

  private static void files(KeyText text, Version version, Function<MediaRef, String> checksum) {
    text.parts(
        "files",
        PreparedSource.files(version).entrySet(),
        (t, f) -> t.part("role", f.getKey()).part("sum", checksum.apply(f.getValue())));
  }

  /**
   * In stems the others, or the true stems, tell whose a cell is. A version's label counts only
   * where parts of others were taken from it: else it may be called anything.
   */
  private static void beside(KeyText text, Comparison c, Function<MediaRef, String> checksum) {
    Set<String> named = new HashSet<>();
    for (Version v : c.versions()) {
      for (Stem stem : v.stems().values()) {
        for (Stem.Origin o = stem.origin(); o != null; o = o.before()) {
          named.add(o.version());
        }
      }
    }
    text.parts(
        "truth",
        c.trueStems().entrySet(),
        (t, f) -> t.part("role", f.getKey()).part("sum", checksum.apply(f.getValue())));
    text.parts("sums", c.roleSums(), WorkKey::sum);
    text.parts(
        "versions",
        c.versions(),
        (t, v) -> {
          t.part("name", named.contains(v.label()) ? v.label() : null);
          files(t, v, checksum);
          byHand(t, v.match());
          t.parts("stems", v.stems().entrySet(), (u, s) -> origin(u, s.getKey(), s.getValue()));
        });
  }

  private static void sum(KeyText text, RoleSum sum) {
    text.part("name", sum.name())
        .parts("roles", sum.roles(), (t, r) -> t.part("role", r))
        .part("remainder", sum.remainder());
  }

  private static void origin(KeyText text, String role, Stem stem) {
    text.part("role", role);
    for (Stem.Origin o = stem.origin(); o != null; o = o.before()) {
      text.part("of", o.version()).part("part", o.part());
    }
    text.part("of", null);
  }

  private static WorkKey of(KeyText parts) {
    return new WorkKey(Checksum.ofText(parts.toString()));
  }
}
