package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

class PauseWordsTest {
  private static final int RATE = 16_000;
  private static final Comparison DENOISE = Comparison.empty("pauses", Job.DENOISE);

  /** Tones of half a second with as long pauses between, or without any, over noise. */
  private static PreparedExcerpt assessed(boolean pauses, List<TimeSpan> marked) throws Exception {
    SplittableRandom random = new SplittableRandom(7);
    float[] x = new float[8 * RATE];
    for (int i = 0; i < x.length; i++) {
      boolean on = !pauses || i / (RATE / 2) % 2 == 1;
      double tone = on ? 0.3 * Math.sin(2 * Math.PI * 440 * i / RATE) : 0;
      x[i] = (float) (tone + 0.005 * random.nextGaussian());
    }
    return PreparedExcerpt.of(Audio.of(RATE, x), null, null, marked);
  }

  @Test
  void howMuchWasFoundIsSaid() throws Exception {
    PauseWords words = PauseWords.of(DENOISE, assessed(true, null)).orElseThrow();
    assertThat(words.text()).matches("Pauses found: [23]\\.\\d s in [78] places");
    assertThat(words.warning()).isFalse();
  }

  @Test
  void whereThereAreNoneItSaysWhatToDo() throws Exception {
    PauseWords words = PauseWords.of(DENOISE, assessed(false, null)).orElseThrow();
    assertThat(words.warning()).isTrue();
    assertThat(words.text()).contains("Shift+drag");
  }

  @Test
  void marksByHandAreCalledSo() throws Exception {
    List<TimeSpan> marks = List.of(new TimeSpan(0, 0.45), new TimeSpan(1.05, 1.45));
    PauseWords words =
        PauseWords.of(DENOISE.withPauses(marks), assessed(true, marks)).orElseThrow();
    assertThat(words.text()).startsWith("Pauses marked by hand: 0.8 s in 2 places");
  }

  @Test
  void otherJobsDoNotAskForPauses() throws Exception {
    assertThat(PauseWords.of(Comparison.empty("x", Job.DECLIP), assessed(true, null))).isEmpty();
    assertThat(PauseWords.of(DENOISE, null)).isEmpty();
  }
}
