package kettlesieve.core.work;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.Silence;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.ground.DirectGround;
import kettlesieve.core.ground.PauseFacts;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.match.Alignment;
import kettlesieve.core.match.Found;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.Matched;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.match.Matcher;
import kettlesieve.core.match.StretchMatcher;
import kettlesieve.core.match.StretchedVersion;
import kettlesieve.core.measure.Combined;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.measure.Subject;
import kettlesieve.core.measure.stems.RoleTiles;
import kettlesieve.core.measure.stems.StemCells;
import kettlesieve.core.measure.stretch.StretchedTraces;
import kettlesieve.core.measure.stretch.VoiceTraces;
import kettlesieve.core.score.Notice;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.task.Stop;

/**
 * The source's side of a comparison, worked out once: versions are matched and measured against it.
 * Safe to use from several threads.
 */
public final class PreparedExcerpt {
  /** Excerpts shorter than this are refused. */
  public static final double SHORTEST_SECONDS = 0.5;

  private final SourceMaterial source;
  private final Audio reference;
  private final List<Notice> warnings;
  private final Alignment cleanAt;
  private final Map<Integer, SourceAnalysis> analyses = new ConcurrentHashMap<>();

  private final MatchSettings settings;

  /**
   * What is kept of a source, so that opening what was measured before looks for nothing again.
   *
   * @param pauses what was found of its pauses
   * @param cleanAt where the clean recording lies; null if there is none
   * @param warnings what the person should know of it
   */
  public record Known(PauseFacts pauses, Alignment cleanAt, List<Notice> warnings) {
    public Known {
      warnings = List.copyOf(warnings);
    }
  }

  private PreparedExcerpt(
      SourceMaterial source,
      Audio reference,
      Alignment cleanAt,
      List<Notice> warnings,
      MatchSettings settings) {
    this.settings = settings;
    this.cleanAt = cleanAt;
    this.source = source;
    this.reference = reference;
    this.warnings = List.copyOf(warnings);
  }

  /**
   * Analyses the source.
   *
   * @param source the unprocessed recording
   * @param clean the clean recording; null if there is none
   * @param excerpt the part to measure; null for all
   * @param pauses marked by the person; null to have them found
   * @throws MatchException if the excerpt is too short or outside, or the clean recording does not
   *     belong to the source
   */
  public static PreparedExcerpt of(
      Audio source, Audio clean, TimeSpan excerpt, List<TimeSpan> pauses) throws MatchException {
    return of(source, clean, excerpt, pauses, MatchSettings.USUAL);
  }

  /**
   * Analyses the source for a job and a way of matching levels.
   *
   * @throws MatchException if the excerpt is too short or outside, or the clean recording does not
   *     belong to the source
   */
  public static PreparedExcerpt of(
      Audio source, Audio clean, TimeSpan excerpt, List<TimeSpan> pauses, MatchSettings settings)
      throws MatchException {
    return of(source, clean, excerpt, pauses, settings, null);
  }

  /**
   * The same where the source was analysed before.
   *
   * @param known what was kept of that; null to look for all of it
   * @throws MatchException as above
   */
  public static PreparedExcerpt of(
      Audio source,
      Audio clean,
      TimeSpan excerpt,
      List<TimeSpan> pauses,
      MatchSettings settings,
      Known known)
      throws MatchException {
    double end = excerpt == null ? source.seconds() : Math.min(source.seconds(), excerpt.to());
    double seconds = end - (excerpt == null ? 0 : excerpt.from());
    if (seconds < SHORTEST_SECONDS) {
      throw new MatchException(
          excerpt == null
              ? String.format(
                  java.util.Locale.ROOT,
                  "the source is only %.2f s long. Choose a recording of %.1f s or more.",
                  seconds,
                  SHORTEST_SECONDS)
              : String.format(
                  java.util.Locale.ROOT,
                  "the excerpt holds only %.2f s of the source, which is %.2f s long. Choose %.1f s"
                      + " or more inside it.",
                  Math.max(0, seconds),
                  source.seconds(),
                  SHORTEST_SECONDS));
    }
    Alignment cleanAt = null;
    if (clean != null) {
      cleanAt =
          known != null && known.cleanAt() != null
              ? known.cleanAt()
              : Matcher.placeOf(source, clean);
    }
    Audio reference = clean == null ? null : Matcher.onSourceTime(source, clean, cleanAt);
    SourceMaterial material =
        SourceMaterial.of(
            source,
            excerpt,
            pauses,
            reference,
            settings.job(),
            known == null ? null : known.pauses());
    List<Notice> warnings = known == null ? warnings(material, settings) : known.warnings();
    return new PreparedExcerpt(material, reference, cleanAt, warnings, settings);
  }

