package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
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
 * @param trueStems the stems the source was mixed from, by role; empty if they are not known
 * @param ratio stretch: the length asked for over the source's; null if not said
 * @param semitones pitch: the shift asked for; null if not said
 * @param versions in the person's order
 * @param roleSums stems: roles made of others, for all versions
 * @param roleWeights stems: how much a role counts in the mean over roles, 0 to 10; 1 for a role
 *     that is not named, 0 for one made of others
 * @param excerpt what is heard and measured now; null for the whole source
 * @param excerpts places kept under a name, in the person's order
 * @param together whether all kept excerpts are heard and measured in place of {@code excerpt}
 * @param pauses stretches without wanted sound, marked by hand; null to have them found
 * @param level what versions are level matched on
 * @param marks places with a note
 * @param costs what a tool costs, by its name; a version's own figures come first
 * @param profile name of the delivery profile
 * @param profiles delivery profiles of the person's own
 * @param rounds blind rounds, in the order in which they were begun
 * @param sheets listening sheets that were handed out, with their keys and answers
 * @param times how times are told; null for minutes and seconds from the source's start
 * @param tags words of the person's own by which comparisons are told apart in a round-up
 * @param made how the source of a test piece was made; null for other recordings
 * @param notes free text
 * @param unknown what its file holds beyond that, to be put back
 */
