package kettlesieve.core.listen;

import static kettlesieve.core.listen.Tones.OTHER;
import static kettlesieve.core.listen.Tones.RATE;
import static kettlesieve.core.listen.Tones.SOURCE;
import static kettlesieve.core.listen.Tones.TONE_STEP;
import static kettlesieve.core.listen.Tones.largestStep;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import org.junit.jupiter.api.Test;

/** What comes out of a deck and the chain behind it, sample by sample. */
class DeckTest {

  private static float[] render(Deck deck, int frames) {
    float[] left = new float[frames];
    float[] right = new float[frames];
    deck.render(left, right, frames);
    return left;
  }

  @Test
  void switchingHasNoJumpAndKeepsThePlace() {
    Deck deck = new Deck(RATE);
    deck.begin(Audio.of(RATE, SOURCE), 0);
    float[] all = new float[0];
    Audio other = Audio.of(RATE, OTHER);
    Audio source = Audio.of(RATE, SOURCE);
    for (int i = 0; i < 40; i++) {
      deck.choose(i % 2 == 0 ? other : source);
      float[] part = render(deck, 700 + 37 * i);
      all = java.util.Arrays.copyOf(all, all.length + part.length);
      System.arraycopy(part, 0, all, all.length - part.length, part.length);
    }
    assertThat(largestStep(all)).isLessThan(TONE_STEP);
    assertThat(deck.position()).isEqualTo(all.length);
    // 10 ms after the last switch the sound is the chosen one, sample for sample.
    float[] last = render(deck, 100);
    assertThat(last[99]).isEqualTo(SOURCE[all.length + 99]);
  }

  @Test
  void switchingDuringAFadeWaitsForItsEnd() {
    Deck deck = new Deck(RATE);
    Audio a = Audio.of(RATE, SOURCE);
    Audio b = Audio.of(RATE, OTHER);
    deck.begin(a, 0);
    float[] all = new float[48_000];
    for (int at = 0; at < all.length; at += 100) {
      deck.choose(at / 100 % 2 == 0 ? b : a);
      System.arraycopy(render(deck, 100), 0, all, at, 100);
    }
    assertThat(largestStep(all)).isLessThan(TONE_STEP);
  }

  @Test
  void aLoopHasAnExactPeriodAndNoGap() {
    Deck deck = new Deck(RATE);
    // 0.31 s is no whole number of periods of the tone: a hard cut would jump.
    long from = RATE;
    long length = Math.round(0.3111 * RATE);
    deck.begin(Audio.of(RATE, SOURCE), from);
    deck.loop(from, from + length);
    float[] heard = render(deck, (int) (5 * length));
    assertThat(largestStep(java.util.Arrays.copyOfRange(heard, 480, heard.length)))
        .isLessThan(TONE_STEP);
    for (int pass = 1; pass < 4; pass++) {
      for (int i = 0; i < length - 480; i += 97) {
        assertThat(heard[(int) (pass * length) + i]).isEqualTo(SOURCE[(int) from + i]);
      }
    }
    // No gap: no 5 ms of the steady tone are silent.
    for (int at = 480; at + 240 < heard.length; at += 240) {
      assertThat(Sounds.rms(java.util.Arrays.copyOfRange(heard, at, at + 240))).isGreaterThan(0.02);
    }
  }

  @Test
  void loopsOfAnyLengthAndChangesInsideThemAreSafe() {
    Deck deck = new Deck(RATE);
    Audio a = Audio.of(RATE, SOURCE);
    deck.begin(a, 0);
    for (int i = 1; i < 60; i++) {
      deck.loop(1000L * i, 1000L * i + 37L * i * i);
      deck.seek(900L * i);
      render(deck, 1 + 53 * i);
    }
    assertThat(deck.position()).isPositive();
  }

  @Test
  void removedIsTheSourceMinusTheVersion() {
    float[] noise = Sounds.white(SOURCE.length, 3);
    Audio noisy = Audio.of(RATE, Sounds.mix(SOURCE, noise, 0.1));
    Track track = Track.version(noisy, Audio.of(RATE, SOURCE), Audio.of(RATE, SOURCE).times(0.5));
    float[] removed =
        track
            .sound(true, true, java.util.Set.of(), Audio.of(RATE, SOURCE))
            .audio()
            .samples(0, 1000, 500);
    for (int i = 0; i < 500; i++) {
      assertThat(removed[i]).isCloseTo(0.1f * noise[1000 + i], within(1e-6f));
    }
    assertThat(
            track
                .sound(true, false, java.util.Set.of(), Audio.of(RATE, SOURCE))
                .audio()
                .samples(0, 100, 1)[0])
        .isEqualTo(SOURCE[100]);
    assertThat(
            track
                .sound(false, false, java.util.Set.of(), Audio.of(RATE, SOURCE))
                .audio()
                .samples(0, 100, 1)[0])
        .isEqualTo(0.5f * SOURCE[100]);
  }

