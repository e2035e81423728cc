package kettlesieve.core.measure;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Readings of several excerpts put together: the mean, each excerpt weighted by its length, with
 * the draws of the bootstrap averaged in the same way. A measure that could be taken in some
 * excerpts only says so.
 */
public final class Combined {
  private Combined() {}

  /**
   * @param taken the readings, one entry an excerpt
   * @param seconds the excerpts' lengths
   */
  public static Readings of(List<Readings> taken, List<Double> seconds) {
    return of(taken, seconds, "excerpts");
  }

  /**
   * The same of any parts.
   *
   * @param taken the readings, one entry a part
   * @param seconds how much each part counts
   * @param parts what they are, for people, in the plural
   */
  public static Readings of(List<Readings> taken, List<Double> seconds, String parts) {
    if (taken.size() == 1) {
      return taken.get(0);
    }
    Map<String, List<Reading>> readings = new LinkedHashMap<>();
    Map<String, List<Double>> weights = new LinkedHashMap<>();
    Map<String, NotMeasured> missing = new LinkedHashMap<>();
    for (int i = 0; i < taken.size(); i++) {
      for (Reading r : taken.get(i).readings()) {
        readings.computeIfAbsent(r.measure(), m -> new ArrayList<>()).add(r);
        weights.computeIfAbsent(r.measure(), m -> new ArrayList<>()).add(seconds.get(i));
      }
      taken.get(i).notMeasured().forEach(n -> missing.putIfAbsent(n.measure(), n));
    }
    List<Reading> together = new ArrayList<>();
    readings.forEach((m, list) -> together.add(mean(list, weights.get(m), taken.size(), parts)));
    missing.keySet().removeAll(readings.keySet());
    return new Readings(together, List.copyOf(missing.values()));
  }

  private static Reading mean(
      List<Reading> readings, List<Double> weights, int excerpts, String parts) {
    Reading first = readings.get(0);
    List<Detail> details = new ArrayList<>();
    for (Detail d : first.details()) {
      details.add(new Detail(d.key(), detail(readings, weights, d.key()), d.unit()));
    }
    List<String> notes = new ArrayList<>();
    readings.forEach(r -> r.notes().stream().filter(n -> !notes.contains(n)).forEach(notes::add));
    if (readings.size() < excerpts) {
      notes.add("measured in " + readings.size() + " of " + excerpts + " " + parts);
    }
    return new Reading(
        first.measure(),
        new Figure(
            estimate(readings.stream().map(Reading::estimate).toList(), weights),
            estimate(readings.stream().map(Reading::scored).toList(), weights),
            first.figure().limit()),
        details,
        new Evidence(trace(readings), spectrum(readings, weights), spots(readings)),
        List.of(),
        notes);
  }

  private static double detail(List<Reading> readings, List<Double> weights, String key) {
    double sum = 0;
    double total = 0;
    for (int i = 0; i < readings.size(); i++) {
      double value = readings.get(i).detail(key);
      if (Double.isFinite(value)) {
        sum += weights.get(i) * value;
        total += weights.get(i);
      }
    }
    return total > 0 ? sum / total : Double.NaN;
  }

  private static Estimate estimate(List<Estimate> parts, List<Double> weights) {
    double total = weights.stream().mapToDouble(Double::doubleValue).sum();
    double value = 0;
    double[] draws = new double[Bootstrap.DRAWS];
    for (int i = 0; i < parts.size(); i++) {
      double share = weights.get(i) / total;
      value += share * parts.get(i).value();
      for (int d = 0; d < draws.length; d++) {
        double draw = parts.get(i).draws()[d];
        draws[d] += share * (Double.isFinite(draw) ? draw : parts.get(i).value());
      }
    }
    return new Estimate(value, draws);
  }

  private static Trace trace(List<Reading> readings) {
    List<double[]> points = new ArrayList<>();
    for (Reading r : readings) {
      for (int i = 0; i < r.trace().seconds().length; i++) {
        points.add(new double[] {r.trace().seconds()[i], r.trace().values()[i]});
      }
    }
    points.sort(java.util.Comparator.comparingDouble(p -> p[0]));
    return new Trace(
        points.stream().mapToDouble(p -> p[0]).toArray(),
        points.stream().mapToDouble(p -> p[1]).toArray());
  }

  private static BandSpectrum spectrum(List<Reading> readings, List<Double> weights) {
    BandSpectrum first = readings.get(0).spectrum();
    boolean alike = readings.stream().allMatch(r -> Arrays.equals(r.spectrum().hz(), first.hz()));
    if (!alike || first.hz().length == 0) {
      return BandSpectrum.NONE;
    }
    return new BandSpectrum(
        first.hz(),
        bands(readings.stream().map(r -> r.spectrum().version()).toList(), weights),
        bands(readings.stream().map(r -> r.spectrum().source()).toList(), weights));
  }

  private static double[] bands(List<double[]> values, List<Double> weights) {
    int count = values.stream().mapToInt(v -> v.length).min().orElse(0);
    double[] mean = new double[count];
    for (int b = 0; b < count; b++) {
      double sum = 0;
      double total = 0;
      for (int i = 0; i < values.size(); i++) {
        if (Double.isFinite(values.get(i)[b])) {
          sum += weights.get(i) * values.get(i)[b];
          total += weights.get(i);
        }
      }
      mean[b] = total > 0 ? sum / total : Double.NaN;
    }
    return mean;
  }

  /** The worst of each excerpt first, then the second worst of each, and so on. */
  private static List<Spot> spots(List<Reading> readings) {
    List<Spot> spots = new ArrayList<>();
    for (int n = 0; n < Evidence.MOST_SPOTS; n++) {
      for (Reading r : readings) {
        if (n < r.spots().size()) {
          spots.add(r.spots().get(n));
        }
      }
    }
    return spots;
  }
}
