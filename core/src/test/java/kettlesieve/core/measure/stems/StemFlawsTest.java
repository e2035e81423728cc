package kettlesieve.core.measure.stems;

import static kettlesieve.core.measure.stems.StemBand.LENGTH;
import static kettlesieve.core.measure.stems.StemBand.RATE;
import static kettlesieve.core.measure.stems.StemBand.TRUE;
import static kettlesieve.core.measure.stems.StemBand.changed;
import static kettlesieve.core.measure.stems.StemBand.measured;
import static kettlesieve.core.measure.stems.StemBand.reading;
import static kettlesieve.core.measure.stems.StemBand.sum;
import static kettlesieve.core.measure.stems.StemBand.untouched;
import static kettlesieve.core.measure.stems.StemBand.value;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/** Each flaw put into one stem by hand: its own reading moves, in the right place. */
class StemFlawsTest {
  @Test
  void aQuieterStemHasLostNothing() throws Exception {
    Map<String, Readings> taken = measured(changed("vocals", v -> v.times(0.5f)));
    assertThat(value(taken, "vocals", "missing")).isLessThan(-50);
    assertThat(reading(taken, "vocals", "missing").detail("level")).isCloseTo(-6.02, within(0.1));
    assertThat(value(taken, "vocals", "dropouts")).isLessThan(0.5);
    assertThat(value(taken, "", "sum-residual")).isGreaterThan(-15);
  }

  @Test
  void aSilencedPassageIsMissingThereAndDropsOut() throws Exception {
    int from = 5 * RATE;
    Map<String, Readings> taken =
        measured(changed("other", o -> silenced(o, from, from + 3 * RATE)));
    assertThat(value(taken, "other", "dropouts")).isCloseTo(25, within(6.0));
    assertThat(reading(taken, "other", "missing").detail("kept")).isLessThan(-1);
    assertThat(reading(taken, "other", "dropouts").spots().get(0).from()).isBetween(4.8, 8.1);
    assertThat(value(taken, "vocals", "missing")).isLessThan(-50);
  }

  private static Audio silenced(Audio a, int from, int to) {
    float[][] x = {a.wholeChannel(0), a.wholeChannel(1)};
    for (float[] channel : x) {
      java.util.Arrays.fill(channel, from, to, 0);
    }
    return Audio.of(RATE, x);
  }

  @Test
  void overtonesThatWereCutAreMissingInTheirBands() throws Exception {
    Map<String, Readings> taken = measured(changed("vocals", StemBand::dull));
    Reading missing = reading(taken, "vocals", "missing");
    assertThat(missing.value()).isBetween(-15.0, -8.0);
    assertThat(missing.detail("kept")).isLessThan(-1);
    for (int b = 0; b < missing.spectrum().hz().length; b++) {
      double hz = missing.spectrum().hz()[b];
      double db = missing.spectrum().version()[b];
      if (Double.isFinite(db) && hz > 3000) {
        assertThat(db).isLessThan(-12);
      }
      if (Double.isFinite(db) && hz > 200 && hz < 900) {
        assertThat(db).isGreaterThan(-3);
      }
    }
    assertThat(value(taken, "vocals", "dropouts")).isLessThan(20);
  }

  @Test
  void aStemInMonoHasMovedToTheMiddle() throws Exception {
    Map<String, Readings> taken =
        measured(
            changed(
                "other",
                o -> {
                  float[] middle = o.downmix().wholeChannel(0);
                  return Audio.of(RATE, middle, middle);
                }));
    assertThat(value(taken, "other", "width-change")).isLessThan(-5);
    assertThat(Math.abs(value(taken, "drums", "width-change"))).isLessThan(1);
    assertThat(reading(taken, "other", "missing").detail("kept")).isGreaterThan(-0.7);
  }

  @Test
  void aStemThatDucksAtEachStrokePumps() throws Exception {
    Map<String, Readings> taken = measured(changed("other", StemFlawsTest::ducked));
    Reading pumping = reading(taken, "other", "pumping");
    assertThat(pumping.value()).isBetween(-9.0, -2.0);
    assertThat(Math.abs(pumping.detail("drums"))).isEqualTo(Math.abs(pumping.value()));
    assertThat(Math.abs(value(untouched(), "other", "pumping"))).isLessThan(0.7);
  }

  /** 6 dB down from each stroke on, back within a quarter of a second. */
  private static Audio ducked(Audio a) {
    float[][] x = {a.wholeChannel(0), a.wholeChannel(1)};
    for (float[] channel : x) {
      for (int i = 0; i < channel.length; i++) {
        double since = i % (RATE * 2 / 5) / (double) RATE;
        channel[i] *= (float) (since < 0.15 ? 0.5 : Math.min(1, 0.5 + (since - 0.15) / 0.2));
      }
    }
    return Audio.of(RATE, x);
  }

  @Test
  void aDullStemEndsWhereItWasCut() throws Exception {
    Map<String, Readings> taken = measured(changed("drums", StemBand::dull));
    assertThat(value(taken, "drums", "bandwidth")).isBetween(1200.0, 2300.0);
    assertThat(reading(taken, "drums", "bandwidth").detail("source")).isGreaterThan(7000);
    assertThat(value(untouched(), "drums", "bandwidth")).isGreaterThan(7000);
  }

