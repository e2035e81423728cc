package kettlesieve.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.signal.ThirdOctaveBands;
import org.junit.jupiter.api.Test;

class PlacesTest {
  private final Timeline timeline = Scene.pair(Scene.NOISY).timeline();

  @Test
  void blocksAreSecondsAndCoverAllFrames() {
    int seconds = Scene.NOISY.length / Scene.RATE;
    assertThat(timeline.blocks()).isEqualTo(seconds);
    assertThat(timeline.block(0)).isZero();
    assertThat(timeline.block(timeline.frames() - 1)).isEqualTo(seconds - 1);
    for (int t = 1; t < timeline.frames(); t++) {
      assertThat(timeline.block(t) - timeline.block(t - 1)).isBetween(0, 1);
    }
  }

  @Test
  void slotsAreAboutATenthOfASecond() {
    double length = timeline.slotMiddle(11) - timeline.slotMiddle(10);
    assertThat(length).isCloseTo(0.1, within(0.02));
    assertThat(timeline.slotStart(3)).isLessThan(timeline.slotMiddle(3));
    assertThat(timeline.slotMiddle(3)).isLessThan(timeline.slotEnd(3));
  }

  @Test
  void spotsAreTheWorstAndKeepTheirDistance() {
    PlaceGrid grid = new PlaceGrid(timeline, 10);
    for (int t = 0; t < timeline.frames(); t++) {
      grid.add(t, t % 10, Math.sin(t / 40.0), 1);
    }
    List<Spot> loud = grid.spots(true, 0, 1);
    assertThat(loud).isNotEmpty().hasSizeLessThanOrEqualTo(Evidence.MOST_SPOTS);
    for (int i = 1; i < loud.size(); i++) {
      assertThat(loud.get(i).value()).isLessThanOrEqualTo(loud.get(i - 1).value());
      for (int j = 0; j < i; j++) {
        assertThat(Math.abs(loud.get(i).from() - loud.get(j).from())).isGreaterThan(0.3);
      }
    }
    List<Spot> quiet = grid.spots(false, 0, 1);
    assertThat(quiet.get(0).value()).isNegative();
    assertThat(grid.spots(true, 5, 1)).isEmpty();
    assertThat(grid.spots(true, -5, 1000)).isEmpty();
  }

  @Test
  void meansAreWeighted() {
    PlaceGrid grid = new PlaceGrid(timeline, 2);
    grid.add(0, 0, 10, 1);
    grid.add(0, 0, 20, 3);
    assertThat(grid.value(0, 0)).isEqualTo(17.5);
    assertThat(grid.value(0, 1)).isNaN();
    assertThat(grid.perBand()[0]).isEqualTo(17.5);
    assertThat(grid.trace().values()[0]).isEqualTo(17.5);
    assertThat(grid.trace().values()[1]).isNaN();
    assertThat(grid.hz()[1]).isEqualTo(ThirdOctaveBands.middleHz(1));
  }

  @Test
  void drawsAreTheSameForEqualNumbersOfBlocks() {
    Estimate a = new Bootstrap(12).estimate(w -> w[3] + 10 * w[7]);
    Estimate b = new Bootstrap(12).estimate(w -> w[3] + 10 * w[7]);
    assertThat(a.draws()).isEqualTo(b.draws());
    assertThat(a.value()).isEqualTo(11);
    Estimate sum = new Bootstrap(12).estimate(w -> java.util.Arrays.stream(w).sum());
    assertThat(sum.draws()).containsOnly(12.0);
  }

  @Test
  void drawsWithoutDataDoNotSpoilTheInterval() {
    double[] draws = {1, Double.NaN, 2, 3, Double.NaN};
    Estimate e = new Estimate(2, draws);
    assertThat(e.low()).isBetween(1.0, 2.0);
    assertThat(e.high()).isBetween(2.0, 3.0);
    assertThat(new Estimate(5, new double[] {Double.NaN}).low()).isEqualTo(5);
    assertThat(e.map(x -> -x).value()).isEqualTo(-2);
  }

  @Test
  void theMeasuresThatArePromisedAreThereOnce() {
    List<String> ids = Measures.all().stream().map(m -> m.declaration().id()).toList();
    assertThat(ids).doesNotHaveDuplicates();
    assertThat(ids)
        .contains(
            "pause-noise",
            "noise-cut",
            "noise-under-voice",
            "musical-noise",
            "flutter",
            "voice-loss",
            "bandwidth",
            "dropouts",
            "level-change",
            "si-sdr",
            "breathing",
            "ringing",
            "attack-loss",
            "room-tail",
            "room-under-voice",
            "clicks-left",
            "noise-bursts",
            "flat-tops-left",
            "edge-crackle",
            "overshoot",
            "untouched",
            "delta-sdr",
            "sdr",
            "stoi",
            "bleed",
            "sum-residual",
            "missing",
            "width-change",
            "pumping",
            "length-error",
            "timing-drift",
            "pitch-drift",
            "pre-echo",
            "tone-change",
            "pitch-error");
    assertThat(Measures.declaration("nothing")).isNull();
    for (Job job : Job.values()) {
      assertThat(Measures.of(job)).as(job.id()).hasSizeGreaterThan(4);
    }
  }

  @Test
  void theFourRangesMeetWithoutOverlap() {
    assertThat(VoiceRange.at(79)).isNull();
    assertThat(VoiceRange.at(80)).isEqualTo(VoiceRange.BODY);
    assertThat(VoiceRange.at(300)).isEqualTo(VoiceRange.MIDDLE);
    assertThat(VoiceRange.at(2000)).isEqualTo(VoiceRange.PRESENCE);
    assertThat(VoiceRange.at(6000)).isEqualTo(VoiceRange.AIR);
    assertThat(VoiceRange.at(16_000)).isNull();
    assertThat(VoiceRange.AIR.id()).isEqualTo("air");
  }

  @Test
  void aSilentVersionGivesAReadingOrAReasonForEachMeasure() {
    Pair pair = Scene.pair(new float[Scene.NOISY.length]);
    Readings taken = Measures.take(Job.DENOISE, pair);
    assertThat(taken.readings().size() + taken.notMeasured().size())
        .isEqualTo(Measures.of(Job.DENOISE).size());
    assertThat(taken.readings()).allMatch(r -> Double.isFinite(r.value()));
  }
}
