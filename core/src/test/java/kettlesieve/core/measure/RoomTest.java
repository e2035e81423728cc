package kettlesieve.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.rig.LateSubtraction;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.signal.Convolution;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Real speech in rooms made of exponentially decaying noise (Polack's model): the truth is known,
 * because the late part can be left out by exact amounts.
 */
class RoomTest {
  private static final MatchSettings DEREVERB =
      new MatchSettings(Job.DEREVERB, LevelMode.WANTED, null, null);

  /** What is scored of dereverb: the readings of noise are shown only. */
  private static final Set<String> SCORED =
      Scoring.shipped().declarations(Job.DEREVERB).stream()
          .filter(d -> Scoring.shipped().scale(d, Job.DEREVERB).isPresent())
          .map(Declaration::id)
          .collect(Collectors.toSet());

  /** A recording in a room, kept apart as direct and early sound, late sound, and noise. */
  private record Room(int rate, float[] near, float[] late, float[] noise) {
    /** With the late part times a factor. */
    float[] with(double share) {
      float[] x = new float[near.length];
      for (int i = 0; i < x.length; i++) {
        x[i] = (float) (near[i] + share * late[i] + noise[i]);
      }
      return x;
    }
  }

  /** Figures of one version. */
  private record Figures(Map<String, Double> readings, Map<Axis, Double> axes) {}

  static Stream<Arguments> rooms() {
    return Stream.of(
        Arguments.of(48_000, 0.5, -4, 50),
        Arguments.of(48_000, 0.6, 3, 60),
        Arguments.of(48_000, 1.0, 0, 40),
        Arguments.of(16_000, 0.4, 0, 60),
        Arguments.of(16_000, 0.7, -5, 45),
        Arguments.of(16_000, 1.2, 4, 50));
  }

  /**
   * @param decay reverberation time in s
   * @param direct energy of the direct sound over all reverberation, dB
   * @param snr speech over noise, dB
   */
  private static Room room(int rate, double decay, double direct, double snr) {
    float[] speech = rate == 48_000 ? Sounds.speech48() : Sounds.speech16();
    SplittableRandom random = new SplittableRandom(Math.round(1000 * decay) + rate);
    int split = (int) (0.05 * rate);
    double[] early = new double[split];
    double[] late = new double[(int) (Math.min(decay, 1.2) * rate)];
    double energy = 0;
    for (int i = (int) (0.003 * rate); i < late.length; i++) {
      double x = random.nextGaussian() * Math.pow(10, -3.0 * i / (decay * rate));
      (i < split ? early : late)[i] = x;
      energy += x * x;
    }
    double factor = Math.pow(10, -direct / 20) / Math.sqrt(energy);
    for (int i = 0; i < late.length; i++) {
      late[i] *= factor;
      if (i < split) {
        early[i] *= factor;
      }
    }
    early[0] = 1;
    float[] near = Convolution.of(speech, early);
    float[] tail = Convolution.of(speech, late);
    float[] noise = Sounds.pink(near.length, 9);
    double level = Sounds.noiseFactor(near, noise, snr);
    for (int i = 0; i < noise.length; i++) {
      noise[i] *= (float) level;
    }
    return new Room(rate, near, tail, noise);
  }

  private static PreparedExcerpt assess(Room room) throws MatchException {
    return PreparedExcerpt.of(Audio.of(room.rate(), room.with(1)), null, null, null, DEREVERB);
  }

  private static Figures figures(PreparedExcerpt preparedExcerpt, int rate, float[] version)
      throws MatchException {
    Scoring scoring = Scoring.shipped();
    Readings taken =
        preparedExcerpt.measure(
            preparedExcerpt.match(Audio.of(rate, version), MatchOverride.NONE), SCORED);
    Card card = Card.of(taken.readings(), scoring, scoring.profileOrDefault(null), Job.DEREVERB);
    Map<String, Double> readings = new TreeMap<>();
    taken.readings().forEach(r -> readings.put(r.measure(), r.value()));
    Map<Axis, Double> axes = new TreeMap<>();
    card.axes().forEach((axis, estimate) -> axes.put(axis, estimate.value()));
    return new Figures(readings, axes);
  }

  private static double reading(
      PreparedExcerpt preparedExcerpt, int rate, float[] version, String id) throws MatchException {
    return preparedExcerpt
        .measure(preparedExcerpt.match(Audio.of(rate, version), MatchOverride.NONE), Set.of(id))
        .reading(id)
        .orElseThrow()
        .value();
  }

  @ParameterizedTest(name = "{0} Hz, {1} s, direct over reverberation {2} dB, noise {3} dB down")
  @MethodSource("rooms")
  void whatIsLeftOfTheRoomIsOrderedAndRemovalAloneCostsNothing(
      int rate, double decay, double direct, double snr) throws Exception {
    Room room = room(rate, decay, direct, snr);
    PreparedExcerpt preparedExcerpt = assess(room);
    assertThat(preparedExcerpt.warnings()).isEmpty();
    List<Double> missed = new ArrayList<>();
    for (double share : new double[] {1.6, 1, 0.5, 0.25, 0}) {
      Figures figures = figures(preparedExcerpt, rate, room.with(share));
      missed.add(figures.axes().get(Axis.MISSED));
      if (share <= 1) {
        assertThat(figures.axes().get(Axis.ADDED)).as("added, share " + share).isGreaterThan(99);
        assertThat(figures.axes().get(Axis.LOST)).as("lost, share " + share).isGreaterThan(99);
      }
      if (share == 1) {
        assertThat(figures.readings().get("room-tail")).isCloseTo(0, within(0.05));
        assertThat(missed.get(1)).isBetween(32.0, 35.0);
      }
      if (share == 0.5) {
        assertThat(figures.readings().get("room-tail")).isBetween(-6.5, -3.0);
      }
    }
    for (int i = 1; i < missed.size(); i++) {
      assertThat(missed.get(i)).as(missed.toString()).isGreaterThan(missed.get(i - 1));
    }
  }

  @Test
  void eachFlawIsSeenByItsMeasureAlone() throws Exception {
    Room room = room(48_000, 0.6, 0, 50);
    PreparedExcerpt preparedExcerpt = assess(room);
    float[] removed = room.with(0.25);
    Figures good = figures(preparedExcerpt, 48_000, removed);
    Figures dull = figures(preparedExcerpt, 48_000, Sounds.lowPass(removed, 48_000, 3400));
    assertThat(dull.readings().get("bandwidth")).isBetween(3000.0, 4500.0);
    assertThat(dull.axes().get(Axis.LOST)).isLessThan(60);
    float[] chopped = removed.clone();
    float[] wavering = removed.clone();
    for (int i = 0; i < removed.length; i++) {
      double seconds = i / 48_000.0;
      chopped[i] *= seconds % 0.4 < 0.08 ? 0.01f : 1;
      wavering[i] *= (float) Math.pow(10, 6 * Math.sin(2 * Math.PI * 8 * seconds) / 20);
    }
    Figures swallowed = figures(preparedExcerpt, 48_000, chopped);
    assertThat(swallowed.readings().get("dropouts")).isGreaterThan(5);
    assertThat(swallowed.axes().get(Axis.LOST)).isLessThan(70);
    Figures watery = figures(preparedExcerpt, 48_000, wavering);
    assertThat(watery.readings().get("flutter")).isGreaterThan(2);
    assertThat(watery.axes().get(Axis.ADDED)).isLessThan(80);
    for (String id : List.of("flutter", "dropouts", "musical-noise")) {
      assertThat(good.readings().get(id)).as(id).isLessThan(0.1);
    }
  }

  /** A filter takes voice and room alike: that is a loss, and no drier than before. */
  @Test
  void aLowPassDriesNothing() throws Exception {
    Room room = room(48_000, 0.6, 0, 50);
    PreparedExcerpt preparedExcerpt = assess(room);
    Figures dull = figures(preparedExcerpt, 48_000, Sounds.lowPass(room.with(1), 48_000, 3400));
    assertThat(dull.readings().get("room-tail")).isCloseTo(0, within(1.5));
    assertThat(dull.readings().get("room-under-voice")).isCloseTo(0, within(1.5));
    Figures half = figures(preparedExcerpt, 48_000, room.with(0.5));
    Figures halfDull =
        figures(preparedExcerpt, 48_000, Sounds.lowPass(room.with(0.5), 48_000, 3400));
    for (String id : List.of("room-tail", "room-under-voice")) {
      assertThat(halfDull.readings().get(id))
          .as(id)
          .isCloseTo(half.readings().get(id), within(1.5));
    }
  }

  /** Only who takes the room out of the voice turns its phases: gains, however strong, do not. */
  @Test
  void theRoomInTheVoiceIsToldFromGains() throws Exception {
    Room room = room(48_000, 0.6, 0, 50);
    PreparedExcerpt preparedExcerpt = assess(room);
    double[] left = new double[4];
    double[] shares = {1, 0.5, 0.25, 0};
    for (int i = 0; i < shares.length; i++) {
      left[i] = reading(preparedExcerpt, 48_000, room.with(shares[i]), "room-in-voice");
    }
    assertThat(left[0]).isCloseTo(0, within(0.01));
    assertThat(left[1]).isBetween(-9.0, -3.5);
    assertThat(left[2]).isLessThan(left[1] - 1);
    assertThat(left[3]).isLessThan(-8);
    Audio source = Audio.of(48_000, room.with(1));
    for (int amount : new int[] {30, 60, 100}) {
      float[] version = subtracted(source, amount);
      assertThat(reading(preparedExcerpt, 48_000, version, "room-in-voice"))
          .as("amount " + amount)
          .isGreaterThan(-3);
      assertThat(reading(preparedExcerpt, 48_000, version, "room-tail")).isLessThan(-4);
    }
    assertThat(reading(preparedExcerpt, 48_000, room.with(1.6), "room-in-voice")).isGreaterThan(1);
  }

  /** The room's own share of cells between voice and tail is no loss; twice that is. */
  @Test
  void aVoiceThatIsThinnedWithItsRoomHasLostDetail() throws Exception {
    Room room = room(16_000, 0.7, 0, 50);
    PreparedExcerpt preparedExcerpt = assess(room);
    assertThat(reading(preparedExcerpt, 16_000, room.with(0), "detail-loss")).isLessThan(3);
    Audio source = Audio.of(16_000, room.with(1));
    float[] once = subtracted(source, 100);
    float[] twice = subtracted(Audio.of(16_000, once), 100);
    double lostOnce = reading(preparedExcerpt, 16_000, once, "detail-loss");
    Figures lostTwice = figures(preparedExcerpt, 16_000, twice);
    assertThat(lostTwice.readings().get("detail-loss"))
        .isGreaterThan(lostOnce + 1)
        .isGreaterThan(6);
    assertThat(lostTwice.axes().get(Axis.LOST)).isLessThan(85);
  }

  private static float[] subtracted(Audio source, double amount) {
    return new LateSubtraction().process(source, amount, Progress.SILENT).wholeChannel(0);
  }

  @Test
  void strongSubtractionOfTheTailTwitters() throws Exception {
    Room room = room(16_000, 0.8, 0, 50);
    PreparedExcerpt preparedExcerpt = assess(room);
    Audio source = Audio.of(16_000, room.with(1));
    double last = reading(preparedExcerpt, 16_000, room.with(0), "musical-noise");
    for (int amount : new int[] {30, 100}) {
      float[] version = subtracted(source, amount);
      double now = reading(preparedExcerpt, 16_000, version, "musical-noise");
      assertThat(now).isGreaterThan(last);
      last = now;
    }
    assertThat(last).isGreaterThan(0.13);
  }

  @Test
  void aDryRecordingSaysThatThereIsNothingToTakeAway() throws Exception {
    Room room = room(48_000, 0.3, 20, 60);
    PreparedExcerpt preparedExcerpt = assess(room);
    Readings taken =
        preparedExcerpt.measure(
            preparedExcerpt.match(Audio.of(48_000, room.with(0)), MatchOverride.NONE));
    assertThat(taken.notMeasured())
        .filteredOn(n -> n.measure().startsWith("room-"))
        .hasSize(3)
        .allSatisfy(n -> assertThat(n.reason()).contains("hardly any reverberation"));
  }

  @Test
  void soundThatNeverDiesAwayLeavesTheRoomUnknown() throws Exception {
    float[] hiss = Sounds.white(10 * 16_000, 4);
    PreparedExcerpt preparedExcerpt =
        PreparedExcerpt.of(Audio.of(16_000, hiss), null, null, null, DEREVERB);
    assertThat(preparedExcerpt.warnings().toString()).contains("never dies away freely");
    var matched = preparedExcerpt.match(Audio.of(16_000, hiss), MatchOverride.NONE);
    assertThat(matched.match().warnings().toString()).contains("the level match is uncertain");
    assertThat(preparedExcerpt.measure(matched).notMeasured())
        .filteredOn(n -> n.measure().equals("room-tail"))
        .singleElement()
        .satisfies(n -> assertThat(n.reason()).contains("choose a longer excerpt"));
  }
}
