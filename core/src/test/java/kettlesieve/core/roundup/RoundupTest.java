package kettlesieve.core.roundup;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Made;
import kettlesieve.core.comparison.MadeBuilder;
import kettlesieve.core.report.RoundupCsv;
import kettlesieve.core.report.RoundupJson;
import kettlesieve.core.report.RoundupTable;
import kettlesieve.core.report.RoundupWords;
import kettlesieve.core.score.odds.Validity;
import org.junit.jupiter.api.Test;

class RoundupTest {
  private static final String[] LABELS = {"Hiss 30", "Hiss 60", "Gate 40", "own"};

  private static List<ScoredComparison> six() {
    return List.of(
        Scored.of("r1", List.of("fan"), null, Scored.FADING, LABELS, 80, 70, 60, 50),
        Scored.of("r2", List.of("fan"), null, Scored.FADING, LABELS, 71, 70, 60, 50),
        Scored.of("r10", List.of("rain"), null, Scored.FADING, LABELS, 60, 70, 90, 50),
        Scored.of("r3", List.of("rain"), null, Scored.FADING, LABELS, 60, 75, 74, Double.NaN));
  }

  private static Roundup of(List<ScoredComparison> all, Roundup.By by, Aspect aspect) {
    return new RoundupMaker(by, aspect).of(all, List.of());
  }

  @Test
  void meansWinsAndTiesAddUp() {
    Roundup r = of(six(), Roundup.By.VERSION, Aspect.ALL);
    assertThat(r.comparisons())
        .extracting(ScoredComparison::file)
        .containsExactly("r1", "r2", "r3", "r10");
    Roundup.Row first = r.all().entry("Hiss 30").orElseThrow();
    assertThat(first.mean()).isCloseTo((80 + 71 + 60 + 60) / 4.0, within(1e-9));
    // Student's t of 3 degrees of freedom, 3.1824 (any table of it).
    double deviation = Math.sqrt((12.25 * 12.25 + 3.25 * 3.25 + 2 * 7.75 * 7.75) / 3);
    assertThat(first.high() - first.mean()).isCloseTo(3.1824 * deviation / 2, within(1e-3));
    // r1 is won, r2 and r3 are tied by the two best, r10 is won.
    assertThat(first.wins()).isEqualTo(1);
    assertThat(first.ties()).isEqualTo(1);
    assertThat(r.all().entry("Hiss 60").orElseThrow().ties()).isEqualTo(2);
    assertThat(r.all().entry("Gate 40").orElseThrow().wins()).isEqualTo(1);
    int won = r.all().entries().stream().mapToInt(Roundup.Row::wins).sum();
    assertThat(won).isEqualTo(2);
    Roundup.Row own = r.all().entry("own").orElseThrow();
    assertThat(own.measured()).isEqualTo(3);
    assertThat(RoundupWords.answer(r, r.all()).toString()).contains("own (3)");
    for (RoundupTests.Pair p : r.all().tests().orElseThrow().pairs()) {
      assertThat(p.both()).isEqualTo(p.a().equals("own") || p.b().equals("own") ? 3 : 4);
    }
  }

  @Test
  void aToolStandsThereWithTheBestOfItsVersions() {
    Roundup r = of(six(), Roundup.By.TOOL, Aspect.ALL);
    assertThat(r.all().entries())
        .extracting(Roundup.Row::name)
        .containsExactlyInAnyOrder("Hiss", "Gate", "own");
    Roundup.Row hiss = r.all().entry("Hiss").orElseThrow();
    assertThat(hiss.mean()).isCloseTo((80 + 71 + 70 + 75) / 4.0, within(1e-9));
    assertThat(hiss.cells().get(3).label()).isEqualTo("Hiss 60");
    assertThat(hiss.cells().get(3).of()).isEqualTo(2);
  }

  @Test
  void theOrderOfWhatComesInDoesNotMatter() {
    String whole = RoundupJson.write(of(six(), Roundup.By.VERSION, Aspect.ALL), 2);
    for (int seed = 0; seed < 6; seed++) {
      List<ScoredComparison> mixed = new ArrayList<>(six());
      Collections.shuffle(mixed, new Random(seed));
      assertThat(RoundupJson.write(of(mixed, Roundup.By.VERSION, Aspect.ALL), 2)).isEqualTo(whole);
    }
    assertThat(whole).contains("\"schema\": \"kettle-sieve/roundup/1\"".replace(": ", " : "));
  }

