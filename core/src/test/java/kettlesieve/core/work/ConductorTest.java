package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Function;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.fairness.Fairness;
import kettlesieve.core.match.Alignment;
import kettlesieve.core.match.Found;
import kettlesieve.core.match.LevelMatch;
import kettlesieve.core.match.MapFit;
import kettlesieve.core.match.Match;
import kettlesieve.core.match.Matched;
import kettlesieve.core.media.Checksum;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * One run from files to the sheet: what is reused, what is given up, what is told.
 *
 * <p>Over 400 lines: what a run keeps, forgets and measures anew, case by case.
 */
class ConductorTest {
  private static final int RATE = 16_000;

  /** Nothing here asks for more of it. */
  private static final float[] SPEECH = Arrays.copyOf(Sounds.speech16(), 8 * RATE);

  @TempDir Path folder;

  private Comparison comparison() throws Exception {
    float[] speech = SPEECH;
    float[] noise = Sounds.white(speech.length, 6);
    double factor = Sounds.noiseFactor(speech, noise, 10);
    write("source.wav", Sounds.mix(speech, noise, factor));
    write("mild.wav", Sounds.mix(speech, noise, 0.5 * factor));
    write("strong.wav", Sounds.mix(speech, noise, 0.1 * factor));
    return Comparison.empty("test", Job.DENOISE)
        .withSource(ref("source.wav"))
        .plus(Version.of("v1", "mild", ref("mild.wav")))
        .plus(Version.of("v2", "strong", ref("strong.wav")));
  }

  private MediaRef ref(String name) {
    return MediaRef.of(folder.resolve(name));
  }

  private void write(String name, float[] x) throws Exception {
    Sounds.write(folder.resolve(name), RATE, x);
  }

  private Conductor conductor() {
    return new Conductor(
        new MediaReader(folder.resolve("cache")), new ResultStore(folder.resolve("results")));
  }

  /** Remembers what it was told, in order. */
  private static final class Witness implements Conductor.Listener {
    final List<String> told = new CopyOnWriteArrayList<>();
    volatile Results recalled;

    @Override
    public void progress(String what, double share) {
      told.add(what);
    }

    @Override
    public void recalled(Results results) {
      recalled = results;
    }

    @Override
    public void versionMatched(String versionId, Matched matched) {
      told.add("matched " + versionId);
    }
  }

  @Test
  void aVersionWithoutAFileFailsAlone() throws Exception {
    Comparison c = comparison().plus(Version.of("v3", "nameless", null));
    try (Conductor conductor = conductor()) {
      ScoreSheet sheet = conductor.run(c).sheet();
      assertThat(sheet.entries()).hasSize(2);
      assertThat(sheet.failed()).extracting(f -> f.label()).containsExactly("nameless");
      assertThat(sheet.failed().get(0).reason()).contains("Choose the file again");
    }
  }

  @Test
  void aKeptResultThatWasAlteredIsMadeAgain() throws Exception {
    Comparison c = comparison();
    String first;
    try (Conductor conductor = conductor()) {
      first = ScoresJson.write(conductor.run(c).sheet(), folder);
    }
    try (var files = Files.list(folder.resolve("results"))) {
      for (Path file : files.filter(f -> f.toString().endsWith(".result")).toList()) {
        byte[] bytes = Files.readAllBytes(file);
        bytes[bytes.length / 2] ^= 1;
        Files.write(file, bytes);
      }
    }
    Witness witness = new Witness();
    try (Conductor conductor = conductor()) {
      assertThat(ScoresJson.write(conductor.run(c, witness, Stop.NEVER).sheet(), folder))
          .isEqualTo(first);
    }
    assertThat(witness.told).contains("measuring mild", "measuring strong");
  }

  @Test
  void allVersionsAreMatchedBeforeAnyIsMeasured() throws Exception {
    Witness witness = new Witness();
    try (Conductor conductor = conductor()) {
      conductor.run(comparison(), witness, Stop.NEVER);
    }
    int lastMatched =
        Math.max(witness.told.indexOf("matched v1"), witness.told.indexOf("matched v2"));
    int firstMeasured =
        Math.min(witness.told.indexOf("measuring mild"), witness.told.indexOf("measuring strong"));
    assertThat(lastMatched).isPositive().isLessThan(firstMeasured);
  }