  private static List<Notice> warnings(SourceMaterial material, MatchSettings settings) {
    List<Notice> warnings = new ArrayList<>();
    if (material.ground() instanceof DirectGround direct) {
      direct.problem().ifPresent(p -> warnings.add(Notice.doubting("room: " + p)));
      direct.warning().ifPresent(w -> warnings.add(Notice.doubting("room: " + w)));
    }
    boolean pausesMatter = settings.job() == Job.DENOISE;
    if (pausesMatter) {
      material.pauses().problem().ifPresent(p -> warnings.add(Notice.doubting("pauses: " + p)));
    }
    if (pausesMatter && material.pauses().notSteady()) {
      warnings.add(
          Notice.doubting(
              "pauses: the noise in the pauses is not steady: it may be voices, music or water."
                  + " Readings of what was lost are less certain; mark pauses, or use a test"
                  + " piece"));
    } else if (pausesMatter && material.pauses().activity().unsteady()) {
      warnings.add(
          Notice.doubting(
              "pauses: the noise changes by more than 3 dB; mark the pauses that stand for it"));
    }
    return warnings;
  }

  /** What is to be kept of the source. */
  public Known known() {
    return new Known(source.pauseFacts(), cleanAt, warnings);
  }

  /** The analysed source. */
  public SourceMaterial source() {
    return source;
  }

  /** What the person should know of the source. */
  public List<Notice> warnings() {
    return warnings;
  }

  /**
   * Matches a version.
   *
   * @throws MatchException if it cannot be compared
   */
  public MatchedVersion match(Audio delivered, MatchOverride byHand) throws MatchException {
    return match(delivered, byHand, null, Stop.NEVER);
  }

  private MatchedVersion match(Audio delivered, MatchOverride byHand, Found known, Stop stop)
      throws MatchException {
    return Matcher.match(
        source.forChannels(delivered.channels()), delivered, byHand, settings, known, stop);
  }

  /**
   * Matches a version as its job asks: on the source's time, or through a time map.
   *
   * @param known what was found before; null to look for it
   * @param stop asked now and then
   * @throws MatchException if it cannot be compared
   */
  public Matched matchAny(Audio delivered, MatchOverride byHand, Found known, Stop stop)
      throws MatchException {
    return settings.ownTime()
        ? StretchMatcher.match(source, delivered, byHand, settings, known, stop)
        : match(delivered, byHand, known, stop);
  }

  /**
   * Matches a version in one file by what was asked of it: where it was brought back again, it
   * ought to lie on the source's time.
   *
   * @param version what is known of it
   * @param known what was found before; null to look for it
   * @param stop asked now and then
   * @throws MatchException if it cannot be compared
   */
  public Matched match(Version version, Audio delivered, Found known, Stop stop)
      throws MatchException {
    return settings.ownTime() && !version.back()
        ? StretchMatcher.match(
            source, delivered, version.match(), settings.of(version), known, stop)
        : match(delivered, version.match(), known, stop);
  }

  /**
   * Matches a version in stems.
   *
   * @param known what was found before; null to look for it
   * @param stop asked now and then
   * @throws MatchException if it cannot be compared
   */
  public MatchedStems matchStems(
      Map<String, Audio> stems, MatchOverride byHand, Found known, Stop stop)
      throws MatchException {
    return Matcher.matchStems(source, stems, byHand, known, stop);
  }

  /** Takes all readings of a matched version that its job has. */
  public Readings measure(Matched matched) {
    return measure(matched, Scoring.shipped().measures(settings.job()), Stop.NEVER);
  }

  /** Takes some of the readings of a matched version, for who needs no others. */
  public Readings measure(Matched matched, Set<String> ids) {
    List<Measure> some =
        Scoring.shipped().measures(settings.job()).stream()
            .filter(m -> ids.contains(m.declaration().id()))
            .toList();
    return measure(matched, some, Stop.NEVER);
  }

