package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Part;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.report.Answer;
import kettlesieve.core.rig.Order;
import kettlesieve.core.rig.Rig;
import kettlesieve.core.rig.RigTool;
import kettlesieve.core.rig.Run;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.TradeOff;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Versions of which something else was asked, and those that were brought back again. */
class ThereAndBackTest {
  private static final int RATE = 16_000;

  @TempDir Path folder;

  private Comparison comparison;
  private MediaReader reader;

  @BeforeEach
  void source() throws Exception {
    float[] speech = Sounds.speech16();
    Sounds.write(folder.resolve("source.wav"), RATE, java.util.Arrays.copyOf(speech, 9 * RATE));
    reader = new MediaReader(folder.resolve("cache"));
    comparison =
        Comparison.empty("c", Job.STRETCH)
            .withSource(MediaRef.of(folder.resolve("source.wav")))
            .withRatio(0.8);
  }

  private Comparison made(Comparison c, String tool, Setup setup) throws Exception {
    Recording source = reader.read(folder.resolve("source.wav"), Progress.SILENT);
    RigTool inside =
        new RigTool.Inside(
            StandIns.of(c.job()).stream()
                .filter(s -> s.id().equals(tool))
                .findFirst()
                .orElseThrow());
    try (Rig rig = new Rig(reader)) {
      Run run =
          rig.submit(
                  Order.onSource(inside, source, setup, folder.resolve("made")),
                  Progress.SILENT,
                  r -> {})
              .await();
      assertThat(run.problem()).isNull();
      return run.addedTo(c).orElseThrow();
    }
  }

  private ScoreSheet score(Comparison c) throws Exception {
    try (Conductor conductor = new Conductor(reader, ResultStore.inMemory())) {
      return conductor.run(c).sheet();
    }
  }

  private static double value(ScoreSheet sheet, String version, String measure) {
    return sheet.entry(Part.ALL, version).orElseThrow().reading(measure).orElseThrow().value();
  }

  @Test
  void aVersionIsJudgedByWhatWasAskedOfIt() throws Exception {
    Setup usual = Setup.of(comparison, 100);
    Comparison c = made(comparison, "waveform-overlap", usual);
    c = made(c, "waveform-overlap", usual.asking(1.25, 0));
    assertThat(c.versions())
        .extracting(Version::label)
        .containsExactly("Waveform overlap", "Waveform overlap × 1.25");
    assertThat(c.versions()).extracting(Version::ratio).containsExactly(null, 1.25);
    // The same file, taken for what the comparison asks, is off by more than half.
    c = c.plus(c.versions().get(1).withId("v3").withLabel("mistaken").withRatio(null));
    ScoreSheet sheet = score(c);
    assertThat(value(sheet, "v1", "length-error")).isCloseTo(0, within(0.2));
    assertThat(value(sheet, "v2", "length-error")).isCloseTo(0, within(0.2));
    assertThat(value(sheet, "v3", "length-error")).isGreaterThan(50);
    assertThat(sheet.allFairness())
        .anySatisfy(
            i -> {
              assertThat(i.matter()).isEqualTo("target");
              assertThat(i.found())
                  .isEqualTo("asked for 1.25 times the length, the others for 0.8");
            });
    // Kept in the file, and put in order as a sweep.
    Path file = folder.resolve("c.sieve");
    ComparisonFile.save(c, file);
    assertThat(Files.readString(file)).contains("\"ratio\" : 1.25").doesNotContain("\"back\"");
    assertThat(ComparisonFile.load(file).targetSweeps().values())
        .anySatisfy(l -> assertThat(l).extracting(Version::id).startsWith("v1"));
    assertThat(TradeOff.of(sheet, c).targets()).isNotEmpty();
  }