@RecordBuilder
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Comparison(
    String schema,
    String name,
    Job job,
    MediaRef source,
    MediaRef reference,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) Map<String, MediaRef> trueStems,
    Double ratio,
    Double semitones,
    List<Version> versions,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) List<RoleSum> roleSums,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) Map<String, Double> roleWeights,
    TimeSpan excerpt,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) List<Excerpt> excerpts,
    @JsonInclude(JsonInclude.Include.NON_DEFAULT) boolean together,
    List<TimeSpan> pauses,
    LevelMode level,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) List<Mark> marks,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) Map<String, Cost> costs,
    String profile,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) List<Profile> profiles,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) List<Round> rounds,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) List<ListeningSheet> sheets,
    TimeFormat times,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) List<String> tags,
    Made made,
    String notes,
    @JsonIgnore UnknownFields unknown)
    implements ComparisonBuilder.With {
  /** The form of file that this program writes. */
  public static final String SCHEMA = "kettle-sieve/comparison/1";

  public Comparison {
    schema = schema == null ? SCHEMA : schema;
    name = name == null ? "" : name;
    job = job == null ? Job.DENOISE : job;
    trueStems = ordered(trueStems);
    versions = versions == null ? List.of() : List.copyOf(versions);
    roleSums = roleSums == null ? List.of() : List.copyOf(roleSums);
    roleWeights = ordered(roleWeights);
    excerpts = excerpts == null ? List.of() : List.copyOf(excerpts);
    together = together && !excerpts.isEmpty();
    pauses = pauses == null ? null : List.copyOf(pauses);
    level = level == null ? LevelMode.WANTED : level;
    marks = marks == null ? List.of() : List.copyOf(marks);
    costs = ordered(costs);
    profiles = profiles == null ? List.of() : List.copyOf(profiles);
    rounds = rounds == null ? List.of() : List.copyOf(rounds);
    sheets = sheets == null ? List.of() : List.copyOf(sheets);
    tags = tags == null ? List.of() : Tags.clean(tags.stream());
    notes = notes == null ? "" : notes;
    unknown = unknown == null ? UnknownFields.NONE : unknown;
    if (ratio != null && !(ratio >= 0.1 && ratio <= 10)) {
      throw new IllegalArgumentException("a length ratio lies between 0.1 and 10");
    }
    if (semitones != null && !(Math.abs(semitones) <= 36)) {
      throw new IllegalArgumentException("a shift is at most 36 semitones");
    }
    for (var weight : roleWeights.entrySet()) {
      if (!(weight.getValue() >= 0 && weight.getValue() <= 10)) {
        throw new IllegalArgumentException(
            "the weight of " + weight.getKey() + " lies between 0 and 10");
      }
    }
    Set<String> ids = new HashSet<>();
    Set<String> labels = new HashSet<>();
    for (Version v : versions) {
      if (!ids.add(v.id()) || !labels.add(v.label())) {
        throw new IllegalArgumentException("two versions are both called " + v.label());
      }
    }
    Set<String> names = new HashSet<>();
    for (Excerpt e : excerpts) {
      if (!names.add(e.name())) {
        throw new IllegalArgumentException("two excerpts are both called " + e.name());
      }
    }
  }

  private static <T> Map<String, T> ordered(Map<String, T> map) {
    Map<String, T> all = new LinkedHashMap<>(map == null ? Map.of() : map);
    all.values().removeIf(Objects::isNull);
    return Collections.unmodifiableMap(all);
  }

  /** A comparison with nothing in it yet. */
  public static Comparison empty(String name, Job job) {
    return ComparisonBuilder.builder().name(name).job(job).build();
  }

  /** All recordings that are named: source, clean recording, true stems, versions. */
  @JsonIgnore
  public List<MediaRef> files() {
    List<MediaRef> all = new ArrayList<>();
    all.add(source);
    all.add(reference);
    all.addAll(trueStems.values());
    versions.forEach(v -> all.addAll(v.files()));
    return all.stream().filter(ref -> ref != null && ref.named()).toList();
  }

  /** The version of an id. */
  public Optional<Version> version(String id) {
    return versions.stream().filter(v -> v.id().equals(id)).findFirst();
  }

  /** The kept excerpt of a name. */
  public Optional<Excerpt> excerpt(String excerptName) {
    return excerpts.stream().filter(e -> e.name().equals(excerptName)).findFirst();
  }

  /** With one true stem set, or taken out with null. */
  public Comparison withTrueStem(String role, MediaRef value) {
    Map<String, MediaRef> map = new LinkedHashMap<>(trueStems);
    if (value == null) {
      map.remove(role);
    } else {
      map.put(role, value);
    }
    return withTrueStems(map);
  }

  /** With what a role counts in the mean over roles; 1 is what it counts anyway. */
  public Comparison withRoleWeight(String role, double value) {
    Map<String, Double> map = new LinkedHashMap<>(roleWeights);
    map.remove(role);
    if (value != (Roles.composite(role) ? 0 : 1)) {
      map.put(role, value);
    }
    return withRoleWeights(map);
  }

  /** With what a tool costs; a cost that says nothing is taken out. */
  public Comparison withCost(String tool, Cost value) {
    Map<String, Cost> map = new LinkedHashMap<>(costs);
    if (value == null || value.none()) {
      map.remove(tool);
    } else {
      map.put(tool, value);
    }
    return withCosts(map);
  }

  /** With a profile of the person's own set: it takes the place of the one of its name. */
  public Comparison withOwnProfile(Profile value) {
    List<Profile> list = new ArrayList<>(profiles);
    list.removeIf(p -> p.name().equals(value.name()));
    list.add(value);
    return withProfiles(list);
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

  /** Without the version of an id. */
  public Comparison minus(String id) {
    return withVersions(versions.stream().filter(v -> !v.id().equals(id)).toList());
  }

  /** With a mark added, under an id that no other has. */
  public Comparison plus(Mark mark) {
    int n = marks.size() + 1;
    while (hasMark("m" + n)) {
      n++;
    }
    List<Mark> list = new ArrayList<>(marks);
    list.add(mark.withId("m" + n));
    return withMarks(list);
  }

  private boolean hasMark(String id) {
    return marks.stream().anyMatch(m -> m.id().equals(id));
  }

  /** With a blind round in the place of the one of its id, or at the end if there is none. */
  public Comparison withRound(Round round) {
    List<Round> list = new ArrayList<>(rounds);
    list.replaceAll(r -> r.id().equals(round.id()) ? round : r);
    if (!list.contains(round)) {
      list.add(round);
    }
    return withRounds(list);
  }

  /** An id that no blind round has yet. */
  public String freshRoundId() {
    int n = rounds.size() + 1;
    while (hasRound("r" + n)) {
      n++;
    }
    return "r" + n;
  }

  private boolean hasRound(String id) {
    return rounds.stream().anyMatch(r -> r.id().equals(id));
  }

  /** With a listening sheet in the place of the one of its id, or at the end if there is none. */
  public Comparison withSheet(ListeningSheet sheet) {
    List<ListeningSheet> list = new ArrayList<>(sheets);
    list.replaceAll(s -> s.id().equals(sheet.id()) ? sheet : s);
    if (!list.contains(sheet)) {
      list.add(sheet);
    }
    return withSheets(list);
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

  /** What is measured: one place, or all kept excerpts; null stands for the whole source. */
  @JsonIgnore
  public List<TimeSpan> places() {
    return together
        ? excerpts.stream().map(Excerpt::span).toList()
        : Collections.singletonList(excerpt);
  }

  /** All roles in use, in the order in which they first appear: stems, then true stems. */
  @JsonIgnore
  public List<String> roles() {
    Set<String> roles = new LinkedHashSet<>(trueStems.keySet());
    versions.forEach(v -> roles.addAll(v.stems().keySet()));
    return Roles.sorted(roles);
  }

  /**
   * Sums that would let tools be compared that divide the mix otherwise: roles that one tool gives
   * as everything but others, and that another could form; those that are there already left out.
   */
  @JsonIgnore
  public List<RoleSum> proposedSums() {
    List<RoleSum> proposed = new ArrayList<>();
    for (String role : roles()) {
      List<String> without = Roles.without(role);
      boolean known = roleSums.stream().anyMatch(s -> s.role().equals(role));
      boolean formable =
          versions.stream()
              .map(v -> v.stems().keySet())
              .anyMatch(s -> !s.contains(role) && s.containsAll(without));
      if (!without.isEmpty() && !known && formable) {
        proposed.add(new RoleSum("mix without " + Roles.sum(without), without, true));
      }
    }
    return proposed;
  }

  /**
   * Versions of one tool and setting at several amounts, in order of amount; keyed by what they
   * share, in words.
   */
  @JsonIgnore
  public Map<String, List<Version>> sweeps() {
    Map<String, List<Version>> all = new LinkedHashMap<>();
    Map<String, String> spelled = new LinkedHashMap<>();
    for (Version v : versions) {
      if (!v.tool().isEmpty() && v.amount() != null) {
        String words = v.setting().isEmpty() ? v.tool() : v.tool() + " " + v.setting();
        // The same words in small and in capital letters are the same tool.
        String key = spelled.computeIfAbsent(words.toLowerCase(java.util.Locale.ROOT), w -> words);
        all.computeIfAbsent(key, w -> new ArrayList<>()).add(v);
      }
    }
    all.values().removeIf(l -> l.stream().map(Version::amount).distinct().count() < 2);
    all.values().forEach(l -> l.sort(java.util.Comparator.comparing(Version::amount)));
    return all;
  }

  /**
   * Versions of one tool, setting and amount at several lengths or intervals, in their order; keyed
   * by what they share, in words. Those that were brought back are left out.
   */
  @JsonIgnore
  public Map<String, List<Version>> targetSweeps() {
    Map<String, List<Version>> all = new LinkedHashMap<>();
    for (Version v : versions) {
      if (!v.tool().isEmpty() && !v.back() && targetOf(v) != null) {
        String words = v.tool() + (v.setting().isEmpty() ? "" : " " + v.setting());
        String key = v.amount() == null ? words : words + " " + StretchTarget.figure(v.amount());
        all.computeIfAbsent(key, w -> new ArrayList<>()).add(v);
      }
    }
    all.values().removeIf(l -> l.stream().map(this::targetOf).distinct().count() < 2);
    all.values().forEach(l -> l.sort(java.util.Comparator.comparing(this::targetOf)));
    return all;
  }

  /** The length or interval asked of a version; null in other jobs, or where nothing was said. */
  public Double targetOf(Version version) {
    return switch (job) {
      case STRETCH -> version.ratio() != null ? version.ratio() : ratio;
      case PITCH -> version.semitones() != null ? version.semitones() : semitones;
      case DENOISE, DEREVERB, DECLIP, STEMS -> null;
    };
  }

  /** What a version costs: its own figures, else those of its tool. */
  public Cost costOf(Version version) {
    return version.cost().or(costs.getOrDefault(version.tool(), Cost.NONE));
  }
}
