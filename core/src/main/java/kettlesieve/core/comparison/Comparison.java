package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonAnyGetter;
import com.fasterxml.jackson.annotation.JsonAnySetter;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * The document: one source, its versions, one job. Immutable; every change gives a new one.
 *
 * @param schema name and version of the file's form, {@link #SCHEMA}
 * @param name for people
 * @param job what was done to the source
 * @param source the unprocessed recording; null as long as there is none
 * @param reference the clean recording; null if there is none
 * @param versions in the person's order
 * @param excerpt what is heard and measured; null for the whole source
 * @param pauses stretches without wanted sound, marked by hand; null to have them found
 * @param profile name of the delivery profile
 * @param notes free text
 * @param extra fields that this version of the program does not know
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Comparison(
    String schema,
    String name,
    Job job,
    MediaRef source,
    MediaRef reference,
    List<Version> versions,
    TimeSpan excerpt,
    List<TimeSpan> pauses,
    String profile,
    String notes,
    @JsonAnySetter @JsonAnyGetter Map<String, Object> extra) {
  /** The form of file that this program writes. */
  public static final String SCHEMA = "kettle-sieve/comparison/1";

  public Comparison {
    schema = schema == null ? SCHEMA : schema;
    name = name == null ? "" : name;
    job = job == null ? Job.DENOISE : job;
    versions = versions == null ? List.of() : List.copyOf(versions);
    pauses = pauses == null ? null : List.copyOf(pauses);
    notes = notes == null ? "" : notes;
    extra = extra == null ? Map.of() : Map.copyOf(extra);
    Set<String> ids = new HashSet<>();
    Set<String> labels = new HashSet<>();
    for (Version v : versions) {
      if (!ids.add(v.id()) || !labels.add(v.label())) {
        throw new IllegalArgumentException("two versions are both called " + v.label());
      }
    }
  }

  /** A comparison with nothing in it yet. */
  public static Comparison empty(String name, Job job) {
    return new Comparison(SCHEMA, name, job, null, null, List.of(), null, null, null, "", Map.of());
  }

  public Optional<Version> version(String id) {
    return versions.stream().filter(v -> v.id().equals(id)).findFirst();
  }

  public Comparison withName(String value) {
    return new Comparison(
        schema, value, job, source, reference, versions, excerpt, pauses, profile, notes, extra);
  }

  public Comparison withJob(Job value) {
    return new Comparison(
        schema, name, value, source, reference, versions, excerpt, pauses, profile, notes, extra);
  }

  public Comparison withSource(MediaRef value) {
    return new Comparison(
        schema, name, job, value, reference, versions, excerpt, pauses, profile, notes, extra);
  }

  public Comparison withReference(MediaRef value) {
    return new Comparison(
        schema, name, job, source, value, versions, excerpt, pauses, profile, notes, extra);
  }

  public Comparison withVersions(List<Version> value) {
    return new Comparison(
        schema, name, job, source, reference, value, excerpt, pauses, profile, notes, extra);
  }

  public Comparison withExcerpt(TimeSpan value) {
    return new Comparison(
        schema, name, job, source, reference, versions, value, pauses, profile, notes, extra);
  }

  public Comparison withPauses(List<TimeSpan> value) {
    return new Comparison(
        schema, name, job, source, reference, versions, excerpt, value, profile, notes, extra);
  }

  public Comparison withProfile(String value) {
    return new Comparison(
        schema, name, job, source, reference, versions, excerpt, pauses, value, notes, extra);
  }

  public Comparison withNotes(String value) {
    return new Comparison(
        schema, name, job, source, reference, versions, excerpt, pauses, profile, value, extra);
  }

  /** With one version replaced by another of the same id. */
  public Comparison withVersion(Version changed) {
    List<Version> list = new ArrayList<>(versions);
    list.replaceAll(v -> v.id().equals(changed.id()) ? changed : v);
    return withVersions(list);
  }

  /** With a version added at the end; its label gets a number if another has it already. */
  public Comparison plus(Version version) {
    String label = version.label();
    for (int n = 2; hasLabel(label); n++) {
      label = version.label() + " (" + n + ")";
    }
    List<Version> list = new ArrayList<>(versions);
    list.add(version.withLabel(label));
    return withVersions(list);
  }

  public Comparison minus(String id) {
    return withVersions(versions.stream().filter(v -> !v.id().equals(id)).toList());
  }

  /** An id that no version has yet. */
  public String freshId() {
    int n = versions.size() + 1;
    while (version("v" + n).isPresent()) {
      n++;
    }
    return "v" + n;
  }

  private boolean hasLabel(String label) {
    return versions.stream().anyMatch(v -> v.label().equals(label));
  }
}
