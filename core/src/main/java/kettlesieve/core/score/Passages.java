package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.DoubleUnaryOperator;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;

/**
 * Which version leads in each passage: scores of half seconds, made of the traces of the scored
 * readings about the readings themselves, in the same way as the scores of the whole, paired
 * between versions. Where another is not surely better the leader stays the same, so that the lead
 * does not flicker. A plan for an edit, not an edit.
 *
 * @param passages in order of time, without gaps
 */
public record Passages(List<Passage> passages) {
  /** Length of a passage, seconds. */
  public static final double SECONDS = 2;

  private static final int CELLS = 4;
  private static final double CELL = SECONDS / CELLS;
  private static final double SURE = 1.96;

  /** Less than this many points have no meaning. */
  private static final double LEAST_POINTS = 1;

  /** Under this score nobody masters a passage. */
  private static final double MASTERED = 50;

  /** A change of the lead weighs more than any scores of an hour's passages. */
  private static final double CHANGE = 1e6;

  private static final double WORSE = 1e9;

  /** Cells that a pair must share before anything is said of its scatter. */
  private static final int FEWEST_CELLS = 6;

  /**
   * A passage.
   *
   * @param from seconds of the source
   * @param to seconds of the source
   * @param leader id of the version; empty where nothing could be read
   * @param score of the leader there, 0 to 100
   * @param margin points over the next one; 0 if there is none
   * @param sure whether the next one is surely worse
   * @param mastered whether the leader is any good there
   * @param reason id of the reading that tells the leader from the next one; may be empty
   */
  public record Passage(
      double from,
      double to,
      String leader,
      double score,
      double margin,
      boolean sure,
      boolean mastered,
      String reason) {}

  public Passages {
    passages = List.copyOf(passages);
  }

  /** Of a sheet; empty with fewer than two versions that have traces. */
  public static Optional<Passages> of(ScoreSheet sheet) {
    List<Entry> entries = sheet.contenders(Part.ALL);
    List<TimeCourse> courses = courses(sheet, entries);
    if (entries.size() < 2 || courses.isEmpty()) {
      return Optional.empty();
    }
    double end = courses.stream().mapToDouble(TimeCourse::end).max().orElse(0);
    int cells = CELLS * (int) Math.max(1, Math.round(end / SECONDS));
    double[][] scores = new double[entries.size()][cells];
    for (int v = 0; v < scores.length; v++) {
      for (int c = 0; c < cells; c++) {
        scores[v][c] = overall(sheet.profile(), courses, v, c);
      }
    }
    return Optional.of(
        new Passages(led(entries, courses, scores, cells, sheet.heading().source().seconds())));
  }

  /** A reading's scores of all versions by cell; NaN where one of them has none. */
  private record TimeCourse(
      String measure, Axis axis, double weight, double end, double[][] scores) {
    double at(int version, int cell) {
      return cell < scores[version].length ? scores[version][cell] : Double.NaN;
    }
  }

  private static List<TimeCourse> courses(ScoreSheet sheet, List<Entry> entries) {
    List<TimeCourse> courses = new ArrayList<>();
    for (Declaration d : sheet.scoring().declarations(sheet.job())) {
      Optional<Scale> scale = sheet.scoring().scale(d, sheet.job());
      List<Reading> readings =
          entries.stream().map(e -> e.reading(d.id())).flatMap(Optional::stream).toList();
      boolean traced = readings.stream().allMatch(r -> r.trace().seconds().length > 0);
      if (scale.isEmpty() || readings.size() < entries.size() || !traced) {
        continue;
      }
      double end =
          readings.stream()
              .mapToDouble(r -> r.trace().seconds()[r.trace().seconds().length - 1])
              .max()
              .orElse(0);
      int cells = (int) Math.ceil((end + CELL) / CELL);
      double[][] scores = new double[entries.size()][];
      boolean known = true;
      for (int v = 0; v < scores.length && known; v++) {
        Optional<DoubleUnaryOperator> scored = scored(readings.get(v));
        known = scored.isPresent();
        scores[v] = known ? cells(readings.get(v), scored.get(), scale.get(), cells) : null;
      }
      if (known) {
        paired(scores, cells);
        courses.add(new TimeCourse(d.id(), d.axis(sheet.job()), scale.get().weight(), end, scores));
      }
    }
    return courses;
  }

