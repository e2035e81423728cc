package kettlesieve.core.measure;

import java.util.ArrayList;
import java.util.List;

/**
 * A measured value with all that explains it.
 *
 * @param measure id of the measure
 * @param figure the value
 * @param details further figures
 * @param evidence where it comes from
 * @param by what each offending role has in it; empty where there are no roles
 * @param notes what to know about this reading, in plain words
 */
public record Reading(
    String measure,
    Figure figure,
    List<Detail> details,
    Evidence evidence,
    List<Share> by,
    List<String> notes) {
  public Reading {
    details = List.copyOf(details);
    by = List.copyOf(by);
    notes = List.copyOf(notes);
  }

  /** A reading whose scale applies to its value. */
  public static Reading of(String measure, Estimate estimate) {
    return new Reading(
        measure, Figure.of(estimate), List.of(), Evidence.NONE, List.of(), List.of());
  }

  /** The value in the measure's unit. */
  public double value() {
    return figure.estimate().value();
  }

  /** The value and its distribution. */
  public Estimate estimate() {
    return figure.estimate();
  }

  /** The value that the scale is applied to, and its distribution. */
  public Estimate scored() {
    return figure.scored();
  }

  /** Whether the value is only an edge of what can be measured. */
  public Limit limit() {
    return figure.limit();
  }

  /** Whether a further figure is only such an edge: of a role's share, as that says. */
  public Limit limit(String detail) {
    return by.stream()
        .filter(s -> s.role().equals(detail))
        .map(s -> s.figure().limit())
        .findFirst()
        .orElse(Limit.NONE);
  }

  /** The value over time. */
  public Trace trace() {
    return evidence.trace();
  }

  /** The value per band. */
  public BandSpectrum spectrum() {
    return evidence.spectrum();
  }

  /** The worst places, worst first. */
  public List<Spot> spots() {
    return evidence.spots();
  }

  /** A further figure by its key; NaN if there is none. */
  public double detail(String key) {
    return details.stream()
        .filter(d -> d.key().equals(key))
        .mapToDouble(Detail::value)
        .findFirst()
        .orElse(Double.NaN);
  }

  /** With another value for the scale. */
  public Reading scoredAs(Estimate value) {
    return with(new Figure(figure.estimate(), value, figure.limit()));
  }

  /** With a variation of what is scored that the data themselves do not show. */
  Reading varied(double half) {
    return with(figure.varied(half, measure));
  }

  private Reading with(Figure value) {
    return new Reading(measure, value, details, evidence, by, notes);
  }

  private Reading with(Evidence value) {
    return new Reading(measure, figure, details, value, by, notes);
  }

  /** With further figures. */
  public Reading withDetails(List<Detail> value) {
    return new Reading(measure, figure, value, evidence, by, notes);
  }

  /** With one further figure after those it has. */
  public Reading with(String key, double value, String unit) {
    List<Detail> more = new ArrayList<>(details);
    more.add(new Detail(key, value, unit));
    return withDetails(more);
  }

  /** With its course over time. */
  public Reading withTrace(Trace value) {
    return with(new Evidence(value, spectrum(), spots()));
  }

  /** With its values per band. */
  public Reading withSpectrum(BandSpectrum value) {
    return with(new Evidence(trace(), value, spots()));
  }

  /** With its worst places, worst first. */
  public Reading withSpots(List<Spot> value) {
    return with(new Evidence(trace(), spectrum(), value));
  }

  /** What one role has in it, as a reading; this one if that role has nothing in it. */
  public Reading of(String role) {
    return by.stream()
        .filter(s -> s.role().equals(role))
        .findFirst()
        .map(s -> new Reading(measure, s.figure(), List.of(), s.evidence(), List.of(), notes))
        .orElse(this);
  }

  /** With what to know about it. */
  public Reading withNotes(List<String> value) {
    return new Reading(measure, figure, details, evidence, by, value);
  }
}
