package kettlesieve.calibrate.makers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.corpus.StemMaterial;
import kettlesieve.calibrate.truth.StemTruth;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;

/** Tools whose errors are known: what they do is what they say. */
class StemToolsTest {
  private static final int RATE = 16_000;
  private static final StemMaterial BAND = band();

  private static StemMaterial band() {
    Map<String, Audio> stems = new LinkedHashMap<>();
    Random random = new Random(7);
    for (String role : List.of("hum", "hiss", "beats")) {
      float[][] x = new float[2][3 * RATE];
      for (int i = 0; i < x[0].length; i++) {
        double value =
            switch (role) {
              case "hum" -> 0.3 * Math.sin(0.05 * i) + 0.1 * Math.sin(0.15 * i);
              case "hiss" -> 0.05 * random.nextGaussian();
              default -> 0.5 * Math.exp(-(i % 4000) / 300.0) * random.nextGaussian();
            };
        x[0][i] = (float) value;
        x[1][i] = (float) (role.equals("hiss") ? 0.05 * random.nextGaussian() : 0.7 * value);
      }
      stems.put(role, Audio.of(RATE, x));
    }
    return new StemMaterial(stems);
  }

  private static StemTruth truth(StemMaterial made, String role) {
    return StemTruth.of(BAND.stems(), Map.of("made", made.stems())).get("made").get(role);
  }

  @Test
  void everyToolGivesEveryRoleAndNoToolIsInBothHalves() {
    Set<String> ids = new HashSet<>();
    for (Half half : Half.values()) {
      Set<StemTools.Kind> kinds =
          StemTools.of(half).stream().map(StemTools::kind).collect(Collectors.toSet());
      assertThat(kinds).hasSize(StemTools.Kind.values().length - 1);
      for (StemTools tool : StemTools.of(half)) {
        assertThat(ids.add(tool.id())).as(tool.id()).isTrue();
        StemMaterial made = tool.way().apply(BAND);
        assertThat(made.stems().keySet()).isEqualTo(BAND.stems().keySet());
        made.stems().values().forEach(a -> assertThat(a.frames()).isEqualTo(3L * RATE));
      }
    }
  }

  /** A mask that knows more is better; masks of one tool add up to the mix. */
  @Test
  void betterKnowledgeMakesBetterMasks() {
    StemMaterial fine = Masks.of(BAND, 1024, 1, 1, 4, 1);
    StemMaterial rough = Masks.of(BAND, 1024, 1, 12, 4, 1);
    for (String role : BAND.stems().keySet()) {
      assertThat(truth(fine, role).sdr()).isGreaterThan(truth(rough, role).sdr() + 0.2);
    }
    float[] sum = fine.mix().wholeChannel(0);
    float[] mix = BAND.mix().wholeChannel(0);
    double left = 0;
    double all = 0;
    for (int i = 2000; i < sum.length - 2000; i++) {
      left += Math.pow(sum[i] - mix[i], 2);
      all += Math.pow(mix[i], 2);
    }
    // All but the lowest and the highest bin.
    assertThat(10 * Math.log10(left / all)).isLessThan(-25);
  }

  @Test
  void leakageIsInterferenceScramblingIsArtifacts() {
    StemTruth leak = truth(Flaws.leaking(BAND, -20, 0), "hum");
    assertThat(leak.sar()).isGreaterThan(40);
    assertThat(leak.sdr()).isCloseTo(leak.sir(), within(0.5));
    StemTruth scrambled = truth(Flaws.scrambled(BAND, 1024, Math.PI, 3), "beats");
    assertThat(scrambled.siSdr()).isLessThan(0);
    assertThat(scrambled.sar()).isLessThan(5);
    assertThat(truth(Flaws.holes(BAND, 0.05, 0, 4), "beats").sdr()).isGreaterThan(50);
  }
}