  @Test
  void whatWasFoundOfTheSourceIsKeptAndMeasuresTheSame() throws Exception {
    write("clean.wav", SPEECH);
    for (Comparison c : List.of(comparison(), comparison().withReference(ref("clean.wav")))) {
      Path kept = folder.resolve(c.reference() == null ? "alone" : "with");
      try (Conductor conductor =
          new Conductor(new MediaReader(folder.resolve("cache")), new ResultStore(kept))) {
        conductor.run(c.minus("v2"));
      }
      Witness witness = new Witness();
      String after;
      try (Conductor conductor =
          new Conductor(new MediaReader(folder.resolve("cache")), new ResultStore(kept))) {
        after = ScoresJson.write(conductor.run(c, witness, Stop.NEVER).sheet(), folder);
      }
      assertThat(witness.told).doesNotContain("looking for pauses").contains("measuring strong");
      try (Conductor conductor =
          new Conductor(new MediaReader(folder.resolve("cache")), ResultStore.inMemory())) {
        witness.told.clear();
        String fresh = ScoresJson.write(conductor.run(c, witness, Stop.NEVER).sheet(), folder);
        assertThat(witness.told).contains("looking for pauses");
        assertThat(after).isEqualTo(fresh);
      }
    }
  }

  @Test
  void whatWasMeasuredBeforeIsThereBeforeAnythingIsRead() throws Exception {
    Comparison c = comparison();
    ScoreSheet first;
    try (Conductor conductor = conductor()) {
      first = conductor.run(c).sheet();
    }
    Witness witness = new Witness();
    ScoreSheet again;
    try (Conductor conductor = conductor()) {
      again = conductor.run(c, witness, Stop.NEVER).sheet();
    }
    assertThat(witness.told).noneMatch(t -> t.startsWith("measuring"));
    String text = ScoresJson.write(first, folder);
    assertThat(ScoresJson.write(again, folder)).isEqualTo(text);
    assertThat(witness.recalled).isNotNull();
    assertThat(ScoresJson.write(witness.recalled.sheet(), folder)).isEqualTo(text);
    // Draws are kept whole: places under another profile come out the same.
    assertThat(again.entries().get(0).reading("pause-noise").orElseThrow().estimate().draws())
        .isEqualTo(first.entries().get(0).reading("pause-noise").orElseThrow().estimate().draws());
  }

  /**
   * Whoever closes it, or begins with something else, does not pull the ground from under a run.
   */
  @Test
  void aRunGoesOnWithWhatItReadWhenTheConductorForgets() throws Exception {
    Comparison c = comparison();
    ScoreSheet undisturbed;
    try (Conductor conductor = conductor()) {
      undisturbed = conductor.run(c).sheet();
    }
    Conductor conductor =
        new Conductor(new MediaReader(folder.resolve("cache")), ResultStore.inMemory());
    Conductor.Listener closes =
        new Conductor.Listener() {
          @Override
          public void versionRead(String versionId, Map<String, Recording> files) {
            if (versionId.equals("v2")) {
              conductor.close();
            }
          }
        };
    ScoreSheet disturbed = conductor.run(c, closes, Stop.NEVER).sheet();
    assertThat(ScoresJson.write(disturbed, folder))
        .isEqualTo(ScoresJson.write(undisturbed, folder));
  }

  /** Whatever one version throws, the others are measured, and its failure is told. */
  @Test
  void oneVersionThatBreaksDoesNotStopTheOthers() throws Exception {
    Comparison c = comparison();
    Version mild = c.versions().get(0);
    Comparison absurd =
        c.withVersion(mild.withMatch(new MatchOverride(null, null, null, -1_000_000.0, null)));
    Conductor.Listener breaks =
        new Conductor.Listener() {
          @Override
          public void versionMatched(String versionId, Matched matched) {
            if (versionId.equals("v1")) {
              throw new IllegalStateException("only for this test");
            }
          }
        };
    try (Conductor conductor = conductor()) {
      ScoreSheet sheet = conductor.run(absurd).sheet();
      assertThat(sheet.entries()).singleElement().matches(e -> e.version().id().equals("v2"));
      assertThat(sheet.failed())
          .singleElement()
          .satisfies(
              f ->
                  assertThat(f.reason())
                      .contains("-1,000,000 ppm")
                      .contains("go back to what was found"));
      sheet = conductor.run(c, breaks, Stop.NEVER).sheet();
      assertThat(sheet.entries()).singleElement().matches(e -> e.version().id().equals("v2"));
      assertThat(sheet.failed())
          .singleElement()
          .satisfies(f -> assertThat(f.reason()).contains("an error of its own"));
    }
  }

