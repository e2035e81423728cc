package kettlesieve.calibrate.truth;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import kettlesieve.calibrate.corpus.Material;
import kettlesieve.calibrate.corpus.RoomMaterial;
import kettlesieve.calibrate.makers.Dereverbers;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/** What is true of versions whose parts are known. */
class TruthsTest {
  private static final int RATE = 16_000;
  private static final int LENGTH = 8 * RATE;

  private static float[] noise(long seed, double sigma) {
    SplittableRandom random = new SplittableRandom(seed);
    float[] x = new float[LENGTH];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (sigma * random.nextGaussian());
    }
    return x;
  }

  /** Noise that comes in syllables, five in two seconds and a pause. */
  private static float[] syllables(long seed) {
    float[] x = noise(seed, 0.1);
    for (int i = 0; i < x.length; i++) {
      double seconds = (double) i / RATE;
      double swell = Math.max(0, Math.sin(2 * Math.PI * 2.5 * seconds));
      x[i] *= (float) (seconds % 2 < 1.2 ? swell : 0);
    }
    return x;
  }

  private static float[] sum(float[] a, float[] b, double times) {
    float[] y = a.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] += (float) (times * b[i]);
    }
    return y;
  }

  private static Audio audio(float[] x) {
    return Audio.of(RATE, x);
  }

  @Test
  void aVersionWithLessNoiseIsTrulyBetterByThatMuch() throws Exception {
    float[] clean = syllables(1);
    float[] noise = noise(2, 0.01);
    Material m =
        new Material(audio(sum(clean, noise, 1)), audio(clean), audio(noise), audio(noise));
    Truths truths = new Truths(m);
    Truth source = truths.of(m.source());
    Truth less = truths.of(audio(sum(clean, noise, 0.1)));
    assertThat(source.noiseLeft()).isCloseTo(0, within(0.1));
    assertThat(less.noiseLeft()).isCloseTo(-20, within(0.2));
    assertThat(less.siSdr() - source.siSdr()).isCloseTo(20, within(0.2));
    assertThat(less.stoi()).isGreaterThan(source.stoi());
    assertThat(less.fwSegSnr()).isGreaterThan(source.fwSegSnr() + 3);
  }

  @Test
  void theLevelOfAVersionChangesNothing() throws Exception {
    float[] clean = syllables(1);
    float[] noise = noise(2, 0.02);
    Material m =
        new Material(audio(sum(clean, noise, 1)), audio(clean), audio(noise), audio(noise));
    Truths truths = new Truths(m);
    float[] version = sum(clean, noise, 0.3);
    Truth loud = truths.of(audio(version));
    Truth soft = truths.of(audio(sum(new float[LENGTH], version, 0.25)));
    assertThat(soft.noiseLeft()).isCloseTo(loud.noiseLeft(), within(0.05));
    assertThat(soft.wantedDistortion()).isCloseTo(loud.wantedDistortion(), within(0.2));
    assertThat(soft.fwSegSnr()).isCloseTo(loud.fwSegSnr(), within(0.05));
  }

  @Test
  void whatIsLeftOfARoomIsReadFromItsParts() throws Exception {
    float[] direct = syllables(1);
    float[] late = sum(new float[LENGTH], delayed(syllables(3), RATE / 5), 0.3);
    float[] noise = noise(4, 1e-4);
    float[] source = sum(sum(direct, late, 1), noise, 1);
    RoomMaterial m =
        new RoomMaterial(
            audio(source), audio(direct), audio(new float[LENGTH]), audio(late), audio(noise));
    RoomTruth truth = RoomTruth.of(m);
    PreparedExcerpt preparedExcerpt = preparedExcerpt(m);
    RoomTruth.Figures untouched = truth.of(preparedExcerpt.match(m.source(), MatchOverride.NONE));
    RoomTruth.Figures half = truth.of(preparedExcerpt.match(m.mix(1, 0.5), MatchOverride.NONE));
    assertThat(untouched.lateLeft()).isCloseTo(0, within(0.3));
    assertThat(half.lateLeft()).isCloseTo(-6, within(0.4));
    assertThat(half.siSdr() - untouched.siSdr()).isCloseTo(6, within(0.5));
  }

  /** Direct sound alone holds no late reflections, however like them the early ones are. */
  @Test
  void whatALinearMakerLeavesIsKnownExactly() throws Exception {
    float[] direct = syllables(1);
    float[] early = sum(new float[LENGTH], delayed(direct, RATE / 50), 0.8);
    float[] late = sum(new float[LENGTH], delayed(direct, RATE / 10), 0.5);
    float[] noise = noise(4, 1e-5);
    float[] source = sum(sum(sum(direct, early, 1), late, 1), noise, 1);
    RoomMaterial m =
        new RoomMaterial(audio(source), audio(direct), audio(early), audio(late), audio(noise));
    RoomTruth truth = RoomTruth.of(m);
    PreparedExcerpt preparedExcerpt = preparedExcerpt(m);
    for (Maker<RoomMaterial> maker : Dereverbers.all(java.nio.file.Path.of("none"))) {
      Double left =
          switch (maker.id()) {
            case "untouched", "chopped" -> 0.0;
            case "late-6" -> -6.02;
            case "late-12", "dull" -> -12.04;
            case "more-room" -> 4.08;
            case "late-none", "early-free" -> -50.0;
            default -> null;
          };
      if (left != null) {
        double known =
            truth
                .of(
                    preparedExcerpt.match(maker.way().make(m, null), MatchOverride.NONE),
                    maker.way().make(m.wantedAlone(), null).wholeChannel(0),
                    maker.way().make(m.unwantedAlone(), null).wholeChannel(0))
                .lateLeft();
        assertThat(Dereverbers.LINEAR).contains(maker.id());
        if (left == -50) {
          assertThat(known).as(maker.id()).isLessThan(left);
        } else {
          assertThat(known).as(maker.id()).isCloseTo(left, within(0.5));
        }
      }
    }
  }

  private static PreparedExcerpt preparedExcerpt(RoomMaterial m) throws Exception {
    return PreparedExcerpt.of(
        m.source(),
        null,
        null,
        null,
        new MatchSettings(Job.DEREVERB, LevelMode.WANTED, null, null));
  }

  private static float[] delayed(float[] x, int by) {
    float[] y = new float[x.length];
    System.arraycopy(x, 0, y, by, x.length - by);
    return y;
  }
}
