package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.score.BestSet;
import kettlesieve.core.score.ScoreSheet;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Roles that are made of others, stems taken from stems, and sets put together from tools. */
class SumsAndChainsTest {
  private static final int RATE = 16_000;
  private static final int LENGTH = 9 * RATE;

  @TempDir Path folder;

  private final float[] vocals = new float[LENGTH];
  private final float[] drums = new float[LENGTH];
  private final float[] bass = new float[LENGTH];

  @BeforeEach
  void band() throws Exception {
    float[] speech = Sounds.speech16();
    SplittableRandom random = new SplittableRandom(5);
    for (int i = 0; i < LENGTH; i++) {
      vocals[i] = 0.5f * speech[i % speech.length];
      double stroke = i % (RATE * 2 / 5) / (double) RATE;
      drums[i] = (float) (0.25 * Math.exp(-stroke / 0.03) * random.nextGaussian());
      double note = i % (RATE * 3 / 5) / (double) RATE;
      double hz = new double[] {55, 65, 73, 82}[i / (RATE * 3 / 5) % 4];
      bass[i] = (float) (0.2 * Math.exp(-note / 0.4) * Math.sin(2 * Math.PI * hz * i / RATE));
    }
  }

  private static float[] sum(float[]... parts) {
    float[] sum = new float[LENGTH];
    for (float[] part : parts) {
      for (int i = 0; i < LENGTH; i++) {
        sum[i] += part[i];
      }
    }
    return sum;
  }

  private static float[] times(float[] x, double factor) {
    float[] y = new float[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      y[i] = (float) (factor * x[i]);
    }
    return y;
  }

  private MediaRef file(String name, float[] x) throws Exception {
    Sounds.write(folder.resolve(name), RATE, x);
    return MediaRef.of(folder.resolve(name));
  }

  private Stem stem(String name, float[] x) throws Exception {
    return Stem.of(file(name, x));
  }

  private Comparison band(boolean truth) throws Exception {
    Comparison c =
        Comparison.empty("band", Job.STEMS)
            .withSource(file("mix.wav", sum(vocals, drums, bass)))
            .withRoleSums(List.of(new RoleSum("without drums", List.of("drums"), true)));
    return truth
        ? c.withTrueStem("vocals", file("true-v.wav", vocals))
            .withTrueStem("drums", file("true-d.wav", drums))
            .withTrueStem("bass", file("true-b.wav", bass))
        : c;
  }

  /** Gives two parts; the drums it leaves behind are so loud. */
  private Version halves(String id, String label, double drumsLeft) throws Exception {
    Map<String, Stem> stems = new LinkedHashMap<>();
    stems.put("drums", stem(id + "-d.wav", times(drums, 1 - drumsLeft)));
    stems.put(
        "everything but drums", stem(id + "-e.wav", sum(vocals, bass, times(drums, drumsLeft))));
    return Version.ofStems(id, label, stems);
  }

  private Version three(String id, String label, double ofTheDrums) throws Exception {
    Map<String, Stem> stems = new LinkedHashMap<>();
    stems.put("vocals", stem(id + "-v.wav", vocals));
    stems.put("drums", stem(id + "-d.wav", times(drums, ofTheDrums)));
    stems.put("bass", stem(id + "-b.wav", bass));
    return Version.ofStems(id, label, stems);
  }

  private ScoreSheet score(Comparison c) throws Exception {
    try (Conductor conductor =
        new Conductor(new MediaReader(folder.resolve("cache")), ResultStore.inMemory())) {
      return conductor.run(c).sheet();
    }
  }

  private static Reading reading(ScoreSheet sheet, String role, String version, String measure) {
    return sheet.entry(Part.ofRole(role), version).orElseThrow().reading(measure).orElseThrow();
  }

  /** A tool of three stems is compared with one of two on what both can form. */
  @Test
  void theMixWithoutARoleIsJudgedByWhatIsLeftOfThatRole() throws Exception {
    for (boolean truth : new boolean[] {true, false}) {
      ScoreSheet sheet =
          score(
              band(truth)
                  .plus(halves("v1", "halves", 0.1))
                  .plus(three("v2", "three", 0.7))
                  .plus(three("v3", "another three", 1)));
      String role = "everything but drums";
      // 0.3 of the drums are in no stem of the second, so the mix without its drums has them.
      double leftDb = 20 * Math.log10(0.3);
      assertThat(reading(sheet, role, "v2", "bleed").value()).isCloseTo(leftDb, within(1.5));
      assertThat(reading(sheet, role, "v1", "bleed").value())
          .isLessThan(reading(sheet, role, "v2", "bleed").value() - 6);
      assertThat(reading(sheet, role, "v3", "bleed").value()).isLessThan(-20);
      assertThat(reading(sheet, role, "v2", "bleed").by())
          .extracting(s -> s.role())
          .containsExactly("drums");
      // Without true stems nothing under 15 dB can be told, and that is what it says.
      assertThat(reading(sheet, role, "v2", "missing").value())
          .isLessThanOrEqualTo(truth ? -20 : -15);
      assertThat(sheet.roles("v2")).endsWith(role);
      assertThat(sheet.roles("v1")).containsExactly("drums", role);
      assertThat(ScoresJson.write(sheet, folder)).contains("\"formed\" : true");
      // It is in none of the means, and leaves the null test alone.
      assertThat(sheet.entry(Part.ALL, "v3").orElseThrow().reading("bleed").orElseThrow().notes())
          .noneMatch(n -> n.contains("of 4"));
      assertThat(sheet.entry(Part.ALL, "v3").orElseThrow().reading("sum-residual").orElseThrow())
          .satisfies(r -> assertThat(r.value()).isLessThan(-90));
    }
  }