  /** A place that could not be found by looking shows that it was taken from the store. */
  @Test
  void whereAVersionWasFoundIsKeptWhateverIsSetByHand() throws Exception {
    Comparison c = comparison();
    try (Conductor conductor = conductor()) {
      conductor.run(c);
    }
    Version mild = c.versions().get(0);
    Function<MediaRef, String> checksum =
        ref -> {
          try {
            return Checksum.sha256(ref.file());
          } catch (IOException e) {
            throw new UncheckedIOException(e);
          }
        };
    WorkKey key = WorkKey.ofPlacement(WorkKey.ofSource(c, checksum), mild, checksum);
    ResultStore store = new ResultStore(folder.resolve("results"));
    assertThat(store.found(key))
        .singleElement()
        .extracting(Found::place)
        .isInstanceOfSatisfying(
            Alignment.class, a -> assertThat(a.delaySamples()).isCloseTo(0, within(0.01)));
    Alignment place = new Alignment(7, 0, 1, 0.9);
    LevelMatch level = new LevelMatch(-3.25, "a level from before", List.of("look at it"));
    store.put(key, List.of(new Found(place, place, level)));
    // Another polarity is measured anew, at the place that is known.
    Comparison turned = c.withVersion(mild.withMatch(mild.match().withPolarity(-1)));
    try (Conductor conductor = conductor()) {
      Match match = conductor.run(turned).sheet().entries().get(0).version().match();
      assertThat(match.delaySamples()).isEqualTo(7);
      assertThat(match.levelBasis()).isNotEqualTo("a level from before");
    }
    Comparison byHand = c.withVersion(mild.withMatch(mild.match().withGainDb(1.5)));
    try (Conductor conductor = conductor()) {
      Match match = conductor.run(byHand).sheet().entries().get(0).version().match();
      assertThat(match.delaySamples()).isEqualTo(7);
      assertThat(match.gainDb()).isEqualTo(1.5);
      assertThat(match.levelBasis()).isEqualTo("a level from before");
      assertThat(match.warnings()).contains("look at it");
    }
  }

  @Test
  void theMapOfAStretchedVersionIsKeptWhole() {
    TimeMap map = TimeMap.through(new double[] {0, 1.5, 4}, new double[] {0.1, 2, 5.05});
    MapFit fit = MapFit.of(map, 1.25, 0.08, 0.93);
    Found found = new Found(fit, null, new LevelMatch(1.5, "loudness", List.of()));
    WorkKey key = new WorkKey("a".repeat(64));
    new ResultStore(folder.resolve("results")).put(key, List.of(found, found));
    List<Found> kept = new ResultStore(folder.resolve("results")).found(key);
    assertThat(kept).hasSize(2).first().isEqualTo(found);
    MapFit straight = MapFit.of(TimeMap.IDENTITY, 1, 0, 1);
    new ResultStore(folder.resolve("results")).put(key, List.of(new Found(straight, null, null)));
    MapFit again = (MapFit) new ResultStore(folder.resolve("results")).found(key).get(0).place();
    assertThat(again.map().identity()).isTrue();
  }

  @Test
  void anotherFileOfTheSameNameIsMeasuredAnew() throws Exception {
    Comparison c = comparison();
    try (Conductor conductor = conductor()) {
      conductor.run(c);
    }
    float[] speech = Sounds.speech16();
    float[] noise = Sounds.white(speech.length, 6);
    write("mild.wav", Sounds.mix(speech, noise, 0.4 * Sounds.noiseFactor(speech, noise, 10)));
    Files.setLastModifiedTime(
        folder.resolve("mild.wav"), FileTime.from(Instant.parse("2031-01-01T00:00:00Z")));
    Witness witness = new Witness();
    try (Conductor conductor = conductor()) {
      conductor.run(c, witness, Stop.NEVER);
    }
    assertThat(witness.recalled).isNull();
    assertThat(witness.told).contains("measuring mild").doesNotContain("measuring strong");
  }

