package kettlesieve.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.ground.Activity;
import kettlesieve.core.ground.SourceMaterial;
import org.junit.jupiter.api.Test;

/** What measures gather by block, and the ends of wanted sound. */
class BlocksTest {
  private static final Pair PAIR = Scene.pair(Scene.withNoiseTimes(0.3));

  @Test
  void histogramsGiveQuantilesOfWeightedBlocks() {
    BlockHistograms values = new BlockHistograms(PAIR.timeline(), -10, 10, 0.01);
    int[] weights = new int[PAIR.timeline().blocks()];
    for (int i = 1; i <= 5; i++) {
      values.add(0, i, 1);
      values.add(1, -i, 1);
    }
    assertThat(values.median(weights)).isNaN();
    assertThatThrownBy(() -> values.add(0, 1, 1)).isInstanceOf(IllegalStateException.class);
    weights[0] = 1;
    assertThat(values.median(weights)).isCloseTo(3, within(0.02));
    weights[1] = 1;
    assertThat(values.median(weights)).isBetween(-1.01, 1.01);
    weights[0] = 0;
    assertThat(values.quantile(weights, 0.9)).isCloseTo(-1, within(0.02));
  }

  @Test
  void valuesOutsideStandAtTheEnds() {
    BlockHistograms values = new BlockHistograms(PAIR.timeline(), -10, 10, 0.5);
    int[] weights = new int[PAIR.timeline().blocks()];
    Arrays.fill(weights, 1);
    values.add(0, 400, 1);
    assertThat(values.median(weights)).isCloseTo(10, within(0.5));
  }

  @Test
  void meansCarryTheirInterval() {
    BlockMeans means = new BlockMeans(PAIR);
    assertThat(means.none()).isTrue();
    assertThat(means.estimate().value()).isNaN();
    int frames = PAIR.timeline().frames();
    for (int t = 0; t < frames; t++) {
      means.add(t, t < frames / 2 ? 1 : 3);
    }
    Estimate mean = means.estimate();
    assertThat(mean.value()).isCloseTo(2, within(0.01));
    // Half of the blocks say 1 and half 3, in two runs: nearly nothing is known of the mean.
    assertThat(mean.low()).isBetween(0.0, 1.2);
    assertThat(mean.high()).isBetween(2.8, 4.0);
  }

  @Test
  void wantedSoundEndsWhereAPauseFollows() {
    Activity activity = PAIR.source().pauses().activity();
    int[] ends = activity.offsets(0.3);
    assertThat(ends).isNotEmpty();
    for (int end : ends) {
      assertThat(activity.active(end - 1)).isTrue();
      assertThat(activity.active(end)).isFalse();
      double quiet = (activity.nextOnset(end) - end) * PAIR.framing().hopSeconds();
      assertThat(quiet).isGreaterThanOrEqualTo(0.29);
    }
    assertThat(activity.offsets(0.05).length).isGreaterThanOrEqualTo(ends.length);
    assertThat(activity.offsets(1000)).isEmpty();
  }

  @Test
  void pausesFromAPersonOrACleanRecordingAreCertain() {
    Audio source = Audio.of(Scene.RATE, Scene.NOISY);
    Audio clean = Audio.of(Scene.RATE, Scene.SPEECH);
    assertThat(SourceMaterial.of(source, null, null).pauses().activity().certain()).isFalse();
    assertThat(
            SourceMaterial.of(source, null, null, clean, Job.DENOISE, null)
                .pauses()
                .activity()
                .certain())
        .isTrue();
    List<TimeSpan> marks = List.of(new TimeSpan(0, 0.7));
    assertThat(SourceMaterial.of(source, null, marks).pauses().activity().certain()).isTrue();
  }

  @Test
  void everyReadingTellsWhereItComesFrom() {
    for (Measure measure : Measures.of(kettlesieve.core.comparison.Job.DENOISE)) {
      if (measure.declaration().needsReference()) {
        continue;
      }
      Reading reading;
      try {
        reading = ((PairMeasure) measure).measure(PAIR);
      } catch (NotMeasurableException e) {
        assertThat(e.getMessage()).as(measure.declaration().id()).isNotBlank();
        continue;
      }
      String id = measure.declaration().id();
      assertThat(reading.estimate().low()).as(id).isLessThanOrEqualTo(reading.value());
      assertThat(reading.estimate().high()).as(id).isGreaterThanOrEqualTo(reading.value());
      assertThat(reading.estimate().draws()).as(id).hasSize(Bootstrap.DRAWS);
      assertThat(reading.trace().seconds()).as(id).hasSameSizeAs(reading.trace().values());
      assertThat(reading.spectrum().hz()).as(id).hasSameSizeAs(reading.spectrum().version());
      double end = PAIR.source().audio().seconds();
      assertThat(reading.spots())
          .as(id)
          .allMatch(s -> s.from() >= 0 && s.to() <= end + 0.1 && s.low() < s.high());
    }
  }
}