  /** How what is shown becomes what is scored: as it is, or its magnitude; else it is not known. */
  private static Optional<DoubleUnaryOperator> scored(Reading r) {
    double shown = r.value();
    double scored = r.scored().value();
    if (Math.abs(shown - scored) < 1e-9) {
      return Optional.of(x -> x);
    }
    return Math.abs(Math.abs(shown) - scored) < 1e-9 ? Optional.of(Math::abs) : Optional.empty();
  }

  private static double[] cells(Reading r, DoubleUnaryOperator scored, Scale scale, int cells) {
    double[] sums = new double[cells];
    int[] counts = new int[cells];
    double[] seconds = r.trace().seconds();
    double[] values = r.trace().values();
    for (int i = 0; i < seconds.length; i++) {
      int cell = (int) (Math.max(0, seconds[i]) / CELL);
      if (cell < cells && Double.isFinite(values[i])) {
        sums[cell] += values[i];
        counts[cell]++;
      }
    }
    double[] here = new double[cells];
    for (int c = 0; c < cells; c++) {
      here[c] = counts[c] == 0 ? Double.NaN : scored.applyAsDouble(sums[c] / counts[c]);
    }
    // A trace tells where; how much the whole is worth is told by the reading, often a median.
    double usual = Arrays.stream(here).filter(Double::isFinite).average().orElse(Double.NaN);
    double[] scores = new double[cells];
    for (int c = 0; c < cells; c++) {
      double there = r.scored().value() + here[c] - usual;
      scores[c] = Double.isNaN(there) ? Double.NaN : scale.score(there);
    }
    return scores;
  }

  /** Where one version has nothing, the others are not compared by it either. */
  private static void paired(double[][] scores, int cells) {
    for (int c = 0; c < cells; c++) {
      int cell = c;
      if (Arrays.stream(scores).anyMatch(s -> Double.isNaN(s[cell]))) {
        for (double[] own : scores) {
          own[c] = Double.NaN;
        }
      }
    }
  }

  private static double overall(Profile profile, List<TimeCourse> courses, int version, int cell) {
    Map<Axis, WorstFirst> axes = new LinkedHashMap<>();
    for (TimeCourse course : courses) {
      double score = course.at(version, cell);
      if (!Double.isNaN(score)) {
        axes.computeIfAbsent(course.axis(), a -> new WorstFirst())
            .add(100 - score, course.weight());
      }
    }
    WorstFirst all = new WorstFirst();
    axes.forEach(
        (axis, own) ->
            all.add(profile.shortfall(axis.id(), own.score()), profile.weight(axis.id())));
    return all.score();
  }

  private static List<Passage> led(
      List<Entry> entries, List<TimeCourse> courses, double[][] scores, int cells, double seconds) {
    int count = cells / CELLS;
    double[][] means = new double[count][scores.length];
    for (int p = 0; p < count; p++) {
      for (int v = 0; v < scores.length; v++) {
        means[p][v] = mean(scores[v], p * CELLS);
      }
    }
    int[] leaders = steady(means, scores);
    List<Passage> passages = new ArrayList<>();
    for (int p = 0; p < count; p++) {
      double begin = p * SECONDS;
      // The last one may be short: nothing is said of what is not there.
      double to =
          p + 1 == count && seconds > begin ? Math.min(begin + SECONDS, seconds) : begin + SECONDS;
      if (Double.isNaN(means[p][0])) {
        passages.add(new Passage(begin, to, "", 0, 0, false, true, ""));
        continue;
      }
      int leader = leaders[p];
      int next = next(means[p], leader);
      double margin = means[p][leader] - means[p][next];
      boolean sure = margin > uncertainty(scores[leader], scores[next], p * CELLS);
      passages.add(
          new Passage(
              begin,
              to,
              entries.get(leader).version().id(),
              means[p][leader],
              margin,
              sure,
              means[p][leader] >= MASTERED,
              sure ? reason(courses, leader, next, p * CELLS) : ""));
    }
    return passages;
  }

