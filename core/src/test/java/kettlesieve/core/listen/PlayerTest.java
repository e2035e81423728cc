package kettlesieve.core.listen;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.signal.Audio;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentMatchers;
import org.mockito.Mockito;

class PlayerTest {
  private static final int RATE = 48_000;
  private static final float[] SOURCE = Sounds.sine(RATE, 10, 220, 0.5, 0);
  private static final float[] OTHER = Sounds.sine(RATE, 10, 220, 0.25, 0.9);

  private final List<String> news = new CopyOnWriteArrayList<>();
  private final SimulatedOut out = new SimulatedOut(true);
  private final Player player = new Player(() -> out, news::add);

  @AfterEach
  void tearDown() {
    player.close();
  }

  private static double largestStep(float[] x) {
    double largest = 0;
    for (int i = 1; i < x.length; i++) {
      largest = Math.max(largest, Math.abs(x[i] - x[i - 1]));
    }
    return largest;
  }

  /** The largest step of a 220 Hz tone of amplitude 0.5, with a little room for the fade. */
  private static final double TONE_STEP = 1.25 * 0.5 * 2 * Math.PI * 220 / RATE;

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
    float[] removed = track.audio(true, true).samples(0, 1000, 500);
    for (int i = 0; i < 500; i++) {
      assertThat(removed[i])
          .isCloseTo(0.1f * noise[1000 + i], org.assertj.core.api.Assertions.within(1e-6f));
    }
    assertThat(track.audio(true, false).samples(0, 100, 1)[0]).isEqualTo(SOURCE[100]);
    assertThat(track.audio(false, false).samples(0, 100, 1)[0]).isEqualTo(0.5f * SOURCE[100]);
  }

  @Test
  void playsSwitchesAndStops() throws Exception {
    player.setTracks(
        List.of(Track.source(Audio.of(RATE, SOURCE)), Track.source(Audio.of(RATE, OTHER))));
    player.seek(2);
    player.play();
    await(() -> player.positionSeconds() > 2.15);
    player.choose(1);
    await(() -> player.positionSeconds() > 2.35);
    player.stop();
    await(() -> !player.playing());
    Thread.sleep(60);
    float[] heard = out.heardLeft();
    assertThat(largestStep(heard)).isLessThan(TONE_STEP);
    // Half loud in the end, before the fade-out.
    float[] late = java.util.Arrays.copyOfRange(heard, heard.length - 3000, heard.length - 1500);
    assertThat(Sounds.rms(late)).isBetween(0.15, 0.2);
    assertThat(player.positionSeconds()).isGreaterThan(2.3);
  }

  @Test
  void playsToTheEndAndBeginsAgain() throws Exception {
    float[] brief = java.util.Arrays.copyOf(SOURCE, RATE / 5);
    player.setTracks(List.of(Track.source(Audio.of(RATE, brief))));
    player.play();
    await(() -> !player.playing());
    assertThat(out.heardLeft().length).isBetween(RATE / 5, RATE / 5 + 1024);
    player.play();
    await(() -> out.heardLeft().length > RATE / 4);
  }

  @Test
  void aLoopStaysInItsStretch() throws Exception {
    player.setTracks(List.of(Track.source(Audio.of(RATE, SOURCE))));
    player.setLoop(new TimeSpan(3, 3.2));
    player.play();
    for (int i = 0; i < 20; i++) {
      Thread.sleep(25);
      assertThat(player.positionSeconds()).isBetween(0.0, 3.21);
    }
    await(() -> out.heardLeft().length > 0.5 * RATE);
  }

  @Test
  void withoutADevicePlayingIsSimulatedAndSaysSo() throws Exception {
    SoundOut none = Mockito.mock(SoundOut.class);
    Mockito.doThrow(new IOException("no device")).when(none).open(ArgumentMatchers.anyInt());
    try (Player silent = new Player(() -> none, news::add)) {
      silent.setTracks(List.of(Track.source(Audio.of(RATE, SOURCE))));
      silent.play();
      await(() -> silent.positionSeconds() > 0.1);
      assertThat(silent.output().simulated()).isTrue();
      assertThat(news).singleElement().asString().contains("no sound device");
    }
  }

  @Test
  void aDeviceThatIsLostIsReplacedWhilePlaying() throws Exception {
    AtomicInteger blocks = new AtomicInteger();
    SoundOut fragile = Mockito.mock(SoundOut.class);
    Mockito.doAnswer(
            call -> {
              if (blocks.incrementAndGet() > 20) {
                throw new IOException("unplugged");
              }
              return null;
            })
        .when(fragile)
        .write(ArgumentMatchers.any(), ArgumentMatchers.any(), ArgumentMatchers.anyInt());
    try (Player lasting = new Player(() -> fragile, news::add)) {
      lasting.setTracks(List.of(Track.source(Audio.of(RATE, SOURCE))));
      lasting.play();
      await(() -> lasting.positionSeconds() > 0.4);
      assertThat(lasting.playing()).isTrue();
      assertThat(news).singleElement().asString().contains("lost");
      Mockito.verify(fragile).close();
    }
  }

  private interface Condition {
    boolean holds();
  }

  private static void await(Condition condition) throws InterruptedException {
    for (int i = 0; i < 1000 && !condition.holds(); i++) {
      Thread.sleep(10);
    }
    assertThat(condition.holds()).isTrue();
  }
}
