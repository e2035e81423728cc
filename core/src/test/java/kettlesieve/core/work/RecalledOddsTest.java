package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Part;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.task.Stop;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What was measured before has the odds that it had, with the doubt that the source casts. */
class RecalledOddsTest {
  private static final int RATE = 16_000;
  @TempDir Path folder;

  private Comparison comparison() throws Exception {
    // Rain of drops, which is not steady, behind bursts of one second in two.
    int length = 16 * RATE;
    float[] grain = Sounds.white(RATE, 5);
    float[] drops = new float[length];
    SplittableRandom random = new SplittableRandom(3);
    for (int n = 0; n < 16 * 25; n++) {
      int at = random.nextInt(length - 400);
      for (int i = 0; i < 400; i++) {
        drops[at + i] += (float) (0.05 * Math.exp(-i / 80.0) * grain[(n * 37 + i) % RATE]);
      }
    }
    float[] voice = Sounds.white(length, 77);
    for (int i = 0; i < length; i++) {
      double t = i / (double) RATE;
      voice[i] *= t % 2 > 1 ? (float) (0.4 * (0.5 + 0.5 * Math.sin(10 * Math.PI * t))) : 0;
      drops[i] += 3e-4f * grain[i % RATE];
    }
    Sounds.write(folder.resolve("source.wav"), RATE, Sounds.mix(voice, drops, 1));
    Sounds.write(folder.resolve("a.wav"), RATE, Sounds.mix(voice, drops, 0.3));
    Sounds.write(folder.resolve("b.wav"), RATE, Sounds.mix(voice, drops, 0.6));
    return Comparison.empty("t", Job.DENOISE)
        .withSource(MediaRef.of(folder.resolve("source.wav")))
        .withVersions(
            List.of(
                Version.of("a", "a", MediaRef.of(folder.resolve("a.wav"))),
                Version.of("b", "b", MediaRef.of(folder.resolve("b.wav")))));
  }

  private Conductor conductor() {
    return new Conductor(
        new MediaReader(folder.resolve("decoded")), new ResultStore(folder.resolve("kept")));
  }

  @Test
  void doubtIsKeptWithTheSource() throws Exception {
    Comparison comparison = comparison();
    SheetOdds first;
    try (Conductor conductor = conductor()) {
      first = SheetOdds.of(conductor.run(comparison).sheet(), Part.ALL);
    }
    assertThat(first.doubt()).isTrue();
    List<ScoreSheet> recalled = new ArrayList<>();
    try (Conductor again = conductor()) {
      again.run(
          comparison,
          new Conductor.Listener() {
            @Override
            public void recalled(Results results) {
              recalled.add(results.sheet());
            }
          },
          Stop.NEVER);
    }
    assertThat(recalled).hasSize(1);
    assertThat(SheetOdds.of(recalled.get(0), Part.ALL)).isEqualTo(first);
  }
}
