package kettlesieve.core.work;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Job;
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
 * <p>The checksum is that of a JSON text of all parts, in which every name stands in quotation
 * marks and every part under its own name: two different sets of parts never make the same text,
 * whatever is in their names. A part that is missing here makes results of other work pass for
 * these; the test goes over all of them.
 *
 * @param sha256 lower-case hexadecimal
 */
public record WorkKey(String sha256) {
  private static final ObjectMapper JSON = JsonMapper.builder().build();

  /** What is found of a source depends on. */
  private record SourceParts(
      String source,
      String reference,
      List<TimeSpan> places,
      List<TimeSpan> pauses,
      MatchSettings settings,
      String code) {}

  /** What is asked of a version. */
  private record Asked(Double ratio, Double semitones, boolean back) {
    static Asked of(Version version) {
      return new Asked(version.ratio(), version.semitones(), version.back());
    }
  }

  private record PlacementParts(String source, Map<String, String> files, Asked asked) {}

  private record VersionParts(
      String source,
      Map<String, String> files,
      MatchOverride match,
      Asked asked,
      List<String> excerpts,
      Beside beside) {}

  /** In stems the others, or the true stems, tell whose a cell is. */
  private record Beside(Map<String, String> trueStems, List<RoleSum> sums, List<Other> versions) {}

  /**
   * @param name label of a version whose parts others were taken from; empty for the rest, which
   *     may be called anything
   */
  private record Other(
      String name,
      Map<String, String> files,
      Map<String, Stem.Origin> origins,
      MatchOverride match) {}

  /** Of the analysed source: with it go pauses, and warnings of them. */
  static WorkKey ofSource(Comparison c, Function<MediaRef, String> checksum) {
    return of(
        new SourceParts(
            checksum.apply(c.source()),
            c.reference() == null ? null : checksum.apply(c.reference()),
            c.places(),
            c.pauses(),
            MatchSettings.of(c),
            CodeVersion.OWN));
  }

  /** Of a version measured against that source. */
  static WorkKey ofVersion(
      WorkKey source, Comparison c, Version version, Function<MediaRef, String> checksum) {
    return of(
        new VersionParts(
            source.sha256(),
            checksums(version, checksum),
            version.match(),
            Asked.of(version),
            c.together() ? c.excerpts().stream().map(Excerpt::name).toList() : List.of(),
            c.job() == Job.STEMS ? beside(c, checksum) : null));
  }

  /** Of where a version was found at each place, whatever is set by hand. */
  static WorkKey ofPlacement(WorkKey source, Version version, Function<MediaRef, String> checksum) {
    return of(new PlacementParts(source.sha256(), checksums(version, checksum), Asked.of(version)));
  }

  private static Beside beside(Comparison c, Function<MediaRef, String> checksum) {
    Set<String> named = new HashSet<>();
    c.versions()
        .forEach(
            v ->
                v.stems()
                    .values()
                    .forEach(
                        s -> {
                          for (var o = s.origin(); o != null; o = o.before()) {
                            named.add(o.version());
                          }
                        }));
    Map<String, String> truth = new LinkedHashMap<>();
    c.trueStems().forEach((role, ref) -> truth.put(role, checksum.apply(ref)));
    return new Beside(
        truth,
        c.roleSums(),
        c.versions().stream()
            .map(
                v ->
                    new Other(
                        named.contains(v.label()) ? v.label() : "",
                        checksums(v, checksum),
                        origins(v),
                        v.match()))
            .toList());
  }

  private static Map<String, Stem.Origin> origins(Version version) {
    Map<String, Stem.Origin> origins = new LinkedHashMap<>();
    version.stems().forEach((role, stem) -> origins.put(role, stem.origin()));
    return origins;
  }

  private static Map<String, String> checksums(
      Version version, Function<MediaRef, String> checksum) {
    Map<String, String> files = new LinkedHashMap<>();
    Examination.files(version).forEach((role, ref) -> files.put(role, checksum.apply(ref)));
    return files;
  }

  private static WorkKey of(Record parts) {
    try {
      return new WorkKey(
          Checksum.ofText(parts.getClass().getSimpleName() + JSON.writeValueAsString(parts)));
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("parts of a key can always be written", e);
    }
  }
}
