package kettlesieve.core.rig;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.concurrent.CancellationException;
import java.util.stream.Stream;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class StandInTest {
  private static final float[] SPEECH = Sounds.speech16();
  private static final float[] NOISE = Sounds.white(SPEECH.length, 2);
  private static final Audio NOISY =
      Audio.of(16_000, Sounds.mix(SPEECH, NOISE, Sounds.noiseFactor(SPEECH, NOISE, 15)));

  static Stream<StandIn> denoisers() {
    return StandIns.of(Job.DENOISE).stream();
  }

  @ParameterizedTest
  @MethodSource("denoisers")
  void strongerTakesMoreNoiseAway(StandIn tool) throws Exception {
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(NOISY, null, null, null);
    double before = -1;
    for (int amount : new int[] {0, 25, 50, 75, 100}) {
      Audio made = tool.process(NOISY, amount, Progress.SILENT);
      assertThat(made.frames()).isEqualTo(NOISY.frames());
      double cut =
          preparedExcerpt
              .measure(preparedExcerpt.match(made, MatchOverride.NONE))
              .readings()
              .stream()
              .filter(r -> r.measure().equals("noise-cut"))
              .mapToDouble(Reading::value)
              .findFirst()
              .orElseThrow();
      assertThat(cut).as("amount " + amount).isGreaterThan(before);
      before = cut;
    }
    assertThat(before).isGreaterThan(15);
  }

  @ParameterizedTest
  @MethodSource("denoisers")
  void nothingIsChangedAtZeroAndTheSameAgainIsTheSame(StandIn tool) {
    assertThat(tool.process(NOISY, 0, Progress.SILENT)).isSameAs(NOISY);
    assertThat(tool.process(NOISY, 60, Progress.SILENT).wholeChannel(0))
        .isEqualTo(tool.process(NOISY, 60, Progress.SILENT).wholeChannel(0));
  }

  @ParameterizedTest
  @MethodSource("denoisers")
  void nonsenseAndCancellingAreAnswered(StandIn tool) {
    assertThatThrownBy(() -> tool.process(NOISY, 101, Progress.SILENT))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("0 to 100");
    assertThatThrownBy(
            () ->
                tool.process(
                    NOISY,
                    50,
                    (what, share) -> {
                      throw new CancellationException();
                    }))
        .isInstanceOf(CancellationException.class);
    assertThat(tool.process(Audio.of(16_000, new float[100]), 50, Progress.SILENT).frames())
        .isEqualTo(100);
  }
}
