package kettlesieve.core.work;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.fairness.Fairness;
import kettlesieve.core.match.Found;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.Matched;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.Combined;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.measure.stems.StemCells;
import kettlesieve.core.media.Recording;
import kettlesieve.core.score.Notice;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.score.VersionFacts;
import kettlesieve.core.task.Stop;

/**
 * A comparison's source at every place that is measured; versions are matched and measured against
 * it. With several excerpts together each is matched and measured by itself, and the readings are
 * put together. Safe to use from several threads.
 */
public final class PreparedSource {
  /** What stands for a role where a version is one file. */
  public static final String WHOLE = "";

  private final Comparison comparison;
  private final Recording source;
  private final List<PreparedExcerpt> places;
  private final List<Notice> warnings;

  /** Shared by what differs in its versions only. */
  private final HeardReference heard;

  private PreparedSource(
      Comparison comparison,
      Recording source,
      List<PreparedExcerpt> places,
      HeardReference heard,
      List<Notice> warnings) {
    this.heard = heard;
    this.comparison = comparison;
    this.source = source;
    this.places = places;
    this.warnings = List.copyOf(warnings);
  }

  /**
   * Analyses the source.
   *
   * @param reference the clean recording; null if there is none
   * @throws MatchException if a place is too short or outside, or the clean recording does not
   *     belong to the source
   */
  public static PreparedSource of(Comparison comparison, Recording source, Recording reference)
      throws MatchException {
    return of(comparison, source, reference, List.of());
  }

  /**
   * The same where the source was analysed before.
   *
   * @param known what was kept of that, one entry a place; empty to look for all of it
   * @throws MatchException as above
   */
  static PreparedSource of(
      Comparison comparison,
      Recording source,
      Recording reference,
      List<PreparedExcerpt.Known> known)
      throws MatchException {
    List<PreparedExcerpt> places = new ArrayList<>();
    List<Notice> warnings = new ArrayList<>();
    Audio clean = reference == null ? null : reference.audio();
    boolean all = known.size() == comparison.places().size();
    for (TimeSpan place : comparison.places()) {
      PreparedExcerpt preparedExcerpt =
          PreparedExcerpt.of(
              source.audio(),
              clean,
              place,
              comparison.pauses(),
              MatchSettings.of(comparison),
              all ? known.get(places.size()) : null);
      places.add(preparedExcerpt);
      for (Notice warning : preparedExcerpt.warnings()) {
        if (!warnings.contains(warning)) {
          warnings.add(warning);
        }
      }
    }
    Audio listened = MatchSettings.of(comparison).ownTime() ? null : clean;
    return new PreparedSource(
        comparison, source, places, new HeardReference(places.get(0), listened), warnings);
  }

  /** The same analysis for a comparison that differs in its versions only. */
  public PreparedSource with(Comparison changed) {
    return new PreparedSource(changed, source, places, heard, warnings);
  }

  /** The source's side at the first place. */
  public PreparedExcerpt first() {
    return places.get(0);
  }

  /**
   * The clean recording on the source's time and level, to be listened to beside the versions:
   * matched once, when first asked for. Empty without one, and where versions have a time of their
   * own.
   *
   * @throws MatchException if it cannot be matched
   */
  public Optional<Matched> matchedReference() throws MatchException {
    return heard.matched();
  }

  /** What is to be kept of the source, one entry a place. */
  List<PreparedExcerpt.Known> known() {
    return places.stream().map(PreparedExcerpt::known).toList();
  }

  /** What the person should know of the source. */
  public List<Notice> warnings() {
    return warnings;
  }

  /** The files of a version by role; a version in one file has it under {@link #WHOLE}. */
  public static Map<String, MediaRef> files(Version version) {
    Map<String, MediaRef> files = new LinkedHashMap<>();
    if (version.media() != null) {
      files.put(WHOLE, version.media());
    } else {
      version.stems().forEach((role, stem) -> files.put(role, stem.media()));
    }
    return files;
  }

  /**
   * Matches a version at every place; the first of them is the one to listen to.
   *
   * @param files its recordings, keyed as in {@link #files}
   * @param known what was found before, one entry a place; empty to look for it
   * @param stop asked now and then
   * @throws MatchException if it cannot be compared
   */
  public List<Matched> match(
      Version version, Map<String, Recording> files, List<Found> known, Stop stop)
      throws MatchException {
    boolean inStems = !files.containsKey(WHOLE);
    if (inStems && !comparison.job().inStems()) {
      throw new MatchException(
          "it consists of stems. Choose the job Stems for it, or bring in one file.");
    }
    if (!inStems && comparison.job().inStems()) {
      throw new MatchException("its file has no role yet. Give it one under Gather.");
    }
    List<Matched> matched = new ArrayList<>();
    for (int i = 0; i < places.size(); i++) {
      PreparedExcerpt place = places.get(i);
      Found before = known.size() == places.size() ? known.get(i) : null;
      if (inStems) {
        Map<String, Audio> stems = new LinkedHashMap<>();
        files.forEach((role, recording) -> stems.put(role, recording.audio()));
        matched.add(
            place.matchStems(stems, version.match(), before, stop).forming(comparison.roleSums()));
      } else {
        matched.add(place.match(version, files.get(WHOLE).audio(), before, stop));
      }
    }
    return matched;
  }

