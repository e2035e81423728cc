package kettlesieve.core.work;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.media.Checksum;

/**
 * What a result depends on, as one checksum: the bytes of the files, the parameters, and the
 * program's own code. Equal keys have equal results, on any day and under any name.
 *
 * @param sha256 lower-case hexadecimal
 */
public record WorkKey(String sha256) {
  /** Of the analysed source: with it go pauses, and warnings of them. */
  static WorkKey ofSource(Comparison c, Function<MediaRef, String> checksum) {
    return of(
        "source",
        checksum.apply(c.source()),
        c.reference() == null ? "" : checksum.apply(c.reference()),
        c.places(),
        c.pauses(),
        MatchSettings.of(c),
        CodeVersion.OWN);
  }

  /** Of a version measured against that source. */
  static WorkKey ofVersion(
      WorkKey source, Comparison c, Version version, Function<MediaRef, String> checksum) {
    List<String> names =
        c.together() ? c.excerpts().stream().map(Excerpt::name).toList() : List.of();
    return of(
        "version",
        source.sha256(),
        checksums(version, checksum),
        version.match(),
        asked(version),
        names,
        c.job() == Job.STEMS ? besides(c, checksum) : "");
  }

  private static List<Object> asked(Version version) {
    return Arrays.asList(version.ratio(), version.semitones(), version.back());
  }

  /** In stems the others, or the true stems, tell whose a cell is. */
  private static List<Object> besides(Comparison c, Function<MediaRef, String> checksum) {
    List<Object> all = new ArrayList<>();
    c.trueStems().forEach((role, ref) -> all.add(role + checksum.apply(ref)));
    c.roleSums().forEach(s -> all.add(s.role()));
    for (Version other : c.versions()) {
      all.add(checksums(other, checksum));
      all.add(other.stems().values().stream().map(s -> String.valueOf(s.origin())).toList());
      all.add(other.match());
    }
    return all;
  }

  /** Of where a version was found at each place, whatever is set by hand. */
  static WorkKey ofPlacement(WorkKey source, Version version, Function<MediaRef, String> checksum) {
    return of("placement", source.sha256(), asked(version), checksums(version, checksum));
  }

  private static Map<String, String> checksums(
      Version version, Function<MediaRef, String> checksum) {
    Map<String, String> files = new LinkedHashMap<>();
    Examination.files(version).forEach((role, ref) -> files.put(role, checksum.apply(ref)));
    return files;
  }

  private static WorkKey of(Object... parts) {
    return new WorkKey(Checksum.ofText(Arrays.toString(parts)));
  }
}