  @Test
  void tagsSplitIt() {
    Roundup r = of(six(), Roundup.By.VERSION, Aspect.ALL);
    assertThat(r.byTag().keySet()).containsExactly("fan", "rain");
    assertThat(r.byTag().get("fan").entries().get(0).name()).isEqualTo("Hiss 30");
    assertThat(r.byTag().get("rain").entries().get(0).name()).isEqualTo("Gate 40");
    assertThat(RoundupWords.tags(r).get(0)).startsWith("fan: Hiss 30, 76 over 2 recordings");
    assertThat(RoundupCsv.write(r)).contains("rain,entry,Gate 40");
  }

  @Test
  void questionsAndReadingsHaveTheirOwnDirection() {
    Roundup lost = of(six(), Roundup.By.VERSION, new Aspect("lost", ""));
    assertThat(lost.all().entry("Hiss 30").orElseThrow().cells().get(0).value()).isEqualTo(90);
    List<ScoredComparison> read = new ArrayList<>();
    for (int i = 0; i < 3; i++) {
      ScoredComparison c = Scored.of("r" + i, new String[0]);
      read.add(
          new ScoredComparison(
              c.file(),
              c.name(),
              c.tags(),
              c.job(),
              c.profile(),
              c.sha256(),
              10,
              null,
              c.validity(),
              false,
              List.of(
                  Scored.version("loud", 90, List.of(), Map.of("pause-noise", -20.0 - i)),
                  Scored.version("quiet", 50, List.of(), Map.of("pause-noise", -40.0 - i))),
              List.of()));
    }
    Roundup noise = of(read, Roundup.By.VERSION, new Aspect("pause-noise", ""));
    // Less of what was to go is better.
    assertThat(noise.all().entries().get(0).name()).isEqualTo("quiet");
    assertThat(noise.all().entries().get(0).wins()).isEqualTo(3);
    assertThat(noise.all().tests().orElseThrow().pairs().get(0).better()).isEqualTo(3);
    assertThat(RoundupWords.answer(noise, noise.all()).get(0)).contains("−41.0 dB");
  }

  @Test
  void oddsOverRecordingsKnowWhatDoesNotAverageOut() {
    Validity lasting = new Validity(8, 16, 0.02, 1, 100, "", 1.0, "");
    List<ScoredComparison> one = new ArrayList<>();
    List<ScoredComparison> kept = new ArrayList<>();
    for (int i = 0; i < 9; i++) {
      one.add(Scored.of("r" + i, new String[] {"a", "b"}, 74, 70));
      kept.add(Scored.of("r" + i, List.of(), null, lasting, new String[] {"a", "b"}, 74, 70));
    }
    Roundup.Row fading = of(one, Roundup.By.VERSION, Aspect.ALL).all().entries().get(0);
    // 4 points at τ 8: Φ(4/8) once, Φ(4/(8/3)) over nine recordings whose errors are their own.
    assertThat(fading.better().get("b")).isCloseTo(0.01 + 0.98 * 0.9332, within(1e-3));
    Roundup r = of(kept, Roundup.By.VERSION, Aspect.ALL);
    assertThat(r.all().entries().get(0).better().get("b"))
        .isCloseTo(0.01 + 0.98 * 0.6915, within(1e-3));
    assertThat(RoundupWords.answer(r, r.all()).get(1)).contains("would not make it surer");
    RoundupAnswer answer =
        RoundupAnswer.of(
                of(one, Roundup.By.VERSION, Aspect.ALL),
                of(one, Roundup.By.VERSION, Aspect.ALL).all())
            .orElseThrow();
    assertThat(answer.oneMore()).isGreaterThan(answer.odds());
    assertThat(answer.atMost()).isCloseTo(0.99, within(1e-3));
    double sum = 0;
    for (Roundup.Row e : of(one, Roundup.By.VERSION, Aspect.ALL).all().entries()) {
      sum += e.best();
    }
    assertThat(sum).isCloseTo(1, within(1e-9));
  }

