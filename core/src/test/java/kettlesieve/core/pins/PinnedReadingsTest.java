package kettlesieve.core.pins;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Share;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.ResultStore;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Every figure that the program gives of the {@link Fixtures}, to four digits, against the table
 * that is kept in {@code core/src/test/resources/pinned-readings.txt}. A change of a definition
 * shows there, line by line; {@code ./kettle pins} writes the table anew, and the difference is
 * reviewed like any other.
 */
class PinnedReadingsTest {
  private static final Path TABLE = Path.of("src/test/resources/pinned-readings.txt");
  private static final Pattern NUMBER = Pattern.compile("-?\\d+\\.\\d+(E[-+]?\\d+)?|-?\\d+");
  private static final int SPOTS = 2;

  @TempDir private Path folder;

  @Test
  void everyFigureIsAsItWas() throws Exception {
    Map<String, String> now = new LinkedHashMap<>();
    for (var fixture : Fixtures.all(folder).entrySet()) {
      try (Conductor conductor =
          new Conductor(new MediaReader(folder.resolve("decoded")), ResultStore.inMemory())) {
        write(fixture.getKey(), fixture.getValue(), conductor, now);
      }
    }
    if (Boolean.getBoolean("pins.remake")) {
      StringBuilder text = new StringBuilder();
      now.forEach((where, what) -> text.append(where).append(" = ").append(what).append('\n'));
      Files.writeString(TABLE, text);
    }
    Map<String, String> kept = new LinkedHashMap<>();
    for (String line : Files.readAllLines(TABLE, StandardCharsets.UTF_8)) {
      int at = line.indexOf(" = ");
      kept.put(line.substring(0, at), line.substring(at + 3));
    }
    List<String> moved = new ArrayList<>();
    TreeSet<String> all = new TreeSet<>(kept.keySet());
    all.addAll(now.keySet());
    for (String where : all) {
      String was = kept.getOrDefault(where, "nothing");
      String is = now.getOrDefault(where, "nothing");
      if (!same(was, is)) {
        moved.add(where + "\n    was " + was + "\n    is  " + is);
      }
    }
    assertThat(moved)
        .as("figures that moved; if they are meant to, remake the table with ./kettle pins")
        .isEmpty();
  }

  /** A measure that no fixture has a reading of would be pinned in name only. */
  @Test
  void everyMeasureIsPinnedInTwoFixturesOrByThreeReadings() throws Exception {
    Map<String, TreeSet<String>> fixtures = new HashMap<>();
    Map<String, Integer> readings = new HashMap<>();
    for (String line : Files.readAllLines(TABLE, StandardCharsets.UTF_8)) {
      String[] where = line.substring(0, line.indexOf(" = ")).split(" \\| ");
      String id = where[where.length - 1];
      if (!line.contains(" = not measured")) {
        fixtures.computeIfAbsent(id, m -> new TreeSet<>()).add(where[0]);
        readings.merge(id, 1, Integer::sum);
      }
    }
    List<String> loose = new ArrayList<>();
    Measures.all().stream()
        .map(m -> m.declaration().id())
        .filter(id -> fixtures.getOrDefault(id, new TreeSet<>()).size() < 2)
        .filter(id -> readings.getOrDefault(id, 0) < 3)
        .forEach(loose::add);
    assertThat(loose).isEmpty();
  }

  private static void write(
      String fixture, Comparison comparison, Conductor conductor, Map<String, String> into)
      throws Exception {
    ScoreSheet sheet = conductor.run(comparison).sheet();
    assertThat(sheet.failed()).as(fixture).isEmpty();
    for (Entry entry : sheet.entries()) {
      String version = fixture + " | " + entry.version().label() + " | ";
      Match m = entry.version().match();
      into.put(
          version + "match",
          text(
              "delay %s gain %s polarity %d ratio %s likeness %s",
              digits(m.delaySamples()),
              digits(m.gainDb()),
              m.polarity(),
              digits(m.ratio()),
              digits(m.confidence())));
      lines(version, sheet, entry, into);
      for (String role : sheet.roles(entry.version().id())) {
        sheet
            .entry(Part.ofRole(role), entry.version().id())
            .ifPresent(e -> lines(version + role + " | ", sheet, e, into));
      }
    }
  }

  private static void lines(String where, ScoreSheet sheet, Entry entry, Map<String, String> into) {
    StringBuilder score = new StringBuilder();
    for (Axis axis : Axis.values()) {
      if (entry.card().axes().get(axis) != null) {
        score.append(axis.id()).append(' ');
        score.append(digits(entry.card().axes().get(axis).value())).append(' ');
      }
    }
    entry
        .card()
        .overall()
        .ifPresent(
            o ->
                score.append(
                    text(
                        "overall %s [%s %s] place %d-%d",
                        digits(o.value()),
                        digits(o.low()),
                        digits(o.high()),
                        entry.rank(),
                        entry.rankTo())));
    into.put(where + "score", score.toString().strip());
    for (Reading r : entry.taken().readings()) {
      into.put(where + r.measure(), words(sheet, r));
    }
    for (NotMeasured n : entry.taken().notMeasured()) {
      into.put(where + n.measure(), "not measured: " + n.reason());
    }
  }

  private static String words(ScoreSheet sheet, Reading r) {
    StringBuilder text = new StringBuilder(r.limit().sign());
    text.append(digits(r.value()));
    text.append(text(" [%s %s]", digits(r.estimate().low()), digits(r.estimate().high())));
    sheet
        .scoring()
        .scale(Measures.declaration(r.measure()), sheet.job())
        .ifPresent(s -> text.append(" score ").append(digits(s.score(r.scored().value()))));
    r.details()
        .forEach(d -> text.append("; ").append(d.key()).append(' ').append(digits(d.value())));
    for (Share share : r.by()) {
      text.append("; by ").append(share.role()).append(' ').append(share.figure().limit().sign());
      text.append(digits(share.figure().estimate().value()));
    }
    for (Spot s : r.spots().subList(0, Math.min(SPOTS, r.spots().size()))) {
      text.append(
          text(
              "; at %s to %s s, %s to %s Hz: %s",
              digits(s.from()),
              digits(s.to()),
              digits(s.low()),
              digits(s.high()),
              digits(s.value())));
    }
    return text.toString();
  }

  /** Four digits; what is under a ten-thousandth is nothing. */
  private static String digits(double value) {
    if (!Double.isFinite(value)) {
      return String.valueOf(value);
    }
    if (Math.abs(value) < 1e-4) {
      return "0";
    }
    int before = (int) Math.floor(Math.log10(Math.abs(value))) + 1;
    return text("%." + Math.max(0, Math.min(4, 4 - before)) + "f", value);
  }

  /** The same words, and numbers that differ by no more than their last digit. */
  private static boolean same(String was, String is) {
    if (!NUMBER.matcher(was).replaceAll("#").equals(NUMBER.matcher(is).replaceAll("#"))) {
      return false;
    }
    Matcher a = NUMBER.matcher(was);
    Matcher b = NUMBER.matcher(is);
    while (a.find() && b.find()) {
      double x = Double.parseDouble(a.group());
      double y = Double.parseDouble(b.group());
      if (Math.abs(x - y) > 1.01e-3 * Math.max(0.1, Math.max(Math.abs(x), Math.abs(y)))) {
        return false;
      }
    }
    return true;
  }

  private static String text(String form, Object... values) {
    return String.format(Locale.ROOT, form, values);
  }
}
