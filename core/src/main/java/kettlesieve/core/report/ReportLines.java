package kettlesieve.core.report;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Mark;
import kettlesieve.core.measure.Part;
import kettlesieve.core.score.ReferenceOrder;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.TradeOff;

/**
 * What a report says in single lines.
 *
 * @param sheet readings, scores and places
 * @param comparison what was compared
 */
record ReportLines(ScoreSheet sheet, Comparison comparison) {
  /** The second order, by nearness to the clean recording. */
  List<String> against() {
    Optional<ReferenceOrder> order = ReferenceOrder.of(sheet, Part.ALL);
    if (order.isEmpty()) {
      return List.of();
    }
    List<String> lines = new ArrayList<>();
    lines.add(
        sheet.entries().stream()
            .filter(e -> order.get().places().containsKey(e.version().id()))
            .sorted(Comparator.comparingInt(e -> order.get().places().get(e.version().id()).from()))
            .map(
                e -> order.get().places().get(e.version().id()).words() + " " + e.version().label())
            .collect(Collectors.joining(", ")));
    order.get().disagreements().forEach(d -> lines.add(d.line()));
    return lines;
  }

  /** Which amounts of a tool are as good as its best. */
  List<String> sweeps() {
    return TradeOff.of(sheet, comparison).sweeps().entrySet().stream()
        .filter(s -> s.getValue().odds().isPresent())
        .map(s -> s.getKey() + ": " + SweepWords.plateau(s.getValue().odds().get()))
        .toList();
  }

  /** What the person marked: where, in which version, what it is, and the note. */
  List<String> marks() {
    Clock clock = Answer.clock(sheet, comparison);
    return comparison.marks().stream()
        .sorted(Comparator.comparingDouble(Mark::from))
        .map(
            m -> {
              StringBuilder line = new StringBuilder(clock.text(m.from()));
              if (m.to() > m.from()) {
                line.append(" to ").append(clock.text(m.to()));
              }
              if (m.low() != null && m.high() != null) {
                line.append(String.format(Locale.ROOT, ", %.0f to %.0f Hz", m.low(), m.high()));
              }
              comparison.version(m.version()).ifPresent(v -> line.append(", ").append(v.label()));
              if (m.axis() != null) {
                line.append(", ").append(m.axis());
              }
              return m.note().isEmpty() ? line.toString() : line + ": " + m.note();
            })
        .toList();
  }
}
