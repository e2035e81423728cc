package kettlesieve.core.roundup;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import kettlesieve.core.comparison.Job;

/**
 * How often the order by overall score, which knows nothing of the clean recording, agrees with the
 * clean recording: over all pairs of versions of the recordings that have one, by kind of test
 * piece.
 *
 * @param measure the reading against the clean recording that is taken for the truth
 * @param clearFrom pairs that lie so far apart in it are clear, dB
 * @param all over all of them
 * @param byKind by the noise or the damage of the piece
 */
public record Agreement(String measure, double clearFrom, Share all, Map<String, Share> byKind) {
  private static final double CLEAR_DB = 2;
  private static final double NOTHING = 0.1;

  /**
   * Counted pairs.
   *
   * @param pairs that differ in both
   * @param agree those in the same order
   * @param clear pairs that are clear against the clean recording
   * @param clearAgree those in the same order
   */
  public record Share(int pairs, int agree, int clear, int clearAgree) {
    Share plus(Share other) {
      return new Share(
          pairs + other.pairs,
          agree + other.agree,
          clear + other.clear,
          clearAgree + other.clearAgree);
    }
  }

  /** Of a round-up; empty where nothing was measured against a clean recording. */
  public static Optional<Agreement> of(Roundup roundup) {
    String measure = measure(roundup.job());
    Map<String, Share> byKind = new TreeMap<>();
    Share all = new Share(0, 0, 0, 0);
    for (ScoredComparison c : roundup.comparisons()) {
      Share own = share(c, measure);
      if (own.pairs() > 0) {
        all = all.plus(own);
        byKind.merge(kind(c), own, Share::plus);
      }
    }
    return all.pairs() == 0
        ? Optional.empty()
        : Optional.of(new Agreement(measure, CLEAR_DB, all, new LinkedHashMap<>(byKind)));
  }

  /** Whether a reading tells the truth in some job. */
  public static boolean asksFor(String measure) {
    return Arrays.stream(Job.values()).anyMatch(j -> measure(j).equals(measure));
  }

  private static String measure(Job job) {
    return switch (job) {
      case DECLIP -> "delta-sdr";
      case STEMS -> "sdr";
      case DENOISE, DEREVERB, STRETCH, PITCH -> "si-sdr";
    };
  }

  private static String kind(ScoredComparison c) {
    if (c.made() == null) {
      return "not a test piece";
    }
    if (c.made().noise() != null) {
      return c.made().noise();
    }
    return c.made().clip() != null ? "clipped" : c.made().room() != null ? "room" : "other";
  }

  private static Share share(ScoredComparison c, String measure) {
    List<double[]> both = new ArrayList<>();
    for (ScoredVersion v : c.versions()) {
      Double truth = v.all().readings().get(measure);
      if (v.choice() && v.all().overall() != null && truth != null) {
        both.add(new double[] {v.all().overall(), truth});
      }
    }
    int pairs = 0;
    int agree = 0;
    int clear = 0;
    int clearAgree = 0;
    for (int i = 0; i < both.size(); i++) {
      for (int j = 0; j < i; j++) {
        double score = both.get(i)[0] - both.get(j)[0];
        double truth = both.get(i)[1] - both.get(j)[1];
        if (Math.abs(score) <= NOTHING || truth == 0) {
          continue;
        }
        boolean same = score * truth > 0;
        pairs++;
        agree += same ? 1 : 0;
        clear += Math.abs(truth) > CLEAR_DB ? 1 : 0;
        clearAgree += same && Math.abs(truth) > CLEAR_DB ? 1 : 0;
      }
    }
    return new Share(pairs, agree, clear, clearAgree);
  }
}
