package kettlesieve.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.Map;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Part;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.ResultStore;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The demo shows what it is meant to show. */
class KeepersLogTest {
  private static final Path KEPT =
      Path.of(System.getProperty("kettle.kept", "target/kept")).toAbsolutePath();

  private static Comparison comparison;
  private static Map<String, Entry> entries;
  private static ScoreSheet sheet;

  @BeforeAll
  static void make() throws Exception {
    comparison = ComparisonFile.load(KeepersLog.make(KEPT.resolve("demos"), Progress.SILENT));
    try (Conductor conductor =
        new Conductor(
            new MediaReader(KEPT.resolve("decoded")), new ResultStore(KEPT.resolve("results")))) {
      sheet = conductor.run(comparison).sheet();
    }
    entries = sheet.entries().stream().collect(Collectors.toMap(e -> e.version().label(), e -> e));
  }

  private static double value(String label, String measure) {
    return entries.get(label).reading(measure).orElseThrow().value();
  }

  @Test
  void isShortEnoughAndComplete() throws Exception {
    assertThat(sheet.heading().source().seconds()).isBetween(25.0, 40.0);
    assertThat(sheet.heading().source().sampleRate()).isEqualTo(48_000);
    assertThat(comparison.versions()).hasSize(6);
    assertThat(comparison.reference()).isNotNull();
    assertThat(sheet.failed()).isEmpty();
    for (Version v : comparison.versions()) {
      assertThat(Files.exists(v.media().file())).isTrue();
      assertThat(v.amount()).isNotNull();
      assertThat(v.tool()).isNotBlank();
    }
  }

  @Test
  void matchHasSomethingToDo() {
    assertThat(entries.get("Plain subtraction 60").version().match().delayMs())
        .isCloseTo(24, within(0.01));
    assertThat(entries.get("Smoothed Wiener 30").version().match().gainDb())
        .isCloseTo(6.02, within(0.1));
    assertThat(entries.get("Smoothed Wiener 90").version().match().polarity()).isEqualTo(-1);
  }

  @Test
  void strongerAmountsCutMoreNoise() {
    for (String tool : new String[] {"Plain subtraction", "Smoothed Wiener"}) {
      assertThat(value(tool + " 60", "noise-cut"))
          .isGreaterThan(value(tool + " 30", "noise-cut") + 3);
      assertThat(value(tool + " 90", "noise-cut"))
          .isGreaterThan(value(tool + " 60", "noise-cut") + 3);
    }
  }

  @Test
  void subtractionTwittersAndTheSmoothedFilterLess() {
    // At nearly equal noise cut.
    assertThat(value("Plain subtraction 90", "noise-cut"))
        .isCloseTo(value("Smoothed Wiener 60", "noise-cut"), within(3.0));
    assertThat(value("Plain subtraction 90", "musical-noise"))
        .isGreaterThan(value("Smoothed Wiener 60", "musical-noise") + 0.5);
  }

  @Test
  void allReadingsAreTakenAndRanked() {
    for (Entry entry : sheet.entries()) {
      assertThat(entry.taken().notMeasured()).isEmpty();
      assertThat(entry.card().axes()).hasSize(3);
      assertThat(entry.rank()).isBetween(1, 6);
    }
    // The score, which knows no clean recording, has what is nearest to it in first place, alone or
    // with what it cannot tell from that.
    Entry nearest =
        sheet.entries().stream()
            .max(Comparator.comparingDouble(e -> e.reading("si-sdr").orElseThrow().value()))
            .orElseThrow();
    assertThat(nearest.rank()).isEqualTo(1);
    assertThat(sheet.ranked(Part.ALL).subList(0, 3)).contains(nearest);
  }

  @Test
  void anUnfinishedDemoIsMadeAgain(@TempDir Path folder) throws Exception {
    Path half = folder.resolve("half");
    Files.createDirectories(half);
    Files.writeString(half.resolve(KeepersLog.FILE), "{}");
    Path file = KeepersLog.make(half, Progress.SILENT);
    assertThat(ComparisonFile.load(file).versions()).hasSize(6);
  }
}
