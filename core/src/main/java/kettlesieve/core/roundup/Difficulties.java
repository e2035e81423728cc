package kettlesieve.core.roundup;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import kettlesieve.core.comparison.Made;

/**
 * What tools reach on test pieces, by how hard these are.
 *
 * @param title what the difficulty is
 * @param unit of it
 * @param steps from the easiest to the hardest
 * @param lines mean of the aspect at each step, by the entry's name; NaN where it was not tried
 */
public record Difficulties(
    String title, String unit, List<Double> steps, Map<String, List<Double>> lines) {
  /** Under this a result is of little use, and a fall of this much is a breakdown: points. */
  private static final double USELESS = 40;

  private static final double FALL = 20;

  public Difficulties {
    steps = List.copyOf(steps);
    lines = new LinkedHashMap<>(lines);
  }

  /** Of the test pieces that were made at several difficulties; empty where there are none. */
  public static Optional<Difficulties> of(Roundup roundup) {
    Map<String, Integer> kinds = new TreeMap<>();
    roundup
        .comparisons()
        .forEach(c -> c.difficulty().ifPresent(d -> kinds.merge(d.title(), 1, Integer::sum)));
    String most =
        kinds.entrySet().stream()
            .max(Map.Entry.comparingByValue())
            .map(Map.Entry::getKey)
            .orElse("");
    Made.Difficulty kind = null;
    TreeMap<Double, List<Integer>> at = new TreeMap<>();
    Map<String, Set<Double>> swept = stepsByPiece(roundup);
    for (int i = 0; i < roundup.comparisons().size(); i++) {
      ScoredComparison c = roundup.comparisons().get(i);
      if (c.made() == null || swept.getOrDefault(piece(c.made()), Set.of()).size() < 2) {
        continue;
      }
      Optional<Made.Difficulty> d = roundup.comparisons().get(i).difficulty();
      if (d.isPresent() && d.get().title().equals(most)) {
        kind = d.get();
        at.computeIfAbsent(d.get().value(), v -> new ArrayList<>()).add(i);
      }
    }
    if (at.size() < 2) {
      return Optional.empty();
    }
    List<Double> steps =
        new ArrayList<>(kind.harderWhenLess() ? at.descendingKeySet() : at.keySet());
    Map<String, List<Double>> lines = new LinkedHashMap<>();
    for (Roundup.Row e : roundup.all().entries()) {
      List<Double> line = new ArrayList<>();
      for (double step : steps) {
        line.add(
            at.get(step).stream()
                .filter(e.cells()::containsKey)
                .mapToDouble(c -> e.cells().get(c).value())
                .average()
                .orElse(Double.NaN));
      }
      lines.put(e.name(), line);
    }
    return Optional.of(new Difficulties(kind.title(), kind.unit(), steps, lines));
  }

  /** The difficulties at which each piece was made: others than its own are no easier or harder. */
  private static Map<String, Set<Double>> stepsByPiece(Roundup roundup) {
    Map<String, Set<Double>> all = new TreeMap<>();
    for (ScoredComparison c : roundup.comparisons()) {
      c.difficulty()
          .ifPresent(
              d -> all.computeIfAbsent(piece(c.made()), p -> new TreeSet<>()).add(d.value()));
    }
    return all;
  }

  private static String piece(Made made) {
    return made.from() + "\n" + made.noise() + "\n" + made.room() + "\n" + made.soft();
  }

  /**
   * Where a tool falls apart: the first step at which its score lies under 40, or 20 points under
   * the step before.
   *
   * @return index of that step; empty if it holds all along
   */
  public Optional<Integer> fallsApart(String name) {
    List<Double> line = lines.getOrDefault(name, List.of());
    double before = Double.NaN;
    for (int i = 0; i < line.size(); i++) {
      double now = line.get(i);
      if (now < USELESS || before - now >= FALL) {
        return Optional.of(i);
      }
      before = Double.isFinite(now) ? now : before;
    }
    return Optional.empty();
  }
}