  /**
   * The leaders with the fewest changes, none of which is surely worse than another in its passage;
   * of those with as few changes the one with the highest scores.
   */
  private static int[] steady(double[][] means, double[][] scores) {
    int versions = scores.length;
    double[][] cost = new double[means.length][versions];
    int[][] before = new int[means.length][versions];
    for (int p = 0; p < means.length; p++) {
      for (int v = 0; v < versions; v++) {
        double own = Double.isNaN(means[p][v]) ? 0 : 100 - means[p][v];
        cost[p][v] = may(means[p], scores, v, p) ? own : WORSE + own;
        if (p > 0) {
          int best = 0;
          for (int u = 0; u < versions; u++) {
            double there = cost[p - 1][u] + (u == v ? 0 : CHANGE);
            double known = cost[p - 1][best] + (best == v ? 0 : CHANGE);
            best = there < known ? u : best;
          }
          before[p][v] = best;
          cost[p][v] += cost[p - 1][best] + (best == v ? 0 : CHANGE);
        }
      }
    }
    int[] leaders = new int[means.length];
    int last = 0;
    for (int v = 1; v < versions; v++) {
      last = cost[means.length - 1][v] < cost[means.length - 1][last] ? v : last;
    }
    for (int p = means.length - 1; p >= 0; p--) {
      leaders[p] = last;
      last = before[p][last];
    }
    return leaders;
  }

  /** Whether no other version is surely better in a passage. */
  private static boolean may(double[] means, double[][] scores, int version, int passage) {
    for (int u = 0; u < means.length; u++) {
      double margin = means[u] - means[version];
      if (margin > uncertainty(scores[u], scores[version], passage * CELLS)) {
        return false;
      }
    }
    return true;
  }

  private static int next(double[] means, int leader) {
    int next = leader == 0 ? 1 : 0;
    for (int v = 0; v < means.length; v++) {
      next = v != leader && means[v] > means[next] ? v : next;
    }
    return next;
  }

  private static double mean(double[] scores, int from) {
    return Arrays.stream(scores, from, Math.min(scores.length, from + CELLS))
        .filter(Double::isFinite)
        .average()
        .orElse(Double.NaN);
  }

  /** Points that the mean difference of a passage may be off: the scatter of all passages. */
  private static double uncertainty(double[] a, double[] b, int from) {
    double squares = 0;
    int freedom = 0;
    int here = 0;
    int shared = 0;
    for (int start = 0; start < a.length; start += CELLS) {
      double sum = 0;
      int n = 0;
      for (int c = start; c < Math.min(a.length, start + CELLS); c++) {
        if (Double.isFinite(a[c] - b[c])) {
          sum += a[c] - b[c];
          n++;
        }
      }
      for (int c = start; c < Math.min(a.length, start + CELLS); c++) {
        if (Double.isFinite(a[c] - b[c])) {
          squares += Math.pow(a[c] - b[c] - sum / n, 2);
        }
      }
      freedom += Math.max(0, n - 1);
      shared += n;
      here = start == from ? n : here;
    }
    if (shared < FEWEST_CELLS || freedom == 0 || here == 0) {
      return Double.POSITIVE_INFINITY;
    }
    return Math.max(LEAST_POINTS, SURE * Math.sqrt(squares / freedom / here));
  }

  private static String reason(List<TimeCourse> courses, int leader, int next, int from) {
    return courses.stream()
        .max(Comparator.comparingDouble(c -> gain(c, leader, next, from)))
        .filter(c -> gain(c, leader, next, from) > 0)
        .map(TimeCourse::measure)
        .orElse("");
  }

  private static double gain(TimeCourse course, int leader, int next, int from) {
    double sum = 0;
    for (int c = from; c < from + CELLS; c++) {
      double difference = course.at(leader, c) - course.at(next, c);
      sum += Double.isFinite(difference) ? course.weight() * difference : 0;
    }
    return sum;
  }

  /** Passages of one leader put together. */
  public List<Passage> stretches() {
    List<Passage> joined = new ArrayList<>();
    for (Passage p : passages) {
      Passage last = joined.isEmpty() ? null : joined.get(joined.size() - 1);
      if (last != null && last.leader().equals(p.leader()) && last.mastered() == p.mastered()) {
        double share = (last.to() - last.from()) / (p.to() - last.from());
        boolean first = last.margin() >= p.margin();
        joined.set(
            joined.size() - 1,
            new Passage(
                last.from(),
                p.to(),
                p.leader(),
                share * last.score() + (1 - share) * p.score(),
                share * last.margin() + (1 - share) * p.margin(),
                last.sure() || p.sure(),
                p.mastered(),
                first && !last.reason().isEmpty() || p.reason().isEmpty()
                    ? last.reason()
                    : p.reason()));
      } else {
        joined.add(p);
      }
    }
    return joined;
  }

  /** The words for a reason. */
  public static String title(String reason) {
    Declaration d = Measures.declaration(reason);
    return d == null ? "" : d.title();
  }
}