  /** A sound whose every sample tells its place: sample n is n / 10⁶. */
  private static Audio ramp(int seconds, double step) {
    float[] x = new float[seconds * RATE];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (i * step / 1e6);
    }
    return Audio.of(RATE, x);
  }

  @Test
  void aStretchedVersionGoesOnAtTheSameWord() {
    Deck deck = new Deck(RATE);
    // In the version, everything comes at 0.8 of the time and 0.1 s later.
    TimedSound version = new TimedSound(ramp(10, 1 / 0.8), TimeMap.line(0.1, 0.8));
    TimedSound source = TimedSound.of(ramp(10, 1));
    deck.begin(source, 3 * RATE);
    render(deck, RATE / 2);
    deck.choose(version);
    float[] heard = render(deck, 1000);
    // 10 ms after the switch at 3.5 s of the source, the version is at 0.1 + 0.8 · 3.5 s and on.
    double own = (0.1 + 0.8 * 3.5) * RATE + 999;
    assertThat(heard[999]).isCloseTo((float) (own / 0.8 / 1e6), within(1e-6f));
    assertThat(deck.position() / (double) RATE).isCloseTo(3.5 + 1000.0 / RATE / 0.8, within(1e-4));
    deck.choose(source);
    render(deck, 1000);
    assertThat(deck.position() / (double) RATE)
        .isCloseTo(3.5 + 1000.0 / RATE / 0.8 + 1000.0 / RATE, within(1e-4));
  }

  @Test
  void theLoopOfAStretchedVersionIsAsLongAsTheVersionIs() {
    Deck deck = new Deck(RATE);
    TimedSound version = new TimedSound(ramp(10, 1), TimeMap.line(0, 0.5));
    deck.loop(2 * RATE, 4 * RATE);
    deck.begin(version, 2 * RATE);
    float[] heard = render(deck, 3 * RATE + 2000);
    // Half as long: 2 s of the source are 1 s of the version.
    for (int pass = 1; pass <= 3; pass++) {
      assertThat(heard[pass * RATE + 700]).isCloseTo(heard[700 + RATE], within(1e-6f));
    }
  }

  @Test
  void severalPlacesAreHeardOneAfterTheOther() {
    Deck deck = new Deck(RATE);
    deck.loop(List.of(new Deck.Stretch(RATE, 2 * RATE), new Deck.Stretch(5 * RATE, 6 * RATE)));
    deck.begin(ramp(10, 1), RATE);
    float[] heard = render(deck, 5 * RATE);
    for (int second = 0; second < 5; second++) {
      double place = (second % 2 == 0 ? 1.5 : 5.5) * RATE;
      assertThat(heard[second * RATE + RATE / 2]).isCloseTo((float) (place / 1e6), within(1e-6f));
    }
  }

  private static double rms(float[] x, int from, int to) {
    double sum = 0;
    for (int i = from; i < to; i++) {
      sum += x[i] * x[i];
    }
    return Math.sqrt(sum / (to - from));
  }

  @Test
  void onlyABandIsHeardAndTheChangeDoesNotClick() {
    OutputChain chain = new OutputChain(RATE);
    float[] low = Sounds.sine(RATE, 2, 200, 0.4, 0);
    float[] high = Sounds.sine(RATE, 2, 5000, 0.02, 0);
    float[] left = Sounds.mix(low, high, 1);
    float[] right = left.clone();
    for (int at = 0; at < left.length; at += 256) {
      int count = Math.min(256, left.length - at);
      float[] l = java.util.Arrays.copyOfRange(left, at, at + count);
      float[] r = java.util.Arrays.copyOfRange(right, at, at + count);
      if (at == 256 * 150) {
        chain.set(Side.BOTH, new Band(300, 2000));
      }
      chain.process(l, r, count);
      System.arraycopy(l, 0, left, at, count);
    }
    assertThat(rms(left, 0, RATE / 2)).isCloseTo(0.283, within(0.002));
    // 200 Hz is 24 dB an octave down below 300 Hz; 5 kHz is 32 dB down above 2 kHz.
    assertThat(20 * Math.log10(rms(left, RATE, 2 * RATE) / 0.283)).isLessThan(-13);
    assertThat(largestStep(left)).isLessThan(1.1 * (0.4 * 2 * Math.PI * 200 / RATE + 0.013));
  }

  @Test
  void sidesOfTheStereoPicture() {
    float[] l = {0.4f, 0.4f};
    float[] r = {0.2f, -0.4f};
    for (Side side : Side.values()) {
      float left = side.weight(0) * l[0] + side.weight(1) * r[0];
      float right = side.weight(2) * l[0] + side.weight(3) * r[0];
      float expected =
          switch (side) {
            case BOTH, LEFT -> 0.4f;
            case RIGHT -> 0.2f;
            case MID -> 0.3f;
            case SIDE -> 0.1f;
          };
      assertThat(left).isCloseTo(expected, within(1e-6f));
      assertThat(right).isCloseTo(side == Side.BOTH ? 0.2f : expected, within(1e-6f));
    }
  }

  @Test
  void halfSpeedIsAnOctaveLowerAndSmooth() {
    HalfSpeed slow = new HalfSpeed();
    float[] in = Sounds.sine(RATE, 1, 1000, 0.5, 0);
    float[] heard = new float[2 * in.length];
    float[] l = new float[256];
    float[] r = new float[256];
    for (int at = 0; at + 128 <= in.length; at += 128) {
      float[] block = java.util.Arrays.copyOfRange(in, at, at + 128);
      slow.process(block, block, 128, l, r);
      System.arraycopy(l, 0, heard, 2 * at, 256);
    }
    float[] expected = Sounds.sine(RATE, 2, 500, 0.5, 0);
    // Half the filter's length late.
    for (int i = 4000; i < 40_000; i++) {
      assertThat(heard[i]).isCloseTo(expected[i - 32], within(2e-3f));
    }
  }

  @Test
  void stemsAreHeardAloneTogetherAndAgainstTheMix() {
    Audio a = Audio.of(RATE, Sounds.sine(RATE, 1, 300, 0.2, 0));
    Audio b = Audio.of(RATE, Sounds.sine(RATE, 1, 500, 0.1, 0));
    Audio mix = kettlesieve.core.audio.SumAudio.of(List.of(a, b));
    Track track = Track.stems(mix, java.util.Map.of("vocals", a, "drums", b));
    java.util.Set<String> none = java.util.Set.of();
    java.util.Set<String> drums = java.util.Set.of("drums");
    assertThat(track.sound(true, false, none, mix).audio().samples(0, 100, 50))
        .isEqualTo(mix.samples(0, 100, 50));
    assertThat(track.sound(true, false, drums, mix).audio().samples(0, 100, 50))
        .isEqualTo(b.samples(0, 100, 50));
    float[] without = track.sound(true, true, drums, mix).audio().samples(0, 100, 50);
    float[] nothing = track.sound(true, true, none, mix).audio().samples(0, 100, 50);
    for (int i = 0; i < 50; i++) {
      assertThat(without[i]).isCloseTo(a.samples(0, 100, 50)[i], within(1e-6f));
      assertThat(nothing[i]).isCloseTo(0, within(1e-6f));
    }
    java.util.Set<String> absent = java.util.Set.of("tuba");
    assertThat(track.sound(true, false, absent, mix).audio().samples(0, 0, 20)).containsOnly(0f);
  }

  @Test
  void aPlaceShorterThanTwoFadesIsLeftOutOfALoop() {
    Deck deck = new Deck(RATE);
    deck.loop(List.of(new Deck.Stretch(100, 200), new Deck.Stretch(RATE, 2 * RATE)));
    deck.begin(ramp(10, 1), RATE);
    float[] heard = render(deck, 3 * RATE);
    assertThat(heard[RATE / 2]).isCloseTo(heard[RATE / 2 + RATE], within(1e-6f));
    deck.loop(List.of());
    render(deck, 2 * RATE);
    assertThat(deck.position()).isGreaterThan(2L * RATE);
  }

  @Test
  void theSecondPlaceIsStayedInWhenTheLoopIsSetWhileItPlays() {
    Deck deck = new Deck(RATE);
    deck.begin(ramp(10, 1), 5 * RATE + 100);
    deck.loop(List.of(new Deck.Stretch(RATE, 2 * RATE), new Deck.Stretch(5 * RATE, 6 * RATE)));
    render(deck, RATE / 2);
    assertThat(deck.position()).isEqualTo(5L * RATE + 100 + RATE / 2);
    render(deck, RATE);
    assertThat(deck.position()).isBetween((long) RATE, 2L * RATE);
  }

  @Test
  void anotherMapForTheSameSoundIsAnotherPlace() {
    Deck deck = new Deck(RATE);
    Audio audio = ramp(10, 1);
    deck.begin(new TimedSound(audio, TimeMap.line(0, 0.5)), 4 * RATE);
    render(deck, 1000);
    deck.choose(new TimedSound(audio, TimeMap.line(1, 0.5)));
    float[] heard = render(deck, 1000);
    assertThat(heard[999]).isGreaterThan((float) (2.9 * RATE / 1e6));
  }

  @Test
  void bandsAndDevicesThatCannotBeAreAnswered() {
    org.assertj.core.api.Assertions.assertThatThrownBy(() -> new Band(500, 400))
        .isInstanceOf(IllegalArgumentException.class);
    JavaSoundOut none = new JavaSoundOut("no such device");
    assertThat(none.name()).isEqualTo("no such device");
    org.assertj.core.api.Assertions.assertThatThrownBy(() -> none.open(RATE))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("no such device");
    assertThat(JavaSoundOut.devices()).doesNotContain("no such device");
  }

  @Test
  void aBandBeyondTheRateIsHeardAsItIs() {
    OutputChain chain = new OutputChain(8000);
    chain.set(Side.BOTH, new Band(0, 20_000));
    float[] left = Sounds.sine(8000, 1, 440, 0.5, 0);
    float[] right = left.clone();
    float[] before = left.clone();
    chain.process(left, right, left.length);
    for (int i = 0; i < left.length; i++) {
      assertThat(left[i]).isCloseTo(before[i], within(1e-6f));
    }
  }
}