  @Test
  void aKeptResultThatIsDamagedIsMadeAgain() throws Exception {
    Comparison c = comparison();
    ScoreSheet first;
    try (Conductor conductor = conductor()) {
      first = conductor.run(c).sheet();
    }
    try (var files = Files.list(folder.resolve("results"))) {
      for (Path file : files.filter(f -> f.toString().endsWith(".result")).toList()) {
        byte[] bytes = Files.readAllBytes(file);
        Files.write(file, Arrays.copyOf(bytes, bytes.length / 2));
      }
    }
    try (Conductor conductor = conductor()) {
      assertThat(ScoresJson.write(conductor.run(c).sheet(), folder))
          .isEqualTo(ScoresJson.write(first, folder));
    }
  }

  @Test
  void aRunThatIsNoLongerWantedEnds() throws Exception {
    Comparison c = comparison();
    for (String at : List.of("looking for pauses", "matching strong", "measuring mild")) {
      AtomicBoolean wanted = new AtomicBoolean(true);
      Conductor.Listener listener =
          new Conductor.Listener() {
            @Override
            public void progress(String what, double share) {
              if (what.equals(at)) {
                wanted.set(false);
              }
            }
          };
      Stop stop =
          () -> {
            if (!wanted.get()) {
              throw new CancellationException();
            }
          };
      try (Conductor conductor =
          new Conductor(new MediaReader(folder.resolve("cache")), ResultStore.inMemory())) {
        assertThatThrownBy(() -> conductor.run(c, listener, stop))
            .as(at)
            .isInstanceOf(CancellationException.class);
      }
    }
  }

  @Test
  void widthFollowsHeapAsWellAsProcessors() {
    long hour = 2 * 337_500L;
    assertThat(new Width(16, 1L << 30).versions(hour)).isBetween(1, 3);
    assertThat(new Width(16, 16L << 30).versions(hour)).isEqualTo(16);
    assertThat(new Width(2, 1L << 30).versions(3000)).isEqualTo(2);
    assertThat(new Width(2, 1L << 20).versions(hour)).isEqualTo(1);
  }

  @Test
  void resultsDoNotDependOnTheWidth() throws Exception {
    Comparison c = comparison();
    List<String> texts = new ArrayList<>();
    for (int processors : new int[] {1, 8}) {
      try (Conductor conductor =
          new Conductor(
              new MediaReader(folder.resolve("cache")),
              ResultStore.inMemory(),
              new Width(processors, 4L << 30),
              Thread::new)) {
        texts.add(ScoresJson.write(conductor.run(c).sheet(), folder));
      }
    }
    assertThat(texts.get(1)).isEqualTo(texts.get(0));
  }

  @Test
  void versionsThatNullAgainstEachOtherAreSaid() throws Exception {
    Comparison c = comparison();
    float[] strong =
        new MediaReader(folder.resolve("cache"))
            .read(folder.resolve("strong.wav"), Progress.SILENT)
            .audio()
            .wholeChannel(0);
    float[] other = strong.clone();
    SplittableRandom random = new SplittableRandom(3);
    for (int i = 0; i < other.length; i++) {
      other[i] = 0.7f * (float) (strong[i] * (1 + 3e-4 * random.nextGaussian()));
    }
    write("other.wav", other);
    Comparison more = c.plus(Version.of("v3", "the same engine", ref("other.wav")));
    try (Conductor conductor = conductor()) {
      List<Fairness.Item> found =
          conductor.run(more).sheet().fairness().stream()
              .filter(i -> i.matter().equals("alike"))
              .toList();
      assertThat(found).hasSize(1);
      assertThat(found.get(0).version()).isEqualTo("the same engine");
      assertThat(found.get(0).found()).matches("nulls against strong to -(6|7)\\d dB");
      assertThat(conductor.run(c).sheet().fairness()).noneMatch(i -> i.matter().equals("alike"));
    }
  }
}
