package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;

/**
 * The order of the versions against the clean recording, beside the order of their scores, which
 * know nothing of it. A version comes before another where the readings that decide say so beyond
 * their uncertainty and none of them says the contrary.
 *
 * @param places by the version's id
 * @param disagreements pairs that the scores put the other way round
 */
public record ReferenceOrder(Map<String, Place> places, List<Disagreement> disagreements) {
  /** What decides, where it was read, with the difference that means nothing. */
  private static final Map<String, Double> DECIDE =
      Map.of("delta-sdr", 0.1, "si-sdr", 0.1, "stoi", 0.005);

  /**
   * A place.
   *
   * @param from the best, from 1
   * @param to the worst
   */
  public record Place(int from, int to) {
    /** {@code 1} or {@code 1–3}. */
    public String words() {
      return Places.words(from, to);
    }
  }

  /**
   * Two versions of which the scores say one thing and the clean recording another.
   *
   * @param byScore label of the one with the better score
   * @param byReference label of the one that is nearer to the clean recording
   * @param why the readings that disagree
   */
  public record Disagreement(String byScore, String byReference, String why) {
    /** All of it in one sentence. */
    public String line() {
      return byScore
          + " has the better score, but "
          + byReference
          + " is nearer to the clean recording: "
          + why;
    }
  }

  public ReferenceOrder {
    places = Map.copyOf(places);
    disagreements = List.copyOf(disagreements);
  }

  /** The order of a part of a sheet; empty if nothing was measured against a clean recording. */
  public static Optional<ReferenceOrder> of(ScoreSheet sheet, Part part) {
    List<Entry> entries =
        sheet.entries(part).stream()
            .filter(e -> DECIDE.keySet().stream().anyMatch(id -> e.reading(id).isPresent()))
            .toList();
    if (entries.isEmpty()) {
      return Optional.empty();
    }
    Map<String, Place> places = new LinkedHashMap<>();
    List<Disagreement> disagreements = new ArrayList<>();
    for (Entry one : entries) {
      int better = 0;
      int worse = 0;
      for (Entry other : entries) {
        int order = one == other ? 0 : compare(one, other);
        better += order < 0 ? 1 : 0;
        worse += order > 0 ? 1 : 0;
        if (order < 0 && scores(one, other) > 0) {
          disagreements.add(
              new Disagreement(
                  one.version().label(), other.version().label(), why(sheet, one, other)));
        }
      }
      places.put(one.version().id(), new Place(better + 1, entries.size() - worse));
    }
    return Optional.of(new ReferenceOrder(places, disagreements));
  }

  private static int compare(Entry a, Entry b) {
    boolean forA = false;
    boolean forB = false;
    for (var reading : DECIDE.entrySet()) {
      int sign = compare(a, b, reading.getKey(), reading.getValue());
      forA |= sign > 0;
      forB |= sign < 0;
    }
    return forA == forB ? 0 : forA ? 1 : -1;
  }

  private static int compare(Entry a, Entry b, String id, double meaningless) {
    Optional<Reading> first = a.reading(id);
    Optional<Reading> second = b.reading(id);
    if (first.isEmpty() || second.isEmpty()) {
      return 0;
    }
    return ScoreSheet.compare(first.get().estimate(), second.get().estimate(), meaningless);
  }

  private static int scores(Entry a, Entry b) {
    Optional<Estimate> first = a.card().overall();
    Optional<Estimate> second = b.card().overall();
    return first.isEmpty() || second.isEmpty() ? 0 : ScoreSheet.compare(first.get(), second.get());
  }

  /** What the clean recording says, and the questions on which the scores say the contrary. */
  private static String why(ScoreSheet sheet, Entry scored, Entry near) {
    List<String> words = new ArrayList<>();
    for (Declaration d : sheet.scoring().declarations(sheet.job())) {
      Double meaningless = DECIDE.get(d.id());
      if (meaningless != null && compare(near, scored, d.id(), meaningless) > 0) {
        words.add(
            text(
                "%s %.2f against %.2f%s",
                Measures.declaration(d.id()).title(),
                near.reading(d.id()).orElseThrow().value(),
                scored.reading(d.id()).orElseThrow().value(),
                d.unit().isEmpty() ? "" : " " + d.unit()));
      }
    }
    for (Axis axis : Axis.values()) {
      Estimate better = scored.card().axes().get(axis);
      Estimate worse = near.card().axes().get(axis);
      if (better != null && worse != null && better.value() > worse.value() + 1) {
        words.add(text("%s %.0f against %.0f", axis.title(), worse.value(), better.value()));
      }
    }
    return String.join("; ", words);
  }

  private static String text(String form, Object... values) {
    return String.format(Locale.ROOT, form, values);
  }
}