  /**
   * Takes readings of a matched version.
   *
   * @param stop asked before each of them, and within the longer ones
   */
  public Readings measure(Matched matched, List<Measure> measures, Stop stop) {
    if (matched instanceof MatchedStems stems) {
      StemCells own = cells(Map.of("", stems), Map.of(), stop).get("");
      return measureStems(stems, own, measures, stop).get(Part.ALL.role());
    }
    if (matched instanceof MatchedVersion version && Silence.throughout(version.audio())) {
      return Readings.none(fitting(measures, matched), "the version is silent throughout");
    }
    return Measures.take(fitting(measures, matched), subject(matched, stop), stop);
  }

  /** Of a version that was brought back all that two recordings on one time line can tell. */
  private List<Measure> fitting(List<Measure> measures, Matched matched) {
    return settings.ownTime()
        ? measures.stream()
            .filter(
                m ->
                    matched instanceof StretchedVersion
                        ? m instanceof StretchMeasure
                        : m instanceof PairMeasure)
            .toList()
        : measures;
  }

  /**
   * Whose the cells of the mix are, and what the stems hold in them, for each version in stems.
   *
   * @param versions by id
   * @param truth what the mix was made of, by role; empty if that is not known
   * @param stop asked now and then
   */
  public Map<String, StemCells> cells(
      Map<String, MatchedStems> versions, Map<String, Audio> truth, Stop stop) {
    return StemCells.of(analysis(source.channels()), versions, truth, stop);
  }

  /**
   * Takes readings of a version in stems: of each stem, and under no role those of all of them
   * together, which are means over the stems where a measure knows nothing of the whole.
   *
   * @param cells whose the cells of the mix are
   * @param stop asked before each of them, and within the longer ones
   */
  public Map<String, Readings> measureStems(
      MatchedStems matched, StemCells cells, List<Measure> measures, Stop stop) {
    StemSet set =
        new StemSet(cells.together(), matched, cells.told()).with(RoleTiles.PASS, cells.pass());
    Map<String, Readings> taken = new LinkedHashMap<>();
    Readings whole = Measures.take(measures, set, stop);
    taken.put(Part.ALL.role(), whole);
    matched.parts().keySet().forEach(r -> taken.put(r, Measures.take(measures, set, r, stop)));
    // What was formed of stems is in their mean already.
    List<Readings> stems = List.copyOf(taken.values()).subList(1, 1 + matched.stems().size());
    Readings mean = Combined.of(stems, Collections.nCopies(stems.size(), 1.0), "stems");
    List<Reading> readings = new ArrayList<>(whole.readings());
    mean.readings().stream()
        .filter(r -> whole.reading(r.measure()).isEmpty())
        .forEach(readings::add);
    List<NotMeasured> missing =
        whole.notMeasured().stream()
            .filter(n -> mean.reading(n.measure()).isEmpty())
            .map(
                n ->
                    mean.notMeasured().stream()
                        .filter(m -> m.measure().equals(n.measure()))
                        .findFirst()
                        .orElse(n))
            .toList();
    taken.put(Part.ALL.role(), new Readings(readings, missing));
    return taken;
  }

  /** What can be drawn of the time of a version in its own time. */
  public StretchedTraces traces(StretchedVersion version) {
    return StretchedTraces.of((StretchedPair) subject(version, Stop.NEVER));
  }

  /** What can be drawn of its pitch. */
  public VoiceTraces voices(StretchedVersion version) {
    return VoiceTraces.of((StretchedPair) subject(version, Stop.NEVER));
  }

  private Subject subject(Matched matched, Stop stop) {
    if (matched instanceof MatchedVersion version) {
      return new Pair(analysis(version.aligned().channels()), version, stop);
    }
    StretchedVersion stretched = (StretchedVersion) matched;
    MatchSettings asked = stretched.asked();
    boolean stretch = asked.job() == Job.STRETCH && asked.ratio() != null;
    double ratio = stretch ? asked.ratio() : 1;
    return new StretchedPair(analysis(source.channels()), stretched, ratio, asked.pitchRatio());
  }

  private SourceAnalysis analysis(int channels) {
    return analyses.computeIfAbsent(
        channels,
        c -> {
          SourceMaterial material = source.forChannels(c);
          return new SourceAnalysis(material, excerpt(material), settings.job());
        });
  }

  private Audio excerpt(SourceMaterial material) {
    if (reference == null) {
      return null;
    }
    long from = material.firstFrame();
    Audio there =
        reference.asChannels(material.channels()).slice(from, from + material.audio().frames());
    return Matcher.atSourceLevel(material, there, settings.job());
  }
}
