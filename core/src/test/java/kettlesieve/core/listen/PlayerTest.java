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
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.TimeSpan;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.mockito.ArgumentMatchers;
import org.mockito.Mockito;

/**
 * Playing as it goes: threads, devices, and what is heard in the end.
 *
 * <p>Over 400 lines: every rule at the head of the player, each with the interleaving that broke
 * it.
 */
class PlayerTest {
  private final List<String> news = new CopyOnWriteArrayList<>();
  private final SimulatedOut out = new SimulatedOut(true);
  private final Player player = new Player(() -> out, news::add);

  @AfterEach
  void tearDown() {
    player.close();
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

  /** An output that lets go of its device only when it is told to. */
  private static final class Clinging implements SoundOut {
    final CountDownLatch letGo = new CountDownLatch(1);
    final AtomicInteger written = new AtomicInteger();

    @Override
    public String name() {
      return "clinging";
    }

    @Override
    public boolean simulated() {
      return false;
    }

    @Override
    public void open(int rate) {}

    @Override
    public void write(float[] left, float[] right, int frames) {
      written.addAndGet(frames);
    }

    @Override
    public int pendingFrames() {
      return 0;
    }

    @Override
    public void close() {
      try {
        letGo.await();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }

  @Test
  void stopThenPlayBeginsAnewAndWaitsForNobody() throws Exception {
    Clinging first = new Clinging();
    SimulatedOut second = new SimulatedOut(true);
    Queue<SoundOut> outs = new ConcurrentLinkedQueue<>(List.of(first, second));
    try (Player own = new Player(outs::poll, news::add)) {
      own.setTracks(List.of(Track.source(Audio.of(RATE, SOURCE))));
      own.play();
      await(() -> first.written.get() > 0);
      own.stop();
      // The old playback still holds its device: neither call may wait for it, under the lock or
      // not, and what was asked for in between must not be lost.
      own.play();
      own.seek(5);
      own.choose(0);
      assertThat(own.playing()).isTrue();
      first.letGo.countDown();
      await(() -> own.positionSeconds() > 5.1);
      assertThat(own.playing()).isTrue();
      assertThat(own.output()).isSameAs(second);
    }
  }

  /**
   * An output that takes a block only when it is let: what happens between two blocks is chosen.
   */
  private static class Stepped implements SoundOut {
    final Semaphore blocks = new Semaphore(0);
    final AtomicInteger written = new AtomicInteger();
    final CountDownLatch closed = new CountDownLatch(1);

    @Override
    public String name() {
      return "stepped";
    }

    @Override
    public boolean simulated() {
      return true;
    }

    @Override
    public void open(int rate) {}

    @Override
    public void write(float[] left, float[] right, int frames) {
      blocks.acquireUninterruptibly();
      written.incrementAndGet();
    }

    @Override
    public int pendingFrames() {
      return 0;
    }

    @Override
    public void close() {
      closed.countDown();
    }

    void step(int count) throws InterruptedException {
      int goal = written.get() + count;
      blocks.release(count);
      await(() -> written.get() >= goal && blocks.getQueueLength() > 0 || closed.getCount() == 0);
    }
  }

  /** Whatever comes at whatever moment of the fade: a stopped playback fades, ends and is quiet. */
  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4})
  void whatIsStoppedStaysStopped(int blocksAfterTheStop) throws Exception {
    for (int command = 0; command < 4; command++) {
      Stepped stepped = new Stepped();
      try (Player own = new Player(() -> stepped, news::add)) {
        own.setTracks(
            List.of(Track.source(Audio.of(RATE, SOURCE)), Track.source(Audio.of(RATE, OTHER))));
        own.seek(2);
        own.play();
        stepped.step(6);
        own.stop();
        double place = own.positionSeconds();
        int before = stepped.written.get();
        stepped.step(blocksAfterTheStop);
        switch (command) {
          case 0 -> own.choose(1);
          case 1 -> own.seek(place);
          case 2 -> own.setLoop(new TimeSpan(2, 3));
          default -> own.setTurns(Turns.WITH_SOURCE);
        }
        stepped.blocks.release(1_000);
        assertThat(stepped.closed.await(5, TimeUnit.SECONDS)).as("the playback ends").isTrue();
        // A fade of 10 ms is two to four blocks.
        assertThat(stepped.written.get() - before).isLessThanOrEqualTo(6);
        assertThat(own.playing()).isFalse();
        assertThat(own.positionSeconds()).isEqualTo(place);
      }
    }
  }

  /** Where it is heard from next is what was asked for last, also while the stopped one fades. */
  @Test
  void aPlaceAskedForAfterTheStopIsKept() throws Exception {
    for (int i = 0; i < 5; i++) {
      Stepped stepped = new Stepped();
      try (Player own = new Player(() -> stepped, news::add)) {
        own.setTracks(List.of(Track.source(Audio.of(RATE, SOURCE))));
        own.play();
        stepped.step(3);
        own.stop();
        own.seek(5);
        stepped.blocks.release(1_000);
        assertThat(stepped.closed.await(5, TimeUnit.SECONDS)).isTrue();
        assertThat(own.positionSeconds()).isEqualTo(5);
      }
    }
  }

  /** Who stops what still waits for the output never hears it: it is not opened at all. */
  @Test
  void whatIsStoppedWhileItWaitsNeverOpensTheOutput() throws Exception {
    Clinging first = new Clinging();
    AtomicInteger asked = new AtomicInteger();
    SimulatedOut later = new SimulatedOut(true);
    try (Player own = new Player(() -> asked.getAndIncrement() == 0 ? first : later, news::add)) {
      own.setTracks(List.of(Track.source(Audio.of(RATE, SOURCE))));
      own.play();
      await(() -> first.written.get() > 0);
      own.stop();
      own.play();
      own.stop();
      first.letGo.countDown();
      Thread.sleep(100);
      assertThat(asked.get()).isEqualTo(1);
      assertThat(own.playing()).isFalse();
      own.play();
      await(() -> own.output() == later);
    }
  }

  @Test
  void playAndStopThirtyTimesASecondOnASlowDeviceLeavesNoThread() throws Exception {
    ThreadGroup group = new ThreadGroup("toggling");
    AtomicInteger most = new AtomicInteger();
    AtomicInteger open = new AtomicInteger();
    AtomicInteger mostOpen = new AtomicInteger();
    try (Player own =
        new Player(
            () -> {
              mostOpen.accumulateAndGet(open.incrementAndGet(), Math::max);
              return new Stepped() {
                @Override
                public void write(float[] left, float[] right, int frames) {
                  pause(5);
                }

                @Override
                public void close() {
                  pause(300);
                  open.decrementAndGet();
                }
              };
            },
            news::add)) {
      own.setTracks(List.of(Track.source(Audio.of(RATE, SOURCE))));
      Thread hand =
          new Thread(
              group,
              () -> {
                for (int i = 0; i < 60; i++) {
                  if (own.playing()) {
                    own.stop();
                  } else {
                    own.play();
                  }
                  most.accumulateAndGet(group.activeCount() - 1, Math::max);
                  pause(33);
                }
                own.stop();
              });
      hand.start();
      hand.join();
      // One that holds the output, one that waits, and one that is just going.
      assertThat(most.get()).isBetween(1, 3);
      assertThat(mostOpen.get()).isEqualTo(1);
      await(() -> group.activeCount() == 0);
    }
  }

  private static void pause(long millis) {
    try {
      Thread.sleep(millis);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  @Test
  void manyThreadsMayPlayAndStopAtOnce() throws Exception {
    player.setTracks(
        List.of(Track.source(Audio.of(RATE, SOURCE)), Track.source(Audio.of(RATE, OTHER))));
    List<Thread> hands = new java.util.ArrayList<>();
    for (int n = 0; n < 4; n++) {
      java.util.SplittableRandom random = new java.util.SplittableRandom(n);
      Thread hand =
          new Thread(
              () -> {
                for (int i = 0; i < 60; i++) {
                  switch (random.nextInt(5)) {
                    case 0 -> player.play();
                    case 1 -> player.stop();
                    case 2 -> player.seek(9 * random.nextDouble());
                    case 3 -> player.choose(random.nextInt(2));
                    default -> player.setLoop(new TimeSpan(2, 3));
                  }
                }
              });
      hands.add(hand);
      hand.start();
    }
    for (Thread hand : hands) {
      hand.join(20_000);
      assertThat(hand.isAlive()).isFalse();
    }
    player.setLoop((TimeSpan) null);
    player.play();
    player.seek(4);
    await(() -> player.positionSeconds() > 4.05 && player.positionSeconds() < 6);
    assertThat(player.playing()).isTrue();
    assertThat(news).isEmpty();
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

  @Test
  void eachPassBringsTheNextVersionAndThenTheSourceAgain() throws Exception {
    List<Integer> turns = new CopyOnWriteArrayList<>();
    List<Track> tracks = new java.util.ArrayList<>();
    Audio source = Audio.of(RATE, SOURCE);
    tracks.add(Track.source(source));
    for (int v = 1; v <= 2; v++) {
      tracks.add(Track.version(source, source.times(1.0 / (v + 1)), source.times(0.5)));
    }
    tracks.add(Track.source(source));
    player.setTracks(tracks);
    player.setRound(3);
    player.onTurn(turns::add);
    player.setLoop(new TimeSpan(1, 1.15));
    player.setTurns(Turns.NEXT);
    player.play();
    await(() -> turns.size() >= 5);
    assertThat(List.copyOf(turns).subList(0, 5)).containsExactly(1, 2, 0, 1, 2);
    player.choose(2);
    turns.clear();
    player.setTurns(Turns.WITH_SOURCE);
    await(() -> turns.size() >= 4);
    assertThat(turns).containsSubsequence(0, 2, 0);
    player.stop();
    // Through all these turns there was never a jump.
    assertThat(largestStep(out.heardLeft())).isLessThan(TONE_STEP);
  }

  /** What comes out of the simulated output is equally loud after matching: within 0.3 LU. */
  @Test
  void whatIsHeardIsEquallyLoudAfterMatching() throws Exception {
    Audio source = Audio.of(16_000, Sounds.speech16());
    Audio quiet = source.times(-0.2);
    var matched =
        kettlesieve.core.match.Matcher.match(
            kettlesieve.core.ground.SourceMaterial.of(source, null, null),
            quiet,
            kettlesieve.core.comparison.MatchOverride.NONE);
    Track version = Track.version(source, matched.wholeAudio(), matched.alignedWhole());
    double[] heard = new double[3];
    for (int i = 0; i < 3; i++) {
      SimulatedOut fast = new SimulatedOut(false);
      try (Player own = new Player(() -> fast, news::add)) {
        own.setTracks(List.of(Track.source(source), version));
        own.choose(i == 0 ? 0 : 1);
        own.setLevelMatched(i < 2);
        own.play();
        await(() -> !own.playing());
        Audio out16 = Audio.of(16_000, fast.heardLeft());
        heard[i] = kettlesieve.core.signal.Loudness.of(out16).integrated().orElse(Double.NaN);
      }
    }
    assertThat(heard[1]).isCloseTo(heard[0], within(0.3));
    // As delivered it was 14 dB down.
    assertThat(heard[2]).isCloseTo(heard[0] - 13.98, within(0.5));
  }
}
