package kettlesieve.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.Matched;
import kettlesieve.core.report.MeasuresTable;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;

/** What every measure keeps to, whoever wrote it. */
class MeasuresContractTest {
  private static final Pattern ROW = Pattern.compile("\\| `([a-z-]+)` \\|");
  private static String documentation;

  @BeforeAll
  static void read() throws Exception {
    documentation = Files.readString(Path.of("..", "docs", "measures.md"));
  }

  static Stream<Measure> all() {
    assertThat(Measures.all()).hasSizeGreaterThan(25);
    return Measures.all().stream();
  }

  @ParameterizedTest
  @MethodSource("all")
  void saysWhatItIs(Measure measure) {
    Declaration d = measure.declaration();
    assertThat(d.id()).matches("[a-z]+(-[a-z]+)*");
    assertThat(d.title()).isNotBlank();
    assertThat(d.unit()).isNotNull();
    assertThat(d.meaning()).endsWith(".");
    assertThat(d.formula()).isNotBlank();
    assertThat(d.source()).isNotBlank();
    assertThat(d.jobs()).isNotEmpty();
    assertThat(Measures.declaration(d.id())).isSameAs(d);
  }

  @ParameterizedTest
  @MethodSource("all")
  void hasAnEntryInTheDocumentation(Measure measure) {
    assertThat(documentation).contains("`" + measure.declaration().id() + "`");
  }

  @ParameterizedTest
  @MethodSource("all")
  void isScoredByAScaleOrInforms(Measure measure) {
    Declaration d = measure.declaration();
    for (Job job : d.jobs()) {
      boolean informs = d.axis(job) == Axis.INFO;
      assertThat(Scoring.shipped().scale(d, job).isPresent())
          .as(d.id() + " in " + job.id())
          .isEqualTo(!informs);
    }
    assertThat(Scoring.shipped().order()).contains(d.id());
  }

  /** A reading or a reason, in every job that it declares: never nothing. */
  @ParameterizedTest
  @EnumSource(Job.class)
  void saysSomethingInEveryJob(Job job) throws Exception {
    Audio source = Audio.of(16_000, Arrays.copyOf(Sounds.speech16(), 80_000));
    MatchSettings settings = new MatchSettings(job, LevelMode.WANTED, 1.0, 0.0);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(source, null, null, null, settings);
    Matched matched =
        job == Job.STEMS
            ? preparedExcerpt.matchStems(
                Map.of("vocals", source), MatchOverride.NONE, null, Stop.NEVER)
            : preparedExcerpt.matchAny(source, MatchOverride.NONE, null, Stop.NEVER);
    Set<String> said = new TreeSet<>();
    say(preparedExcerpt.measure(matched), said);
    if (settings.ownTime()) {
      // Some are taken only of what was brought back, some of both.
      Version back = Version.of("v", "v", null).withBack(true);
      say(preparedExcerpt.measure(preparedExcerpt.match(back, source, null, Stop.NEVER)), said);
    }
    assertThat(said)
        .containsExactlyInAnyOrderElementsOf(
            Measures.of(job).stream().map(m -> m.declaration().id()).toList());
    assertThat(said).contains("level-change");
  }

  private static void say(Readings taken, Set<String> said) {
    taken.readings().forEach(r -> said.add(r.measure()));
    taken
        .notMeasured()
        .forEach(
            n -> {
              said.add(n.measure());
              assertThat(n.reason()).as(n.measure()).isNotBlank().doesNotContain("broke down");
            });
  }

  @Test
  void theLevelIsReadInEveryJobThatDeclaresIt() throws Exception {
    // A stretched version 6 dB down: the reading was declared for the job, and never taken.
    float[] speech = Sounds.speech16();
    MatchSettings settings = new MatchSettings(Job.STRETCH, LevelMode.WANTED, 1.0, null);
    PreparedExcerpt preparedExcerpt =
        PreparedExcerpt.of(Audio.of(16_000, speech), null, null, null, settings);
    Audio quieter = Audio.of(16_000, speech).times(0.5);
    Readings taken =
        preparedExcerpt.measure(
            preparedExcerpt.matchAny(quieter, MatchOverride.NONE, null, Stop.NEVER));
    assertThat(taken.reading("level-change").orElseThrow().value()).isCloseTo(-6.02, within(0.05));
  }

  @Test
  void theTableOfTheDocumentationIsThatOfTheDeclarations() {
    Matcher rows = ROW.matcher(documentation);
    Set<String> documented = new TreeSet<>();
    while (rows.find()) {
      documented.add(rows.group(1));
    }
    Set<String> declared = new TreeSet<>();
    Measures.all().forEach(m -> declared.add(m.declaration().id()));
    assertThat(documented).isEqualTo(declared);
    for (Measure measure : Measures.all()) {
      assertThat(documentation).contains(MeasuresTable.row(measure.declaration()));
    }
  }
}
