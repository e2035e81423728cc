package kettlesieve.calibrate.makers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;

/** FFmpeg's filters in and out of our arrays. */
class FilterGraphTest {
  private static Audio sine(double hz) {
    float[] x = new float[48_000];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (0.5 * Math.sin(2 * Math.PI * hz * i / 48_000));
    }
    return Audio.of(48_000, x);
  }

  private static double rms(Audio audio) {
    double sum = 0;
    for (float x : audio.samples(0, 12_000, 24_000)) {
      sum += (double) x * x;
    }
    return Math.sqrt(sum / 24_000);
  }

  @Test
  void aVolumeIsAVolumeAndNothingMoves() throws Exception {
    Audio in = sine(440);
    Audio out = FilterGraph.process(in, "volume=0.5");
    assertThat(out.frames()).isEqualTo(in.frames());
    for (int i = 0; i < 48_000; i += 997) {
      assertThat(out.samples(0, i, 1)[0]).isCloseTo(0.5f * in.samples(0, i, 1)[0], within(1e-6f));
    }
  }

  @Test
  void aLowPassTakesTheTopAway() throws Exception {
    assertThat(rms(FilterGraph.process(sine(8000), "lowpass=f=1000"))).isLessThan(0.01);
    assertThat(rms(FilterGraph.process(sine(100), "lowpass=f=1000")))
        .isCloseTo(0.5 / Math.sqrt(2), within(0.01));
  }

  @Test
  void anUnknownFilterIsNamed() {
    assertThatThrownBy(() -> FilterGraph.process(sine(100), "sparkle=9"))
        .isInstanceOf(CalibrationException.class)
        .hasMessageContaining("sparkle=9");
  }
}
