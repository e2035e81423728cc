package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.report.ScoresCsv;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.report.ScoresTable;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.ResultStore;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Over 400 lines: from readings to JSON, CSV and table, on one made recording. */
class ScoreTest {
  @TempDir Path folder;

  private static Estimate certain(double value) {
    double[] draws = new double[Bootstrap.DRAWS];
    java.util.Arrays.fill(draws, value);
    return new Estimate(value, draws);
  }

  private static Reading reading(String measure, double value) {
    return Reading.of(measure, certain(value));
  }

  @Test
  void scalesAreStraightAndEndAtTheirEnds() {
    Scale falling = new Scale(-50, -15, 1);
    assertThat(falling.score(-50)).isEqualTo(100);
    assertThat(falling.score(-15)).isEqualTo(0);
    assertThat(falling.score(-32.5)).isCloseTo(50, within(1e-9));
    assertThat(falling.score(-90)).isEqualTo(100);
    assertThat(falling.score(0)).isEqualTo(0);
    assertThatThrownBy(() -> new Scale(1, 1, 1)).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void anAxisIsTheRootMeanSquareOfItsShortfalls() {
    Scale flutter = Scoring.shipped().scale("flutter").orElseThrow();
    Scale musical = Scoring.shipped().scale("musical-noise").orElseThrow();
    double half = (musical.full() + musical.zero()) / 2;
    Card card =
        Card.of(
            List.of(
                reading("flutter", flutter.full()),
                reading("musical-noise", half),
                reading("pause-noise", half(scoring("pause-noise")))),
            Scoring.shipped(),
            Scoring.shipped().profileOrDefault("even"),
            Job.DENOISE);
    // 100 points and 50 points.
    double mean = musical.weight() * 50 * 50 / (flutter.weight() + musical.weight());
    assertThat(card.axes().get(Axis.ADDED).value()).isCloseTo(100 - Math.sqrt(mean), within(1e-9));
    assertThat(card.axes()).doesNotContainKey(Axis.LOST);
    assertThat(card.axes().get(Axis.MISSED).value()).isCloseTo(50, within(1e-9));
    // The same over the two questions.
    assertThat(card.overall().orElseThrow().value())
        .isCloseTo(100 - Math.sqrt((mean + 50 * 50) / 2), within(1e-9));
  }

  private static Scale scoring(String measure) {
    return Scoring.shipped().scale(measure).orElseThrow();
  }

  private static double half(Scale scale) {
    return (scale.full() + scale.zero()) / 2;
  }

  @Test
  void oneQuestionAloneIsNoJudgementOfTheWhole() {
    Card card =
        Card.of(
            List.of(reading("flutter", 0)),
            Scoring.shipped(),
            Scoring.shipped().profileOrDefault("even"),
            Job.DENOISE);
    assertThat(card.axes()).containsOnlyKeys(Axis.ADDED);
    assertThat(card.overall()).isEmpty();
  }

  @Test
  void anAxisWithoutTheReadingItStandsOnHasNoScore() {
    // What is left in the pauses could not be measured: bursts alone tell nothing of Missed.
    Card card =
        Card.of(
            List.of(reading("noise-bursts", 0), reading("noise-under-voice", -9)),
            Scoring.shipped(),
            Scoring.shipped().profiles().get(0),
            Job.DENOISE);
    assertThat(card.axes()).isEmpty();
    assertThat(card.overall()).isEmpty();
  }

  @Test
  void withoutReadingsThereIsNoScore() {
    Card card =
        Card.of(
            List.of(reading("noise-cut", 3)),
            Scoring.shipped(),
            Scoring.shipped().profiles().get(0),
            Job.DENOISE);
    assertThat(card.axes()).isEmpty();
    assertThat(card.overall()).isEmpty();
  }

  @Test
  void profilesWeighAndForgive() {
    List<Reading> noisy =
        List.of(reading("pause-noise", -20), reading("flutter", 0), reading("detail-loss", 0));
    double podcast = overall(noisy, "podcast");
    double archive = overall(noisy, "archive");
    assertThat(archive).isGreaterThan(podcast + 15);
  }

  private static double overall(List<Reading> readings, String profile) {
    Scoring scoring = Scoring.shipped();
    return Card.of(readings, scoring, scoring.profile(profile).orElseThrow(), Job.DENOISE)
        .overall()
        .orElseThrow()
        .value();
  }

  @Test
  void everyScoredMeasureHasAScaleAndEveryScaleAMeasure() {
    List<String> scored =
        Measures.all().stream()
            .map(Measure::declaration)
            .filter(d -> d.uses().values().stream().anyMatch(a -> a != Axis.INFO))
            .map(Declaration::id)
            .toList();
    assertThat(Scoring.shipped().scales().keySet()).containsExactlyInAnyOrderElementsOf(scored);
  }

  @Test
  void pairedDifferencesDecideTies() {
    Bootstrap bootstrap = new Bootstrap(20);
    double[] data = new double[20];
    for (int i = 0; i < 20; i++) {
      data[i] = 50 + 10 * Math.sin(i * 7.3);
    }
    Estimate a = bootstrap.estimate(w -> mean(data, w));
    Estimate always = bootstrap.estimate(w -> mean(data, w) + 1);
    Estimate sometimes = bootstrap.estimate(w -> mean(data, w) + (w[3] > 0 ? 2 : -2));
    assertThat(a.high() - a.low()).isGreaterThan(2);
    // The intervals overlap widely, but in every draw the second is better: no tie.
    assertThat(ScoreSheet.compare(always, a)).isEqualTo(1);
    assertThat(ScoreSheet.compare(a, always)).isEqualTo(-1);
    assertThat(ScoreSheet.compare(sometimes, a)).isZero();
    assertThat(ScoreSheet.compare(a, a)).isZero();
  }

  @Test
  void drawsWithoutDataNeverDecideAComparison() {
    double[] some = new double[Bootstrap.DRAWS];
    double[] other = new double[Bootstrap.DRAWS];
    for (int d = 0; d < some.length; d++) {
      some[d] = d % 10 == 0 ? Double.NaN : 60 + Math.sin(d);
      other[d] = 50 + Math.sin(d);
    }
    Estimate better = new Estimate(60, some);
    Estimate worse = new Estimate(50, other);
    // As it was, NaN sorted to the end and only one of the two directions was ever sure.
    assertThat(ScoreSheet.compare(better, worse)).isEqualTo(1);
    assertThat(ScoreSheet.compare(worse, better)).isEqualTo(-1);
    Estimate nothing = new Estimate(60, new double[Bootstrap.DRAWS]).map(x -> Double.NaN);
    assertThat(ScoreSheet.compare(nothing, worse)).isZero();
    assertThat(ScoreSheet.compare(worse, nothing)).isZero();
  }

  /** The flutter that has so many points. */
  private static double flutterOf(double points) {
    Scale scale = Scoring.shipped().scale("flutter").orElseThrow();
    return scale.zero() + points / 100 * (scale.full() - scale.zero());
  }

  @Test
  void aFigureThatIsNoNumberDoesNotPoisonItsAxis() {
    Reading sound = reading("flutter", flutterOf(50));
    Reading empty =
        reading("musical-noise", 0.5).scoredAs(reading("musical-noise", Double.NaN).estimate());
    Card card =
        Card.of(
            List.of(sound, empty),
            Scoring.shipped(),
            Scoring.shipped().profileOrDefault("even"),
            Job.DENOISE);
    assertThat(card.axes().get(Axis.ADDED).value()).isCloseTo(50, within(1e-9));
    assertThat(card.parts().get(Axis.ADDED)).hasSize(1);
  }

  /** Places as ranges: one version surely best, two not told apart, one surely worst. */
  @Test
  void placesAreRangesThatThePairsAllow() {
    double[] wide = new double[Bootstrap.DRAWS];
    double[] crossed = new double[Bootstrap.DRAWS];
    for (int d = 0; d < wide.length; d++) {
      wide[d] = flutterOf(50 + 15 * Math.sin(d));
      crossed[d] = flutterOf(49 - 15 * Math.sin(d));
    }
    List<Measured> versions =
        List.of(
            flutter("worst", reading("flutter", flutterOf(5))),
            flutter("one", Reading.of("flutter", new Estimate(flutterOf(50), wide))),
            flutter("best", reading("flutter", flutterOf(97))),
            flutter("other", Reading.of("flutter", new Estimate(flutterOf(49), crossed))));
    Scoring scoring = Scoring.shipped();
    MediaFacts facts = new MediaFacts("00", 1, "wav", "pcm", 16, false, 48_000, 1, 48_000);
    ScoreSheet sheet =
        ScoreSheet.of(
            new Heading(
                Job.DENOISE, scoring.profileOrDefault(null), scoring, Path.of("s.wav"), facts),
            versions,
            List.of(),
            List.of(),
            List.of());
    List<String> places =
        sheet.entries().stream()
            .map(e -> e.version().label() + " " + Places.words(e.ranked()))
            .toList();
    assertThat(places).containsExactly("worst 4", "one 2–3", "best 1", "other 2–3");
    assertThat(sheet.entries().get(1).tiedWith()).containsExactly("other");
    for (Entry e : sheet.entries()) {
      assertThat(e.tiedWith()).hasSize(e.rankTo() - e.rank());
    }
  }

  private static Measured flutter(String label, Reading reading) {
    MediaFacts facts = new MediaFacts("00", 1, "wav", "pcm", 16, false, 48_000, 1, 48_000);
    Match match =
        new Match(0, 0, 1, 0, 0, 1, 1, 48_000, 1, "wanted sound", 0, 1, List.of(), List.of());
    return Measured.of(
        VersionFacts.of(label, label, Path.of(label + ".wav"), facts, match),
        new Readings(List.of(reading, reading("pause-noise", -60)), List.of()));
  }

  private static double mean(double[] data, int[] weights) {
    double sum = 0;
    double count = 0;
    for (int i = 0; i < data.length; i++) {
      sum += weights[i] * data[i];
      count += weights[i];
    }
    return sum / count;
  }

  @Test
  void bootstrapIntervalOfAMeanIsThatOfTheory() {
    Bootstrap bootstrap = new Bootstrap(200);
    float[] noise = Sounds.white(200, 4);
    double[] data = new double[200];
    for (int i = 0; i < 200; i++) {
      data[i] = noise[i];
    }
    Estimate e = bootstrap.estimate(w -> mean(data, w));
    double expected = 2 * 1.96 / Math.sqrt(200);
    assertThat(e.high() - e.low()).isCloseTo(expected, within(0.2 * expected));
  }

  // --- a whole comparison from files ---

  private Comparison files() throws Exception {
    float[] speech = Sounds.speech16();
    float[] noise = Sounds.white(speech.length, 6);
    double factor = Sounds.noiseFactor(speech, noise, 10);
    write("source.wav", Sounds.mix(speech, noise, factor));
    write("mild.wav", Sounds.mix(speech, noise, 0.5 * factor));
    write("strong.wav", Sounds.mix(speech, noise, 0.1 * factor));
    write("clean.wav", speech);
    java.nio.file.Files.writeString(folder.resolve("broken.wav"), "nothing");
    return Comparison.empty("test", Job.DENOISE)
        .withSource(ref("source.wav"))
        .plus(Version.of("v1", "mild", ref("mild.wav")))
        .plus(Version.of("v2", "broken", ref("broken.wav")))
        .plus(Version.of("v3", "strong", ref("strong.wav")))
        .plus(Version.of("v4", "again", ref("strong.wav")));
  }

  private MediaRef ref(String name) {
    return MediaRef.of(folder.resolve(name));
  }

  private void write(String name, float[] x) throws Exception {
    Sounds.write(folder.resolve(name), 16_000, x);
  }

  private ScoreSheet score(Comparison c) throws MediaException {
    return new Conductor(new MediaReader(folder.resolve("cache")), ResultStore.inMemory())
        .run(c)
        .sheet();
  }

  @Test
  void aWrongFileDoesNotStopTheOthers() throws Exception {
    ScoreSheet sheet = score(files());
    assertThat(sheet.entries()).hasSize(3);
    assertThat(sheet.failed()).hasSize(1);
    assertThat(sheet.failed().get(0).label()).isEqualTo("broken");
    assertThat(sheet.failed().get(0).reason()).contains("Export");
    List<Entry> ranked = sheet.ranked(Part.ALL);
    assertThat(ranked.get(2).version().label()).isEqualTo("mild");
    assertThat(ranked.get(2).rank()).isEqualTo(3);
    assertThat(ranked.get(0).rank()).isEqualTo(1);
    assertThat(ranked.get(0).tiedWith()).hasSize(1);
    assertThat(ranked.get(1).rank()).isEqualTo(1);
  }

  @Test
  void theJsonIsTheContract() throws Exception {
    Comparison c = files().withReference(ref("clean.wav")).withProfile("podcast");
    String text = ScoresJson.write(score(c), folder);
    assertThat(ScoresJson.write(score(c), folder)).isEqualTo(text);
    JsonNode json = new ObjectMapper().readTree(text);
    assertThat(json.path("schema").asText()).isEqualTo("kettle-sieve/scores/1");
    assertThat(json.path("source").path("file").asText()).isEqualTo("source.wav");
    assertThat(json.path("job").asText()).isEqualTo("denoise");
    assertThat(json.path("profile").asText()).isEqualTo("podcast");
    assertThat(json.path("source").path("sampleRate").asInt()).isEqualTo(16_000);
    assertThat(json.path("source").path("sha256").asText()).hasSize(64);
    JsonNode version = json.path("versions").get(1);
    assertThat(version.path("label").asText()).isEqualTo("strong");
    assertThat(fields(version.path("match")))
        .containsExactly(
            "delayMs", "delaySamples", "polarity", "driftPpm", "gainDb", "ratio", "confidence");
    assertThat(version.path("readings").size() + version.path("notMeasured").size())
        .isEqualTo(Measures.of(Job.DENOISE).size());
    for (JsonNode reading : version.path("readings")) {
      assertThat(fields(reading))
          .contains("measure", "axis", "unit", "value", "low", "high", "details", "spots");
      assertThat(reading.path("value").isNumber()).isTrue();
      assertThat(reading.has("score")).isEqualTo(!reading.path("axis").asText().equals("info"));
    }
    assertThat(fields(version.path("axes"))).containsExactly("missed", "added", "lost");
    assertThat(version.path("overall").asDouble()).isBetween(0.0, 100.0);
    assertThat(version.path("rank").asInt()).isEqualTo(1);
    assertThat(version.path("tiedWith").get(0).asText()).isEqualTo("again");
    assertThat(json.path("failed").get(0).path("label").asText()).isEqualTo("broken");
    assertThat(json.path("warnings").isArray()).isTrue();
  }

  private static List<String> fields(JsonNode node) {
    List<String> names = new java.util.ArrayList<>();
    node.fieldNames().forEachRemaining(names::add);
    return names;
  }

  @Test
  void tableAndCsvNameEverything() throws Exception {
    ScoreSheet sheet = score(files());
    String csv = ScoresCsv.write(sheet);
    assertThat(csv)
        .startsWith(
            "version,rank,measure,axis,unit,value,low,high,score,note,rankTo,limit,best\r\n");
    assertThat(csv.lines()).anyMatch(l -> l.startsWith("strong,1,pause-noise,missed,dB,-"));
    assertThat(csv.lines()).anyMatch(l -> l.startsWith("strong,1,score,overall,points,"));
    assertThat(csv.lines()).anyMatch(l -> l.startsWith("broken,") && l.contains("failed"));
    String all = ScoresTable.write(sheet, 80, true);
    assertThat(all).contains("pause-noise [dB]").contains("failed: broken").contains("1–2");
    String brief = ScoresTable.write(sheet, 80, false);
    assertThat(brief.lines().skip(2).limit(4)).allMatch(l -> l.length() <= 80);
  }

  @Test
  void anotherProfileIsTheSameReadingsScoredAgain() throws Exception {
    ScoreSheet even = score(files());
    ScoreSheet podcast = even.under(Scoring.shipped().profile("podcast").orElseThrow());
    assertThat(podcast.versions().get(0)).isSameAs(even.versions().get(0));
    assertThat(podcast.profile().name()).isEqualTo("podcast");
    assertThat(podcast.allNotices()).isEqualTo(even.allNotices());
  }

  @Test
  void excerptsOutsideTheSourceAreRefused() throws Exception {
    Comparison c = files().withExcerpt(new TimeSpan(500, 510));
    assertThatThrownBy(() -> score(c))
        .isInstanceOf(MediaException.class)
        .hasMessageContaining("source.wav")
        .hasMessageContaining("inside it");
    ScoreSheet part = score(files().withExcerpt(new TimeSpan(0.5, 9)));
    Reading dropouts = part.entries().get(0).reading("pause-noise").orElseThrow();
    assertThat(dropouts.spots()).allMatch(s -> s.from() >= 0.5 && s.to() <= 9);
  }

  @Test
  void aChangedFileIsSaid() throws Exception {
    Comparison c = files();
    Version changed = c.versions().get(0).withMedia(ref("mild.wav").withSha256("00ff"));
    assertThat(score(c.withVersion(changed)).allNotices())
        .anyMatch(n -> n.version().equals("mild") && n.text().contains("has changed"));
  }
}
