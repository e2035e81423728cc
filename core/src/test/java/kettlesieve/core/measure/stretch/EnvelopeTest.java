package kettlesieve.core.measure.stretch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.stream.IntStream;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;

class EnvelopeTest {
  private static final int RATE = 16_000;

  /**
   * Pulses through resonances in a row, as a vowel is made in Klatt's synthesiser (JASA 67, 1980).
   */
  private static Audio vowel(double pitch, double... formants) {
    float[] x = new float[RATE];
    for (double at = 0; at < x.length; at += RATE / pitch) {
      x[(int) at] = 1;
    }
    for (double hz : formants) {
      double radius = Math.exp(-Math.PI * 80 / RATE);
      double a = 2 * radius * Math.cos(2 * Math.PI * hz / RATE);
      double b = -radius * radius;
      for (int i = 2; i < x.length; i++) {
        x[i] += (float) (a * x[i - 1] + b * x[i - 2]);
      }
    }
    return Audio.of(RATE, x);
  }

  private static List<Double> formants(double pitch, Audio vowel) {
    List<Double> moments = IntStream.range(3, 9).mapToObj(i -> 0.1 * i).toList();
    return Envelope.formants(Envelope.mean(vowel, moments, Envelope.lifter(pitch)));
  }

  /** The vowels of "hod" and "heed" of men after Peterson and Barney, JASA 24, 1952. */
  @Test
  void thePeaksOfTheEnvelopeAreTheFormantsWhateverThePitch() {
    for (double pitch : new double[] {100, 131}) {
      List<Double> hod = formants(pitch, vowel(pitch, 730, 1090, 2440));
      assertThat(hod.get(0)).isCloseTo(730, within(0.1 * 730));
      assertThat(hod).anySatisfy(f -> assertThat(f).isCloseTo(2440, within(0.05 * 2440)));
      List<Double> heed = formants(pitch, vowel(pitch, 270, 2290, 3010));
      assertThat(heed).anySatisfy(f -> assertThat(f).isCloseTo(2290, within(0.05 * 2290)));
      assertThat(heed).anySatisfy(f -> assertThat(f).isCloseTo(3010, within(0.05 * 3010)));
    }
  }
}