  /**
   * Takes all readings of a version: of every place, and of all together.
   *
   * @param matched one entry a place
   * @param stop asked now and then
   */
  public Map<Part, Readings> measure(List<Matched> matched, Stop stop) {
    List<Measure> measures = Scoring.shipped().measures(comparison.job());
    List<Readings> taken = new ArrayList<>();
    for (int i = 0; i < places.size(); i++) {
      taken.add(places.get(i).measure(matched.get(i), measures, stop));
    }
    Map<Part, Readings> parts = new LinkedHashMap<>();
    putTogether(parts, "", taken);
    return parts;
  }

  /**
   * The same of a version in stems: of each stem and of all together.
   *
   * @param cells whose the cells of the mix are, one entry a place
   */
  public Map<Part, Readings> measureStems(List<Matched> matched, List<StemCells> cells, Stop stop) {
    List<Measure> measures = Scoring.shipped().measures(comparison.job());
    Map<String, List<Readings>> byRole = new LinkedHashMap<>();
    for (int i = 0; i < places.size(); i++) {
      MatchedStems stems = (MatchedStems) matched.get(i);
      places
          .get(i)
          .measureStems(stems, cells.get(i), measures, stop)
          .forEach((role, t) -> byRole.computeIfAbsent(role, r -> new ArrayList<>()).add(t));
    }
    Map<Part, Readings> parts = new LinkedHashMap<>();
    byRole.forEach((role, taken) -> putTogether(parts, role, taken));
    return parts;
  }

  private void putTogether(Map<Part, Readings> parts, String role, List<Readings> taken) {
    List<Double> seconds = places.stream().map(p -> p.source().audio().seconds()).toList();
    parts.put(new Part(role, ""), Combined.of(taken, seconds));
    for (int i = 0; taken.size() > 1 && i < taken.size(); i++) {
      parts.put(new Part(role, comparison.excerpts().get(i).name()), taken.get(i));
    }
  }

  /**
   * Versions in stems with the steps before the stems that were taken from others of them.
   *
   * @param matched by id of the version, one entry a place
   */
  public Map<String, List<Matched>> chained(Map<String, List<Matched>> matched) {
    Map<String, List<Matched>> all = new LinkedHashMap<>();
    matched.forEach(
        (id, places) -> {
          Map<String, Stem> stems = comparison.version(id).orElseThrow().stems();
          List<Matched> own = new ArrayList<>();
          for (int i = 0; i < places.size(); i++) {
            Map<String, List<MatchedStems.Step>> chains = new LinkedHashMap<>();
            for (var stem : stems.entrySet()) {
              List<MatchedStems.Step> steps = steps(stem.getValue().origin(), matched, i);
              if (!steps.isEmpty()) {
                chains.put(stem.getKey(), steps);
              }
            }
            MatchedStems here = (MatchedStems) places.get(i);
            own.add(chains.isEmpty() ? here : here.withChains(chains));
          }
          all.put(id, own);
        });
    return all;
  }

  /** The steps of a chain as far as they are among the versions, the first one first. */
  private List<MatchedStems.Step> steps(
      Stem.Origin origin, Map<String, List<Matched>> matched, int place) {
    if (origin == null) {
      return List.of();
    }
    List<MatchedStems.Step> steps = new ArrayList<>(steps(origin.before(), matched, place));
    comparison.versions().stream()
        .filter(v -> v.label().equals(origin.version()) && matched.containsKey(v.id()))
        .findFirst()
        .map(v -> (MatchedStems) matched.get(v.id()).get(place))
        .flatMap(m -> part(m, origin.part()))
        .ifPresent(audio -> steps.add(new MatchedStems.Step(origin.words(), audio)));
    return steps;
  }

  private Optional<Audio> part(MatchedStems stems, String part) {
    Audio own = stems.parts().get(part);
    return own != null
        ? Optional.of(own)
        : comparison.roleSums().stream()
            .filter(s -> s.name().equals(part) && stems.has(s))
            .findFirst()
            .map(stems::of);
  }

  /**
   * Whose the cells of the mix are, for each version in stems, one entry a place.
   *
   * @param matched by id of the version, one entry a place
   * @param truth what the mix was made of, by role
   * @param stop asked now and then
   */
  public Map<String, List<StemCells>> cells(
      Map<String, List<Matched>> matched, Map<String, Audio> truth, Stop stop) {
    Map<String, List<StemCells>> cells = new LinkedHashMap<>();
    for (int i = 0; i < places.size(); i++) {
      Map<String, MatchedStems> here = new LinkedHashMap<>();
      for (var version : matched.entrySet()) {
        here.put(version.getKey(), (MatchedStems) version.getValue().get(i));
      }
      places
          .get(i)
          .cells(here, truth, stop)
          .forEach((id, c) -> cells.computeIfAbsent(id, x -> new ArrayList<>()).add(c));
    }
    return cells;
  }

  /**
   * A sheet of stems with what the best of them, from several tools, leave of the mix.
   *
   * @param matched by id of the version, one entry a place
   * @param stop asked now and then
   */
  ScoreSheet withNulls(ScoreSheet sheet, Map<String, List<Matched>> matched, Stop stop) {
    return sheet.withNulls(SetNulls.of(sheet, places, matched, stop));
  }

  /** What is known of a version that was matched. */
  public VersionFacts facts(Version version, Map<String, Recording> files, Matched matched) {
    List<Recording> list = List.copyOf(files.values());
    Map<String, Path> stems = new LinkedHashMap<>();
    files.forEach(
        (role, recording) -> {
          if (!role.equals(WHOLE)) {
            stems.put(role, recording.file());
          }
        });
    return new VersionFacts(
        version.id(),
        version.label(),
        list.get(0).file(),
        stems,
        list.get(0).facts(),
        matched.match(),
        Fairness.of(comparison, version, source, list, matched),
        comparison.costOf(version),
        version.back());
  }
}