  @Test
  void aChainShowsInWhichOfItsStepsTheLossArose() throws Exception {
    float[] dull = Sounds.lowPass(vocals, RATE, 900);
    Version cut = halves("v1", "cut", 0);
    cut = cut.withStem("everything but drums", stem("cut-e.wav", sum(dull, bass)));
    Stem.Origin fromCut = new Stem.Origin("cut", "everything but drums", null);
    Stem.Origin fromWhole = new Stem.Origin("whole", "without drums", null);
    Comparison c =
        band(true)
            .plus(cut)
            .plus(three("v2", "whole", 1))
            .plus(
                Version.ofStems(
                    "v3",
                    "after cut",
                    Map.of("vocals", new Stem(file("after-cut.wav", dull), fromCut))))
            .plus(
                Version.ofStems(
                    "v4",
                    "after whole",
                    Map.of("vocals", new Stem(file("after-whole.wav", dull), fromWhole))));
    ScoreSheet sheet = score(c);
    Reading early = reading(sheet, "vocals", "v3", "missing");
    Reading late = reading(sheet, "vocals", "v4", "missing");
    assertThat(early.detail("kept")).isLessThan(-1);
    assertThat(early.detail("step 1")).isCloseTo(early.detail("kept"), within(0.3));
    assertThat(early.notes()).anyMatch(n -> n.contains("was lost in everything but drums of cut"));
    assertThat(late.detail("step 1")).isGreaterThan(-0.3);
    assertThat(late.notes())
        .anyMatch(n -> n.contains("in the last step, out of without drums of whole"));
  }

  @Test
  void theBestSetIsOneDivisionOfTheMixAndHasANullOfItsOwn() throws Exception {
    Comparison c = band(true).plus(three("v1", "weak drums", 0.5)).plus(three("v2", "three", 1));
    Version noVoice = three("v3", "weak voice", 1);
    noVoice =
        noVoice.withStem("vocals", stem("weak-v.wav", sum(times(vocals, 1), times(drums, 0.4))));
    ScoreSheet sheet = score(c.plus(noVoice).plus(halves("v4", "halves", 0.1)));
    BestSet set = BestSet.of(sheet).orElseThrow();
    assertThat(set.roles()).containsExactly("vocals", "drums", "bass");
    assertThat(set.leaders()).containsKey("everything but drums");
    // Whichever of the true stems lead, the voice is not the spoilt one.
    assertThat(set.stems().get("vocals")).isNotEqualTo("v3");
    double left = set.nullDb().orElseThrow();
    double expected = set.stems().get("drums").equals("v1") ? 20 * Math.log10(0.5) - 6 : -90;
    assertThat(left).isLessThan(expected + 3);
    assertThat(ScoresJson.write(sheet, folder)).contains("\"null\" : ");
  }

  @Test
  void rolesCountAsMuchAsThePersonSays() throws Exception {
    Version leaky = three("v1", "leaky voice", 1);
    leaky = leaky.withStem("vocals", stem("leaky-v.wav", sum(vocals, times(drums, 0.5))));
    Comparison c = band(true).plus(leaky).plus(three("v2", "three", 1));
    ScoreSheet even = score(c);
    double[] own =
        List.of("vocals", "drums", "bass").stream()
            .mapToDouble(r -> reading(even, r, "v1", "bleed").value())
            .toArray();
    assertThat(all(even)).isCloseTo(Arrays.stream(own).average().orElseThrow(), within(1e-9));
    ScoreSheet weighted = even.under(c.withRoleWeight("vocals", 3).withRoleWeight("bass", 0));
    assertThat(all(weighted)).isCloseTo((3 * own[0] + own[1]) / 4, within(1e-9));
    // The same from a run with these weights, and back again.
    assertThat(all(score(c.withRoleWeight("vocals", 3).withRoleWeight("bass", 0))))
        .isCloseTo(all(weighted), within(1e-9));
    assertThat(all(weighted.under(c))).isCloseTo(all(even), within(1e-9));
    assertThat(weighted.entry(Part.ALL, "v1").orElseThrow().reading("sum-residual")).isPresent();
  }

  private static double all(ScoreSheet sheet) {
    return sheet.entry(Part.ALL, "v1").orElseThrow().reading("bleed").orElseThrow().value();
  }
}