  @Test
  void whoIsBestOnAverageAndFailsOnceIsCalledSo() {
    List<ScoredComparison> all =
        List.of(
            Scored.of("r1", new String[] {"a", "b"}, 95, 75),
            Scored.of("r2", new String[] {"a", "b"}, 94, 74),
            Scored.of("r3", new String[] {"a", "b"}, 96, 75),
            Scored.of("pier", new String[] {"a", "b"}, 30, 70));
    Roundup r = of(all, Roundup.By.VERSION, Aspect.ALL);
    assertThat(RoundupWords.answer(r, r.all()).toString())
        .contains("Best on average, but a fails on “pier”: 30, where b reaches 70.");
    assertThat(RoundupTable.write(r, 2)).contains("fails on “pier”");
  }

  @Test
  void costsAreMediansOverTheAudiosLength() {
    RoundupCost cost =
        of(six(), Roundup.By.TOOL, Aspect.ALL).all().entry("Hiss").orElseThrow().cost();
    // 20 s of work for 10 s of sound; 5 s of processor.
    assertThat(cost.timeRatio()).isEqualTo(2);
    assertThat(cost.processorRatio()).isEqualTo(0.5);
    assertThat(cost.atOnce(4)).isEqualTo(8);
    assertThat(cost.memoryBytes()).isEqualTo(1 << 20);
    assertThat(RoundupWords.cost(cost, 4))
        .isEqualTo(
            "2 × the audio's length, processor 0.5 ×, 8 at once in real time here, 1 MiB,"
                + " free");
  }

  @Test
  void severalJobsAreRefused() {
    ScoredComparison c = Scored.of("r1", LABELS, 1, 2, 3, 4);
    ScoredComparison other =
        new ScoredComparison(
            "s",
            "s",
            List.of(),
            Job.DECLIP,
            "even",
            "x",
            1,
            null,
            c.validity(),
            false,
            c.versions(),
            List.of());
    assertThatThrownBy(() -> of(List.of(c, other), Roundup.By.TOOL, Aspect.ALL))
        .isInstanceOf(IllegalArgumentException.class);
  }

  private static ScoredComparison piece(String from, double snr, double... scores) {
    Made made = MadeBuilder.builder().from(from).noise("pink").snr(snr).build();
    return Scored.of(
        from + snr, List.of(), made, Scored.FADING, new String[] {"holds", "falls"}, scores);
  }

  @Test
  void difficultiesAreThoseOfPiecesMadeAtSeveral() {
    Roundup r =
        of(
            List.of(
                piece("watch", 20, 90, 88),
                piece("watch", 10, 85, 60),
                piece("watch", 0, 70, 30),
                // Made once: it is another recording, no harder one.
                piece("lamp", 5, 99, 99)),
            Roundup.By.VERSION,
            Aspect.ALL);
    Difficulties d = Difficulties.of(r).orElseThrow();
    assertThat(d.steps()).containsExactly(20.0, 10.0, 0.0);
    assertThat(d.lines().get("holds")).containsExactly(90.0, 85.0, 70.0);
    assertThat(d.fallsApart("holds")).isEmpty();
    assertThat(d.fallsApart("falls")).contains(1);
    assertThat(RoundupWords.difficulties(d))
        .contains("falls falls apart at 10 dB (88 before, 60 there).");
    assertThat(Difficulties.of(of(six(), Roundup.By.TOOL, Aspect.ALL))).isEmpty();
  }

  @Test
  void agreementCountsPairsByKind() {
    ScoredComparison base = piece("watch", 10, 1, 1);
    ScoredComparison c =
        new ScoredComparison(
            "f",
            "f",
            List.of(),
            Job.DENOISE,
            "even",
            "x",
            10,
            base.made(),
            base.validity(),
            false,
            List.of(
                Scored.version("a", 90, List.of(), Map.of("si-sdr", 12.0)),
                Scored.version("b", 80, List.of(), Map.of("si-sdr", 11.0)),
                Scored.version("c", 70, List.of(), Map.of("si-sdr", 14.5))),
            List.of());
    Agreement a = Agreement.of(of(List.of(c), Roundup.By.VERSION, Aspect.ALL)).orElseThrow();
    assertThat(a.all()).isEqualTo(new Agreement.Share(3, 1, 2, 0));
    assertThat(a.byKind()).containsOnlyKeys("pink");
  }

  @Test
  void namesGoAsPeopleCount() {
    assertThat(List.of("f-10", "f-2", "f-1", "e 3", "f").stream().sorted(ByNumber.ORDER))
        .containsExactly("e 3", "f", "f-1", "f-2", "f-10");
    assertThat(ByNumber.ORDER.compare("01", "1")).isNotZero();
  }
}
