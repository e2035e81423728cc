package kettlesieve.core.report;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Requirements;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Settling;
import kettlesieve.core.score.TradeOff;

/** What to use and why, in a few sentences. */
public final class Answer {
  private final ScoreSheet sheet;
  private final Comparison comparison;
  private final Optional<Settling> settling;

  /**
   * @param sheet that was ranked
   * @param comparison that it is of
   */
  public Answer(ScoreSheet sheet, Comparison comparison) {
    this.sheet = sheet;
    this.comparison = comparison;
    this.settling = Settling.of(sheet, comparison);
  }

  private static String text(String pattern, Object... values) {
    return String.format(Locale.ROOT, pattern, values);
  }

  static String number(double value) {
    double size = Math.abs(value);
    // What rounds to nothing has no sign.
    double shown = size < 0.005 ? 0 : value;
    return text(size >= 100 ? "%.0f" : size >= 10 ? "%.1f" : "%.2f", shown).replace('-', '−');
  }

  /** A sentence each. */
  public List<String> lines() {
    List<Entry> ranked = sheet.contenders(Part.ALL);
    List<String> answer = new ArrayList<>();
    if (ranked.isEmpty()) {
      answer.add("No version has a score: the readings below say why.");
      return answer;
    }
    Optional<Entry> made = ranked.stream().filter(e -> !e.version().sourceItself()).findFirst();
    if (made.isEmpty()) {
      answer.add("Nothing was done to any version: each is the source itself.");
      return answer;
    }
    if (ranked.get(0).version().sourceItself()) {
      answer.add(untouched(ranked.get(0)));
    }
    Entry first = made.get();
    answer.add(
        settling
            .map(SettlingWords::headline)
            .orElseGet(
                () ->
                    text(
                        "“%s” comes first, with %.0f of 100.",
                        first.version().label(), first.card().overall().orElseThrow().value())));
    plateau(first).ifPresent(answer::add);
    settling
        .map(s -> SettlingWords.settles(s, clock(sheet, comparison)))
        .filter(w -> !w.isEmpty())
        .ifPresent(answer::add);
    answer.add(
        dearest(first)
            .map(r -> text("What costs it most is %s.", words(r)))
            .orElse("None of its readings costs it anything."));
    answer.add(
        delivery(first)
            .orElse(
                ranked.size() == 1
                    ? "There is no other version to set it against."
                    : text(
                        "The last of %d is “%s”, with %.0f.",
                        ranked.size(),
                        ranked.get(ranked.size() - 1).version().label(),
                        ranked.get(ranked.size() - 1).card().overall().orElseThrow().value())));
    return answer;
  }

  /**
   * What the delivery asks for that the leader breaks; empty if it keeps to all that can be told.
   */
  public Optional<String> brokenDelivery() {
    return sheet.contenders(Part.ALL).stream()
        .filter(e -> !e.version().sourceItself())
        .findFirst()
        .filter(
            e ->
                Requirements.of(e, sheet.profile()).stream().anyMatch(o -> !o.meets().orElse(true)))
        .flatMap(this::delivery);
  }

  /** How the leader keeps to the delivery; empty where nothing is asked. */
  private Optional<String> delivery(Entry first) {
    List<Requirements.Outcome> outcomes = Requirements.of(first, sheet.profile());
    return Requirements.word(outcomes)
        .map(word -> text("Delivery for “%s”: %s.", sheet.profile().title(), word))
        .map(words -> words + broken(first, outcomes));
  }

  /** What the leader breaks of what is asked, by how much and where. */
  private String broken(Entry first, List<Requirements.Outcome> outcomes) {
    return outcomes.stream()
        .filter(o -> !o.meets().orElse(true))
        .map(
            o ->
                text(
                    " %s%s.",
                    LimitWords.broken(o, first),
                    LimitWords.worst(o, first)
                        .map(s -> ", worst at " + clock(sheet, comparison).text(s.at()))
                        .orElse("")))
        .collect(Collectors.joining());
  }

  /** Of a leader that is one of several amounts: which of these are as good. */
  private Optional<String> plateau(Entry first) {
    return TradeOff.of(sheet, comparison).sweeps().entrySet().stream()
        .filter(s -> s.getValue().ids().contains(first.version().id()))
        .filter(s -> s.getValue().odds().isPresent())
        .map(s -> s.getKey() + ": " + SweepWords.plateau(s.getValue().odds().get()) + ".")
        .findFirst();
  }

  /** What is said of a version that is the source, where no other is better. */
  private static String untouched(Entry entry) {
    return text(
        "“%s” is the source itself, and no version scores more than doing nothing, %.0f of 100%s.",
        entry.version().label(),
        entry.card().overall().orElseThrow().value(),
        Optional.ofNullable(entry.card().axes().get(Axis.MISSED))
            .map(missed -> text(" (Missed %.0f)", missed.value()))
            .orElse(""));
  }

  /** The score of a reading; empty for what only informs. */
  Optional<Double> score(Reading r) {
    return sheet
        .scoring()
        .scale(Measures.declaration(r.measure()), sheet.job())
        .map(s -> s.score(r.scored().value()));
  }

  private Optional<Reading> dearest(Entry entry) {
    return byCost(entry).stream().findFirst().filter(r -> score(r).orElse(100.0) < 99.5);
  }

  /** The scored readings, the one that costs most first. */
  List<Reading> byCost(Entry entry) {
    return entry.taken().readings().stream()
        .filter(r -> score(r).isPresent() && r.figure().finite())
        .sorted(Comparator.comparingDouble(r -> score(r).orElseThrow()))
        .toList();
  }

  private String words(Reading r) {
    Declaration d = Measures.declaration(r.measure());
    String value = text("%s (%s%s)", d.title(), value(r), d.unit().isEmpty() ? "" : " " + d.unit());
    return r.spots().isEmpty()
        ? value
        : value + ", worst at " + clock(sheet, comparison).text(r.spots().get(0).at());
  }

  /** A reading's number, with the sign before it where it is only a bound. */
  static String value(Reading r) {
    return r.limit().sign() + number(r.value());
  }

  /** How the times of a sheet's source are told. */
  static Clock clock(ScoreSheet sheet, Comparison comparison) {
    MediaFacts source = sheet.heading().source();
    return source == null
        ? Clock.of(comparison, null, 0)
        : Clock.of(comparison, source.startSeconds(), source.sampleRate());
  }
}
