package kettlesieve.app.model.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Address;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.score.Heading;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.score.VersionFacts;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What stands in the sheet, without a window. */
class SheetModelTest {
  @TempDir Path folder;

  private static Estimate certain(double value) {
    double[] draws = new double[Bootstrap.DRAWS];
    Arrays.fill(draws, value);
    return new Estimate(value, draws);
  }

  private static Measured version(String id, double pauses, double bandwidth) {
    MediaFacts facts = new MediaFacts("00", 1, "wav", "pcm", 16, false, 48_000, 1, 48_000);
    Match match =
        new Match(0, 0, 1, 0, 0, 1, 1, 48_000, 1, "wanted sound", 0, 1, List.of(), List.of());
    List<Reading> readings = new ArrayList<>();
    if (!Double.isNaN(pauses)) {
      readings.add(Reading.of("pause-noise", certain(pauses)));
    }
    readings.add(Reading.of("bandwidth", certain(bandwidth)).scoredAs(certain(0.5)));
    readings.add(Reading.of("detail-loss", certain(0.2)));
    readings.add(Reading.of("noise-cut", certain(7)));
    List<NotMeasured> missing =
        Double.isNaN(pauses)
            ? List.of(new NotMeasured("pause-noise", "there are no pauses"))
            : List.of();
    Readings taken = new Readings(readings, missing);
    return new Measured(
        VersionFacts.of(id, "Version " + id, Path.of(id + ".wav"), facts, match),
        Map.of(Part.ALL, taken, Part.ofExcerpt("first"), taken));
  }

  private static ScoreSheet sheet(Measured... versions) {
    Scoring scoring = Scoring.shipped();
    MediaFacts facts = new MediaFacts("00", 1, "wav", "pcm", 16, false, 48_000, 1, 48_000);
    return ScoreSheet.of(
        new Heading(Job.DENOISE, scoring.profileOrDefault(null), scoring, Path.of("s"), facts),
        List.of(versions),
        List.of(),
        List.of(),
        List.of());
  }

  private SheetModel model(ScoreSheet sheet, SheetLayout layout, List<Part> beside) {
    return SheetModel.of(sheet, Part.ALL, beside, layout, List.of("a", "b", "c"));
  }

  private static List<String> labels(SheetModel model) {
    return model.rows().stream().map(r -> r.entry().version().id() + r.excerpt()).toList();
  }

  @Test
  void rowsGoByTheColumnAndWhatHasNoFigureComesLast() {
    ScoreSheet sheet =
        sheet(version("a", -30, 8000), version("b", Double.NaN, 8000), version("c", -40, 8000));
    SheetLayout layout = new SheetLayout(folder);
    assertThat(labels(model(sheet, layout, List.of()))).containsExactly("a", "b", "c");
    layout.sort("pause-noise");
    assertThat(labels(model(sheet, layout, List.of()))).containsExactly("c", "a", "b");
    layout.sort("pause-noise");
    assertThat(labels(model(sheet, layout, List.of()))).containsExactly("a", "c", "b");
  }

  @Test
  void excerptsStandUnderTheirVersion() {
    SheetModel model =
        model(
            sheet(version("a", -30, 8000)),
            new SheetLayout(folder),
            List.of(Part.ofExcerpt("first")));
    assertThat(labels(model)).containsExactly("a", "afirst");
    SheetModel.Column pauses =
        model.columns().stream()
            .filter(c -> c.id().equals("pause-noise"))
            .findFirst()
            .orElseThrow();
    assertThat(SheetModel.address(model.rows().get(1), pauses))
        .isEqualTo(new Address("a", Part.ofExcerpt("first"), "pause-noise", ""));
  }

  @Test
  void cellsSayTheirFigureOrWhyThereIsNone() {
    SheetModel model =
        model(
            sheet(version("a", -30, 8000), version("b", Double.NaN, 8000)),
            new SheetLayout(folder),
            List.of());
    SheetModel.Column pauses =
        model.columns().stream()
            .filter(c -> c.id().equals("pause-noise"))
            .findFirst()
            .orElseThrow();
    SheetModel.Cell known = model.cell(model.rows().get(0), pauses);
    assertThat(known.text()).isEqualTo("−30.0");
    assertThat(known.score()).isEqualTo(75);
    assertThat(known.spoken()).isEqualTo("Noise in pauses of Version a: −30.0 dB");
    SheetModel.Cell missing = model.cell(model.rows().get(1), pauses);
    assertThat(missing.text()).isEqualTo("–");
    assertThat(missing.hint()).contains("there are no pauses");
    SheetModel.Column missed =
        model.columns().stream()
            .filter(c -> c.group() == Group.MISSED && c.measure() == null)
            .findFirst()
            .orElseThrow();
    assertThat(model.cell(model.rows().get(1), missed).text()).isEqualTo("–");
    assertThat(model.overall(model.rows().get(0)).hint()).contains("place 1");
    // One question alone is no judgement of the whole.
    assertThat(model.overall(model.rows().get(1)).text()).isEqualTo("–");
  }

  @Test
  void whatOnlyInformsIsFoldedAtFirstAndTheDividerIsRemembered() {
    SheetLayout layout = new SheetLayout(folder);
    SheetModel folded = model(sheet(version("a", -30, 8000)), layout, List.of());
    assertThat(folded.columns()).noneMatch(c -> c.id().equals("noise-cut"));
    layout.fold(Group.INFO);
    SheetModel open = model(sheet(version("a", -30, 8000)), layout, List.of());
    assertThat(open.columns()).anyMatch(c -> c.id().equals("noise-cut"));
    layout.divide(0.8);
    assertThat(new SheetLayout(folder).divider()).hasValue(0.8);
  }

  /** The clean recording has a group and an order of its own; who it contradicts is marked. */
  @Test
  void whatIsReadAgainstTheCleanRecordingStandsTogether() {
    ScoreSheet sheet = sheet(near(version("a", -40, 8000), 8), near(version("b", -15, 8000), 16));
    SheetLayout layout = new SheetLayout(folder);
    SheetModel folded = model(sheet, layout, List.of());
    assertThat(folded.columns()).noneMatch(c -> c.id().equals("si-sdr"));
    SheetModel.Column place =
        folded.columns().stream().filter(c -> c.group() == Group.AGAINST).findFirst().orElseThrow();
    assertThat(place.title()).isEqualTo("Place");
    assertThat(folded.cell(folded.rows().get(0), place).text()).isEqualTo("2 ≠");
    assertThat(folded.cell(folded.rows().get(1), place).text()).isEqualTo("1 ≠");
    assertThat(folded.cell(folded.rows().get(1), place).hint())
        .contains("Version a has the better score, but Version b is nearer");
    layout.fold(Group.AGAINST);
    layout.sort("against");
    SheetModel open = model(sheet, layout, List.of());
    assertThat(open.columns()).anyMatch(c -> c.id().equals("si-sdr") && c.group() == Group.AGAINST);
    assertThat(labels(open)).containsExactly("b", "a");
  }

  private static Measured near(Measured version, double siSdr) {
    Readings taken = version.of(Part.ALL);
    List<Reading> readings = new ArrayList<>(taken.readings());
    readings.add(Reading.of("si-sdr", certain(siSdr)));
    return new Measured(
        version.version(), Map.of(Part.ALL, new Readings(readings, taken.notMeasured())));
  }

  @Test
  void theReadingThatCostsMostIsTheFirstToLookAt() {
    ScoreSheet sheet = sheet(version("a", -12, 8000));
    assertThat(SheetModel.costliest(sheet, sheet.entries().get(0))).isEqualTo("pause-noise");
  }
}
