package kettlesieve.core.listen;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Loudness;
import kettlesieve.core.signal.TruePeak;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** EBU Tech 3341, minimum requirements: tests 1, 2 and 15 to 18. */
class LevelMeterTest {
  private static LevelMeter.Levels heard(float[] left, float[] right, int rate, int block) {
    LevelMeter meter = new LevelMeter(rate);
    float[] l = new float[block];
    float[] r = new float[block];
    for (int at = 0; at < left.length; at += block) {
      int count = Math.min(block, left.length - at);
      System.arraycopy(left, at, l, 0, count);
      System.arraycopy(right, at, r, 0, count);
      meter.process(l, r, count);
    }
    return meter.levels();
  }

  private static float[] sine(double hz, double amplitude, double phase, double seconds, int rate) {
    float[] x = new float[(int) (seconds * rate)];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (amplitude * Math.sin(2 * Math.PI * hz * i / rate + phase));
    }
    return x;
  }

  @ParameterizedTest
  @CsvSource({"-23,48000", "-33,48000", "-23,44100"})
  void aToneInBothChannelsIsAsLoudAsItsLevel(double dbfs, int rate) {
    float[] x = sine(1000, Math.pow(10, dbfs / 20), 0, 5, rate);
    assertThat(heard(x, x, rate, 256).loudness()).isCloseTo(dbfs, within(0.1));
  }

  /** Allowed there: 0.2 dB above, 0.4 dB below. */
  @ParameterizedTest
  @CsvSource({"4,0", "4,45", "6,60", "8,67.5"})
  void theTruePeakOfATonesIsFoundBetweenItsSamples(int part, double degrees) {
    float[] x = sine(48_000.0 / part, 0.5, Math.toRadians(degrees), 1, 48_000);
    double peak = heard(x, x, 48_000, 256).peakDb();
    assertThat(peak).isBetween(-6.0 - 0.4, -6.0 + 0.2);
  }

  /** The same as measured of the whole file, however the sound comes in pieces. */
  @ParameterizedTest
  @CsvSource({"256", "100", "4800", "7"})
  void speechIsMeasuredAsAFile(int block) {
    float[] speech = Sounds.speech48();
    int end = speech.length - speech.length % 4800;
    float[] x = java.util.Arrays.copyOf(speech, end);
    Audio audio = Audio.of(48_000, x, x);
    LevelMeter.Levels levels = heard(x, x, 48_000, block);
    assertThat(levels.highestDb()).isCloseTo(TruePeak.db(audio), within(0.01));
    double[] shortTerm = Loudness.of(audio).shortTerm();
    assertThat(levels.loudness()).isCloseTo(shortTerm[shortTerm.length - 1], within(0.01));
  }

  @Test
  void whatWasLoudIsForgottenAfterItsTime() {
    float[] x = new float[48_000 * 6];
    System.arraycopy(sine(997, 0.9, 0, 1, 48_000), 0, x, 0, 48_000);
    LevelMeter.Levels levels = heard(x, x, 48_000, 256);
    assertThat(levels.peakDb()).isEqualTo(Double.NEGATIVE_INFINITY);
    assertThat(levels.highestDb()).isCloseTo(-0.915, within(0.05));
    assertThat(levels.loudness()).isLessThan(-100);
  }

  /** Before three seconds have gone by it is the loudness of what there was. */
  @Test
  void theFirstSecondIsNotToldTooQuiet() {
    float[] x = sine(1000, Math.pow(10, -23 / 20.0), 0, 1, 48_000);
    assertThat(heard(x, x, 48_000, 256).loudness()).isCloseTo(-23, within(0.15));
  }

  @Test
  void silenceHasNoLevel() {
    assertThat(new LevelMeter(48_000).levels()).isEqualTo(LevelMeter.SILENT);
  }
}