  @Test
  void aToneThatWasNotInTheMixRings() throws Exception {
    Map<String, Readings> taken =
        measured(
            changed(
                "vocals",
                v -> {
                  float[][] x = {v.wholeChannel(0), v.wholeChannel(1)};
                  for (float[] channel : x) {
                    for (int i = 0; i < channel.length; i++) {
                      channel[i] += (float) (0.04 * Math.sin(2 * Math.PI * 7000 * i / RATE));
                    }
                  }
                  return Audio.of(RATE, x);
                }));
    Reading ringing = reading(taken, "vocals", "ringing");
    assertThat(ringing.value()).isGreaterThan(8);
    assertThat(ringing.detail("frequency")).isCloseTo(7000, within(40.0));
    assertThat(value(taken, "drums", "ringing")).isLessThan(1);
    for (String role : TRUE.keySet()) {
      assertThat(value(untouched(), role, "ringing")).as(role).isLessThan(1);
    }
  }

  /** Every other stroke is soft, 26 dB down; a gate takes the soft ones, or half of them. */
  @Test
  void softStrokesThatAreGoneAreCounted() throws Exception {
    int beat = RATE / 4;
    float[][] drums = {new float[LENGTH], new float[LENGTH]};
    SplittableRandom random = new SplittableRandom(8);
    for (int i = 0; i < LENGTH; i++) {
      double stroke = i % beat / (double) RATE;
      double loud = i / beat % 2 == 0 ? 0.4 : 0.02;
      float x = (float) (loud * Math.exp(-stroke / 0.03) * random.nextGaussian());
      drums[0][i] = x;
      drums[1][i] = x;
    }
    Map<String, Audio> truth = new LinkedHashMap<>();
    truth.put("drums", Audio.of(RATE, drums));
    truth.put("bass", TRUE.get("bass"));
    MatchSettings settings = new MatchSettings(Job.STEMS, LevelMode.WANTED, null, null);
    PreparedExcerpt own = PreparedExcerpt.of(sum(truth), null, null, null, settings);
    double[] kept = new double[3];
    for (int every = 0; every < 3; every++) {
      float[][] gated = {drums[0].clone(), drums[1].clone()};
      for (int i = 0; i < LENGTH; i++) {
        int stroke = i / beat;
        boolean gone = stroke % 2 == 1 && (every == 2 || every == 1 && stroke % 4 == 1);
        gated[0][i] *= gone ? 0 : 1;
        gated[1][i] *= gone ? 0 : 1;
      }
      Map<String, Audio> stems = new LinkedHashMap<>(truth);
      stems.put("drums", Audio.of(RATE, gated));
      MatchedStems matched = own.matchStems(stems, MatchOverride.NONE, null, Stop.NEVER);
      StemCells cells = own.cells(Map.of("a", matched), truth, Stop.NEVER).get("a");
      Reading detail =
          own.measureStems(matched, cells, Scoring.shipped().measures(Job.STEMS), Stop.NEVER)
              .get("drums")
              .reading("quiet-detail")
              .orElseThrow();
      kept[every] = detail.value();
      assertThat(detail.detail("attacks")).isBetween(18.0, 30.0);
    }
    assertThat(kept[0]).isGreaterThan(97);
    assertThat(kept[1]).isCloseTo(50, within(12.0));
    assertThat(kept[2]).isLessThan(10);
  }

  @Test
  void aLevelAndADelayAreToldFromLoss() throws Exception {
    Map<String, Audio> stems = changed("drums", d -> d.times(0.5f));
    stems.put("bass", late(TRUE.get("bass"), 48));
    Reading left = measured(stems).get("").reading("sum-residual").orElseThrow();
    assertThat(left.value()).isGreaterThan(-20);
    assertThat(left.detail("fitted")).isLessThan(-40);
    assertThat(left.notes())
        .anyMatch(n -> n.startsWith("drums is -6.0 dB off"))
        .anyMatch(n -> n.startsWith("bass is") && n.contains("3.0"))
        .noneMatch(n -> n.startsWith("vocals"));
    Map<String, Audio> three = new LinkedHashMap<>(TRUE);
    three.remove("drums");
    Reading without = measured(three).get("").reading("sum-residual").orElseThrow();
    assertThat(without.detail("drums")).isGreaterThan(-1);
    assertThat(without.detail("vocals")).isLessThan(-8);
    assertThat(without.notes()).anyMatch(n -> n.contains("holds drums"));
    Reading whole = untouched().get("").reading("sum-residual").orElseThrow();
    assertThat(whole.value()).isLessThan(-90);
    assertThat(whole.notes()).isEmpty();
  }

  private static Audio late(Audio a, int samples) {
    float[][] x = {new float[LENGTH], new float[LENGTH]};
    for (int c = 0; c < 2; c++) {
      System.arraycopy(a.wholeChannel(c), 0, x[c], samples, LENGTH - samples);
    }
    return Audio.of(RATE, x);
  }
}
