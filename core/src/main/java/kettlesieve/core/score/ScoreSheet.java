package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.fairness.Fairness;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;

/**
 * All versions of a comparison with readings, scores and places.
 *
 * @param heading what it is of
 * @param versions in the comparison's order
 * @param ranks scores and places by part and id of the version
 * @param failed versions that could not be used
 * @param notices what the person should know, apart from what matching says of each version
 * @param fairness what was unfair between the versions, and what was done
 * @param nulls stems: what sets from several tools leave of the mix
 */
public record ScoreSheet(
    Heading heading,
    List<Measured> versions,
    Map<Part, Map<String, Ranked>> ranks,
    List<Failure> failed,
    List<Notice> notices,
    List<Fairness.Item> fairness,
    List<SetNull> nulls) {
  private static final double MEANINGLESS = 0.1;
  private static final String NEARNESS = "est-delta-sdr";

  public ScoreSheet {
    versions = List.copyOf(versions);
    ranks = Collections.unmodifiableMap(new LinkedHashMap<>(ranks));
    failed = List.copyOf(failed);
    notices = List.copyOf(notices);
    fairness = List.copyOf(fairness);
    nulls = List.copyOf(nulls);
  }

  /** Scores and ranks measured versions, each part by itself. */
  public static ScoreSheet of(
      Heading heading,
      List<Measured> versions,
      List<Failure> failed,
      List<Notice> notices,
      List<Fairness.Item> fairness) {
    Set<Part> parts = new LinkedHashSet<>(List.of(Part.ALL));
    versions.forEach(v -> parts.addAll(v.taken().keySet()));
    Map<Part, Map<String, Ranked>> ranks = new LinkedHashMap<>();
    for (Part part : parts) {
      List<Measured> there = versions.stream().filter(v -> v.taken().containsKey(part)).toList();
      ranks.put(part, places(heading, there, part));
    }
    List<Notice> all = new ArrayList<>(notices);
    all.addAll(lacking(versions, ranks.get(Part.ALL)));
    return new ScoreSheet(heading, versions, ranks, failed, all, fairness, List.of());
  }

  /** With what sets from several tools leave of the mix. */
  public ScoreSheet withNulls(List<SetNull> value) {
    return new ScoreSheet(heading, versions, ranks, failed, notices, fairness, value);
  }

  private static List<Card> cards(Heading heading, List<Measured> versions, Part part) {
    return versions.stream()
        .map(
            v ->
                Card.of(v.of(part).readings(), heading.scoring(), heading.profile(), heading.job()))
        .toList();
  }

  /** The cards of those that a version is placed among: what was brought back is apart. */
  private static List<Card> alike(List<Measured> versions, List<Card> cards, int own) {
    return IntStream.range(0, cards.size())
        .filter(i -> versions.get(i).version().back() == versions.get(own).version().back())
        .mapToObj(cards::get)
        .toList();
  }

  /** What is said of versions that lack an answer which others have. */
  private static List<Notice> lacking(List<Measured> all, Map<String, Ranked> ranks) {
    List<Measured> versions =
        all.stream().filter(v -> ranks.containsKey(v.version().id())).toList();
    List<Card> cards = versions.stream().map(v -> ranks.get(v.version().id()).card()).toList();
    List<Notice> said = new ArrayList<>();
    for (int i = 0; i < cards.size(); i++) {
      Set<Axis> axes = cards.get(i).lacking(alike(versions, cards, i));
      if (!axes.isEmpty()) {
        String names = axes.stream().map(Axis::title).collect(Collectors.joining(" and "));
        said.add(
            new Notice(
                versions.get(i).version().label(),
                names
                    + " could not be answered: it stands after the versions that have an answer, whatever"
                    + " its other scores"));
      }
    }
    return said;
  }

  private static Map<String, Ranked> places(Heading heading, List<Measured> versions, Part part) {
    List<Card> alone = cards(heading, versions, part);
    List<Card> cards =
        IntStream.range(0, alone.size())
            .mapToObj(i -> alone.get(i).placedAmong(alike(versions, alone, i)))
            .toList();
    Map<String, Ranked> ranks = new LinkedHashMap<>();
    for (int i = 0; i < cards.size(); i++) {
      Card card = cards.get(i);
      List<String> tied = new ArrayList<>();
      int others = 0;
      int better = 0;
      int worse = 0;
      for (int j = 0; j < cards.size(); j++) {
        boolean alike = versions.get(i).version().back() == versions.get(j).version().back();
        if (i == j || !alike || card.overall().isEmpty() || cards.get(j).overall().isEmpty()) {
          continue;
        }
        others++;
        int order = compare(cards.get(j).overall().get(), card.overall().get());
        if (order == 0) {
          tied.add(versions.get(j).version().label());
        } else if (order > 0) {
          better++;
        } else {
          worse++;
        }
      }
      boolean placed = card.overall().isPresent();
      ranks.put(
          versions.get(i).version().id(),
          new Ranked(card, placed ? better + 1 : 0, placed ? others + 1 - worse : 0, tied));
    }
    return ranks;
  }

  /** What was done to the source. */
  public Job job() {
    return heading.job();
  }

  /** The delivery profile of the scores. */
  public Profile profile() {
    return heading.profile();
  }

  /** The scales that the scores were made with. */
  public Scoring scoring() {
    return heading.scoring();
  }

  /** The rows of all that was measured together, in the comparison's order. */
  public List<Entry> entries() {
    return entries(Part.ALL);
  }

  /** The rows of a part, in the comparison's order; versions without it are left out. */
  public List<Entry> entries(Part part) {
    List<Entry> entries = new ArrayList<>();
    Map<String, Ranked> there = ranks.getOrDefault(part, Map.of());
    for (Measured v : versions) {
      Ranked ranked = there.get(v.version().id());
      if (ranked != null) {
        entries.add(new Entry(v.version(), part, v.of(part), ranked));
      }
    }
    return entries;
  }

  /** The row of a part of a version, if it was measured. */
  public Optional<Entry> entry(Part part, String versionId) {
    return entries(part).stream().filter(e -> e.version().id().equals(versionId)).findFirst();
  }

  /**
   * The rows of a part from the best to the worst; those without a score come last, and after all
   * others those that were brought back, which are no result to send out. Equal scores of repaired
   * clipping go by how near they came to the estimated original.
   */
  public List<Entry> ranked(Part part) {
    return entries(part).stream()
        .sorted(
            Comparator.comparing((Entry e) -> e.version().back())
                .thenComparingDouble(e -> -e.card().overall().map(Estimate::value).orElse(-1.0))
                .thenComparingDouble(e -> -e.reading(NEARNESS).map(Reading::value).orElse(0.0)))
        .toList();
  }

  /** The rows with a score that are ranked together with the best, from the best to the worst. */
  public List<Entry> contenders(Part part) {
    List<Entry> scored = ranked(part).stream().filter(Entry::scored).toList();
    return scored.stream()
        .filter(e -> e.version().back() == scored.get(0).version().back())
        .toList();
  }

  /** The excerpts that were measured together, in order; empty if there is but one. */
  public List<String> excerpts() {
    return ranks.keySet().stream()
        .filter(p -> p.role().isEmpty() && !p.excerpt().isEmpty())
        .map(Part::excerpt)
        .toList();
  }

  /** The roles in which a version was judged: its stems, then what was formed of them. */
  public List<String> roles(String versionId) {
    return versions.stream()
        .filter(v -> v.version().id().equals(versionId))
        .flatMap(v -> v.taken().keySet().stream())
        .filter(p -> !p.role().isEmpty() && p.excerpt().isEmpty())
        .map(Part::role)
        .toList();
  }

  /** The measures that have a reading or a reason here, by question, in the sheet's order. */
  public List<Declaration> columns() {
    List<Declaration> columns = new ArrayList<>();
    for (Axis axis : Axis.values()) {
      for (Declaration d : scoring().declarations(job())) {
        boolean shown =
            versions.stream()
                .anyMatch(v -> d.needsReference() ? read(v, d.id()) : asked(v, d.id()));
        if (d.axis(job()) == axis && shown) {
          columns.add(d);
        }
      }
    }
    return columns;
  }

  /** Whether a measure has a reading or a reason: some are taken of versions brought back alone. */
  private static boolean asked(Measured version, String measure) {
    return version.taken().values().stream()
        .anyMatch(t -> t.reading(measure).isPresent() || t.reasonNotMeasured(measure).isPresent());
  }

  private static boolean read(Measured version, String measure) {
    return version.taken().values().stream().anyMatch(t -> t.reading(measure).isPresent());
  }

  /** All that the person should know: of the comparison, then what matching says of each. */
  public List<Notice> allNotices() {
    List<Notice> all = new ArrayList<>(notices);
    for (Measured v : versions) {
      v.version().match().warnings().forEach(w -> all.add(new Notice(v.version().label(), w)));
    }
    return all;
  }

  /** All that was unfair: of each version, then between them. */
  public List<Fairness.Item> allFairness() {
    List<Fairness.Item> all = new ArrayList<>();
    versions.forEach(v -> all.addAll(v.version().fairness()));
    all.addAll(fairness);
    return all;
  }

  /** The same readings under another profile. */
  public ScoreSheet under(Profile other) {
    return of(heading.under(other, scoring()), versions, failed, notices, fairness)
        .withNulls(nulls);
  }

  /** The same readings under a comparison's profile, profiles of its own and weights of roles. */
  public ScoreSheet under(Comparison comparison) {
    Scoring own = Scoring.of(comparison);
    Profile now = own.profileOrDefault(comparison.profile());
    Map<String, Double> weights = comparison.roleWeights();
    boolean alike = weights.equals(heading.roleWeights());
    if (alike && now.equals(heading.profile()) && own.equals(heading.scoring())) {
      return this;
    }
    List<Measured> weighted =
        alike ? versions : versions.stream().map(v -> v.weighted(weights)).toList();
    return of(heading.under(now, own).weighting(weights), weighted, failed, notices, fairness)
        .withNulls(nulls);
  }

  /**
   * 1 if a is better than b beyond the uncertainty, −1 if worse, 0 if they are tied: the 95 %
   * interval of the paired difference (same blocks in each draw) comes within a tenth of a point of
   * zero. Smaller differences than that have no meaning on this scale, however sure they are. Draws
   * that hold no data in either say nothing and are left out.
   */
  public static int compare(Estimate a, Estimate b) {
    return compare(a, b, MEANINGLESS);
  }

  /** The same where another difference means nothing. */
  static int compare(Estimate a, Estimate b, double meaningless) {
    Estimate difference = a.minus(b);
    double[] interval = difference.interval();
    if (interval.length == 0) {
      return 0;
    }
    if (interval[0] > meaningless) {
      return 1;
    }
    return interval[1] < -meaningless ? -1 : 0;
  }
}
