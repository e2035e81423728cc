package kettlesieve.calibrate.odds;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import kettlesieve.core.score.odds.Odds;
import kettlesieve.core.score.odds.OverRecordings;
import kettlesieve.core.score.odds.Validity;

/**
 * Fits which share ρ of the validity error is a tool's own and stays over many recordings. Several
 * sources at a time are drawn from those of the bench, as in a round-up; of two tools the better is
 * the one that the majority of truths prefers in the mean over these sources. By maximum likelihood
 * over all such pairs, with the other numbers as they were fitted on single recordings.
 */
final class OverFit {
  /** How many recordings at a time. */
  static final int[] SIZES = {2, 4, 8};

  private static final int DRAWS = 300;
  private static final long SEED = 20261202;
  private static final double STEP = 0.05;

  private OverFit() {}

  /**
   * Two tools over several recordings.
   *
   * @param recordings how many
   * @param doubt whether the program warns of most
   * @param points by which the first has the higher mean score
   * @param deviation root mean square of the paired deviations
   * @param better whether the first is better in truth
   */
  record Pair(int recordings, boolean doubt, double points, double deviation, boolean better) {
    double said(Validity validity) {
      return validity.betterOver(points, deviation, recordings, doubt);
    }
  }

  /**
   * Several recordings that the same tools were tried on.
   *
   * @param cases the recordings
   * @param tools those in all of them, by name
   */
  record Drawn(List<OddsCase> cases, Map<String, List<OddsCase.Version>> tools) {
    boolean doubt() {
      return 2 * cases.stream().filter(OddsCase::doubt).count() > cases.size();
    }

    private double mean(String tool) {
      return tools.get(tool).stream().mapToDouble(v -> v.score().value()).average().orElseThrow();
    }

    /** Of two: root mean square of the paired deviations, as the round-up has it. */
    private double deviation(String one, String other) {
      double squares = 0;
      for (int i = 0; i < cases.size(); i++) {
        double s =
            Odds.deviation(tools.get(one).get(i).score().minus(tools.get(other).get(i).score()));
        squares += s * s;
      }
      return Math.sqrt(squares / cases.size());
    }

    private double[] truth(String tool) {
      List<OddsCase.Version> all = tools.get(tool);
      double[] means = new double[all.get(0).truth().length];
      for (OddsCase.Version v : all) {
        for (int f = 0; f < means.length; f++) {
          means[f] += v.truth()[f] / all.size();
        }
      }
      return means;
    }

    /** Every two of which the truth prefers one. */
    List<Pair> pairs() {
      List<String> names = List.copyOf(tools.keySet());
      List<Pair> pairs = new ArrayList<>();
      for (int i = 0; i < names.size(); i++) {
        for (int j = 0; j < i; j++) {
          String one = names.get(i);
          String other = names.get(j);
          int truth = OddsCase.majority(truth(one), truth(other));
          if (truth != 0) {
            double points = mean(one) - mean(other);
            pairs.add(new Pair(cases.size(), doubt(), points, deviation(one, other), truth > 0));
          }
        }
      }
      return pairs;
    }

    /** The chance of each to be the best of these recordings, as a round-up says it. */
    Map<String, Double> best(Validity validity) {
      List<OverRecordings.Tried> tried = new ArrayList<>();
      for (String one : tools.keySet()) {
        Map<String, Double> deviations = new LinkedHashMap<>();
        for (String other : tools.keySet()) {
          if (!other.equals(one)) {
            deviations.put(other, deviation(one, other));
          }
        }
        tried.add(new OverRecordings.Tried(one, mean(one), deviations));
      }
      Map<String, Double> best = new LinkedHashMap<>();
      OverRecordings.of(tried, cases.size(), validity, doubt())
          .forEach((name, odds) -> best.put(name, odds.best()));
      return best;
    }

    /** Those that the truth prefers to most others. */
    Set<String> trulyBest() {
      Map<String, Integer> wins = new TreeMap<>();
      for (String one : tools.keySet()) {
        int won = 0;
        for (String other : tools.keySet()) {
          won += OddsCase.majority(truth(one), truth(other)) > 0 ? 1 : 0;
        }
        wins.put(one, won);
      }
      int most = Collections.max(wins.values());
      return wins.entrySet().stream()
          .filter(w -> w.getValue() == most)
          .map(Map.Entry::getKey)
          .collect(Collectors.toCollection(TreeSet::new));
    }
  }

  /** Sets of so many recordings of different sources; empty where there are too few. */
  static List<Drawn> draw(List<OddsCase> cases, int size) {
    Map<String, List<OddsCase>> bySource = new TreeMap<>();
    cases.forEach(c -> bySource.computeIfAbsent(c.source(), s -> new ArrayList<>()).add(c));
    List<Drawn> all = new ArrayList<>();
    if (bySource.size() < size) {
      return all;
    }
    Random random = new Random(SEED + size);
    List<List<OddsCase>> sources = new ArrayList<>(bySource.values());
    for (int d = 0; d < DRAWS; d++) {
      Collections.shuffle(sources, random);
      List<OddsCase> chosen = new ArrayList<>();
      for (List<OddsCase> source : sources.subList(0, size)) {
        chosen.add(source.get(random.nextInt(source.size())));
      }
      Map<String, List<OddsCase.Version>> tools = new TreeMap<>();
      for (OddsCase c : chosen) {
        for (OddsCase.Version v : c.versions()) {
          if (v.choice()) {
            tools.computeIfAbsent(v.tool(), t -> new ArrayList<>()).add(v);
          }
        }
      }
      tools.values().removeIf(v -> v.size() != size);
      if (tools.size() > 1) {
        all.add(new Drawn(chosen, tools));
      }
    }
    return all;
  }

  /** Pairs of all sizes. */
  static List<Pair> pairs(List<OddsCase> cases) {
    List<Pair> pairs = new ArrayList<>();
    for (int size : SIZES) {
      draw(cases, size).forEach(d -> pairs.addAll(d.pairs()));
    }
    return pairs;
  }

  /**
   * The share ρ that costs least; 1 where there are no pairs. Never none: no trial of eight
   * recordings tells none from little, and none would be certain after enough of them.
   */
  static double lasting(List<Pair> pairs, Validity validity) {
    double best = 1;
    double least = loss(pairs, with(validity, 1));
    for (int i = (int) Math.round(1 / STEP) - 1; i > 0; i--) {
      double share = Math.round(100 * STEP * i) / 100.0;
      double loss = loss(pairs, with(validity, share));
      if (loss < least) {
        least = loss;
        best = share;
      }
    }
    return best;
  }

  /** The same numbers with another lasting share. */
  static Validity with(Validity v, double lasting) {
    return new Validity(
        v.tau(),
        v.doubtful(),
        v.failure(),
        v.scatter(),
        v.pairs(),
        v.fitted(),
        lasting,
        v.caution());
  }

  /** Sum of the logarithmic losses, nats. */
  static double loss(List<Pair> pairs, Validity validity) {
    double loss = 0;
    for (Pair p : pairs) {
      double better = p.said(validity);
      loss -= Math.log(p.better() ? better : 1 - better);
    }
    return loss;
  }
}
