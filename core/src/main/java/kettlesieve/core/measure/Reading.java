package kettlesieve.core.measure;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A measured value with all that explains it.
 *
 * @param measure id of the measure
 * @param estimate the value in the measure's unit, and its distribution
 * @param scored the value that the scale is applied to; the same as {@code estimate} for most
 * @param details further figures by stable key
 * @param trace the value over time
 * @param spectrum the value per band
 * @param spots the worst places, worst first, at most {@link #MOST_SPOTS}
 * @param notes what to know about this reading, in plain words
 */
public record Reading(
    String measure,
    Estimate estimate,
    Estimate scored,
    Map<String, Double> details,
    Trace trace,
    BandSpectrum spectrum,
    List<Spot> spots,
    List<String> notes) {
  /** More spots than these are not kept. */
  public static final int MOST_SPOTS = 20;

  public Reading {
    details = Collections.unmodifiableMap(new LinkedHashMap<>(details));
    spots = List.copyOf(spots.subList(0, Math.min(MOST_SPOTS, spots.size())));
    notes = List.copyOf(notes);
  }

  /** A reading whose scale applies to its value. */
  public static Reading of(String measure, Estimate estimate) {
    return new Reading(
        measure, estimate, estimate, Map.of(), Trace.NONE, BandSpectrum.NONE, List.of(), List.of());
  }

  public double value() {
    return estimate.value();
  }

  public Reading scoredAs(Estimate value) {
    return new Reading(measure, estimate, value, details, trace, spectrum, spots, notes);
  }

  public Reading withDetails(Map<String, Double> value) {
    return new Reading(measure, estimate, scored, value, trace, spectrum, spots, notes);
  }

  public Reading withTrace(Trace value) {
    return new Reading(measure, estimate, scored, details, value, spectrum, spots, notes);
  }

  public Reading withSpectrum(BandSpectrum value) {
    return new Reading(measure, estimate, scored, details, trace, value, spots, notes);
  }

  public Reading withSpots(List<Spot> value) {
    return new Reading(measure, estimate, scored, details, trace, spectrum, value, notes);
  }

  public Reading withNotes(List<String> value) {
    return new Reading(measure, estimate, scored, details, trace, spectrum, spots, value);
  }
}