  @Test
  void whatWasBroughtBackIsJudgedAgainstTheSource() throws Exception {
    Setup back = Setup.of(comparison, 100).andBack();
    Comparison c = made(comparison, "waveform-overlap", back);
    c = made(c, "plain-phase-stretch", back);
    c =
        c.plus(
            Version.of("v3", "the source itself", MediaRef.of(folder.resolve("source.wav")))
                .withBack(true));
    c = made(c, "waveform-overlap", Setup.of(comparison, 100));
    Version first = c.versions().get(0);
    assertThat(first.label()).isEqualTo("Waveform overlap, there and back");
    assertThat(first.back()).isTrue();
    ScoreSheet sheet = score(c);
    assertThat(sheet.failed()).isEmpty();
    Entry overlap = sheet.entry(Part.ALL, "v1").orElseThrow();
    Entry vocoder = sheet.entry(Part.ALL, "v2").orElseThrow();
    Entry untouched = sheet.entry(Part.ALL, "v3").orElseThrow();
    assertThat(untouched.card().axes().get(Axis.ADDED).value()).isGreaterThanOrEqualTo(99);
    assertThat(untouched.card().axes().get(Axis.LOST).value()).isGreaterThanOrEqualTo(99);
    assertThat(overlap.reading("length-error")).isEmpty();
    assertThat(overlap.reading("detail-loss")).isPresent();
    // Free phases smear the voice on both ways.
    assertThat(vocoder.card().overall().orElseThrow().value())
        .isLessThan(overlap.card().overall().orElseThrow().value());
    assertThat(overlap.card().overall().orElseThrow().value())
        .isLessThan(untouched.card().overall().orElseThrow().value() + 1e-9);
    // Places are given among their like: the one in its own time stands alone.
    assertThat(untouched.rank()).isEqualTo(1);
    assertThat(sheet.entry(Part.ALL, "v4").orElseThrow().rank()).isEqualTo(1);
    assertThat(sheet.entry(Part.ALL, "v4").orElseThrow().rankTo()).isEqualTo(1);
    assertThat(sheet.entry(Part.ALL, "v4").orElseThrow().reasonNotMeasured("detail-loss"))
        .isEmpty();
    assertThat(sheet.allFairness()).anyMatch(i -> i.matter().equals("there and back"));
    // The source itself scores highest and is no answer to what is to be sent out.
    assertThat(sheet.ranked(Part.ALL).get(0).version().id()).isEqualTo("v4");
    assertThat(sheet.contenders(Part.ALL)).extracting(e -> e.version().id()).containsExactly("v4");
    assertThat(new Answer(sheet, c).lines().get(0)).contains("“Waveform overlap” comes first");
    // Without such a version its readings have no column.
    assertThat(score(c.minus("v1").minus("v2").minus("v3")).columns())
        .extracting(Declaration::id)
        .contains("length-error")
        .doesNotContain("detail-loss", "flutter");
  }

  @Test
  void anIntervalThatWasNotAskedForIsSaidWithItsFigure() throws Exception {
    Comparison pitch =
        Comparison.empty("p", Job.PITCH).withSource(comparison.source()).withSemitones(3.0);
    Comparison c = made(pitch, "resampling-shift", Setup.of(pitch, 100));
    c = made(c, "resampling-shift", Setup.of(pitch, 100).asking(1, 1));
    // The second was made at another interval, and nobody said so.
    c = c.withVersion(c.versions().get(1).withSemitones(null).withLabel("at one"));
    assertThat(score(c).allFairness())
        .filteredOn(i -> i.matter().equals("interval"))
        .singleElement()
        .satisfies(
            i -> {
              assertThat(i.version()).isEqualTo("at one");
              assertThat(i.found()).isEqualTo("moved by +1 semitones, asked for +3");
            });
  }

  @Test
  void aToolFallsApartWhereItsScoresStayLow() {
    TradeOff.TargetSweep sweep =
        new TradeOff.TargetSweep(
            List.of("a", "b", "c", "d", "e", "f"),
            List.of(0.5, 0.67, 0.8, 1.25, 1.5, 2.0),
            List.of(30.0, 45.0, 80.0, 40.0, 70.0, 20.0),
            1);
    assertThat(sweep.fallsApartAt()).containsExactly(0.67, 2.0);
    assertThat(
            new TradeOff.TargetSweep(List.of("a", "b"), List.of(-2.0, 2.0), List.of(60.0, 90.0), 0)
                .fallsApartAt())
        .isEmpty();
  }
}
