package kettlesieve.core.measure.voice;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Scene;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;

/** How unevenly the cells of a voice were turned down; one gain, and noise taken out, are even. */
class UnevenGainTest {
  private static double read(float[] version) {
    return Scene.read(new UnevenGain(), Scene.pair(version)).value();
  }

  @Test
  void noiseThatIsTakenOutIsNoUnevenness() {
    assertThat(read(Scene.NOISY)).isCloseTo(-35, within(1e-9));
    for (double share : new double[] {0.6, 0.3, 0.1, 0}) {
      assertThat(read(Scene.withNoiseTimes(share))).as("noise times " + share).isLessThan(-34);
    }
  }

  /** A gain that moves over seconds, and a tone control, leave cells beside each other alike. */
  @Test
  void oneGainForAllCellsOfATileIsEven() {
    float[] moved = Scene.NOISY.clone();
    for (int i = 0; i < moved.length; i++) {
      moved[i] *= (float) (1 + 0.3 * Math.sin(2 * Math.PI * 0.7 * i / Scene.RATE));
    }
    assertThat(read(moved)).isLessThan(-31);
    float[] low = Sounds.lowPass(Scene.NOISY, Scene.RATE, 900);
    assertThat(read(Sounds.mix(Scene.NOISY, low, -0.5))).isLessThan(-31);
  }

  /** Gains of 1 ± d at random from 5 to 5 ms: twice as much of it lies 6 dB higher. */
  @Test
  void aGainThatJumpsIsReadAsFarAsItJumps() {
    double slight = read(jumping(0.1));
    double plain = read(jumping(0.2));
    double strong = read(jumping(0.4));
    assertThat(slight).isBetween(-30.0, -22.0);
    assertThat(plain).isGreaterThan(slight + 3);
    assertThat(strong - plain).isBetween(4.5, 7.0);
  }

  private static float[] jumping(double depth) {
    SplittableRandom random = new SplittableRandom(5);
    float[] version = Scene.NOISY.clone();
    int hold = Scene.RATE / 200;
    double gain = 1;
    for (int i = 0; i < version.length; i++) {
      if (i % hold == 0) {
        gain = random.nextBoolean() ? 1 + depth : 1 - depth;
      }
      version[i] *= (float) gain;
    }
    return version;
  }

  @Test
  void subtractionTearsTheMoreTheMoreItTakes() {
    double last = -35.1;
    for (int amount : new int[] {0, 30, 90}) {
      Audio made =
          new PlainSubtraction()
              .process(Audio.of(Scene.RATE, Scene.NOISY), amount, Progress.SILENT);
      double now = read(made.wholeChannel(0));
      assertThat(now).as("amount " + amount).isGreaterThan(last);
      last = now;
    }
    assertThat(last).isGreaterThan(-26);
  }

  /** What kind of processor it was is told by the whole: so all of it is a little uneven. */
  @Test
  void placesLieWhereItIsMostUneven() {
    float[] version = jumping(0.15);
    float[] torn = jumping(0.8);
    System.arraycopy(torn, 6 * Scene.RATE, version, 6 * Scene.RATE, 3 * Scene.RATE);
    Reading reading = Scene.read(new UnevenGain(), Scene.pair(version));
    // The worst come first.
    assertThat(reading.spots().subList(0, 3))
        .allSatisfy(s -> assertThat(s.from()).isBetween(5.5, 9.2));
  }
}
