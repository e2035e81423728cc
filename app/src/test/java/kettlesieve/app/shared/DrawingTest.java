package kettlesieve.app.shared;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.HashSet;
import java.util.Set;
import javafx.scene.paint.Color;
import kettlesieve.app.model.Numbers;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.picture.PeakPyramid;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** Numbers, colours and axes as a person sees them; no window needed. */
class DrawingTest {

  @ParameterizedTest
  @EnumSource(Ink.Look.class)
  void textIsReadableOnPaperAndPanel(Ink.Look look) {
    for (Color ground : new Color[] {look.paper(), look.panel()}) {
      for (Color text : new Color[] {look.ink(), look.quiet(), look.action(), look.warning()}) {
        assertThat(Contrast.of(text, ground)).isGreaterThanOrEqualTo(4.5);
      }
      for (Axis axis : Axis.values()) {
        assertThat(Contrast.of(look.of(axis), ground)).as(axis.id()).isGreaterThanOrEqualTo(4.5);
      }
    }
  }

  /** What stands on any shade of a picture is read, whichever of black and white it is. */
  @ParameterizedTest
  @EnumSource(Ink.Look.class)
  void wordsOnAnyShadeAreReadable(Ink.Look look) {
    for (int i = 0; i <= 100; i++) {
      Color ground = color(look.shade(i / 100.0));
      assertThat(Contrast.of(Ink.Look.on(ground), ground)).isGreaterThanOrEqualTo(4.5);
    }
  }

  private static Color color(int argb) {
    return Color.rgb(argb >> 16 & 0xff, argb >> 8 & 0xff, argb & 0xff);
  }

  @ParameterizedTest
  @EnumSource(Ink.Look.class)
  void theSpectrogramGoesOneWayStrictlyWithTheLevel(Ink.Look look) {
    double sign = look == Ink.Look.DAY ? -1 : 1;
    double before = Contrast.luminance(color(look.shade(0)));
    for (int i = 1; i <= 50; i++) {
      double now = Contrast.luminance(color(look.shade(i / 50.0)));
      assertThat(sign * (now - before)).isPositive();
      before = now;
    }
    assertThat(look.shade(-3)).isEqualTo(look.shade(0));
    assertThat(look.shade(7)).isEqualTo(look.shade(1));
    assertThat(color(look.shade(0))).isEqualTo(look.paper());
  }

  @ParameterizedTest
  @EnumSource(Ink.Look.class)
  void eightVersionsHaveEightColours(Ink.Look look) {
    Ink.wear(look);
    Set<Color> seen = new HashSet<>();
    for (int i = 0; i < 8; i++) {
      assertThat(seen.add(VersionSign.color(i))).isTrue();
      // A sign is a picture: 3:1 is asked of it (WCAG 2.1, 1.4.11); the lightest Okabe–Ito
      // colours stay below and are told apart by their shape and digit.
      assertThat(Contrast.of(VersionSign.color(i), Ink.panel())).isGreaterThan(2);
    }
    assertThat(VersionSign.color(8)).isEqualTo(VersionSign.color(0));
    Ink.wear(Ink.Look.DAY);
  }

  @ParameterizedTest
  @CsvSource({"-12.345,1,−12.3", "0.04,1,0.0", "-0.04,1,0.0", "3,0,3", "-0.5,2,−0.50"})
  void numbersHaveATrueMinusAndNoNegativeZero(double value, int decimals, String expected) {
    assertThat(Numbers.fixed(value, decimals)).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource({"2.04,+2.0", "-2.04,−2.0", "0.01,0.0"})
  void signedNumbersShowTheirSign(double value, String expected) {
    assertThat(Numbers.signed(value, 1)).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource({"0,0:00.0", "4.26,0:04.3", "59.96,1:00.0", "3725.5,62:05.5", "-3,0:00.0"})
  void clocksCountMinutes(double seconds, String expected) {
    assertThat(Numbers.clock(seconds)).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource({"80,80 Hz", "999,999 Hz", "1000,1.0 kHz", "3548.1,3.5 kHz", "11220,11 kHz"})
  void frequenciesAreShort(double hz, String expected) {
    assertThat(Numbers.hz(hz)).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource({"11220.18,Hz,11220", "0.2961,ln ratio,0.30", "-41.72,dB,−41.7", "0.049,%,0.0"})
  void readingsHaveTheDecimalsOfTheirUnit(double value, String unit, String expected) {
    assertThat(Numbers.reading(value, unit)).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource({"-48,-20,3", "0,1,4", "-0.3,0.4,3", "0,22000,4", "99.2,99.4,3"})
  void ticksAreRoundAndInside(double low, double high, int about) {
    double[] ticks = Ticks.between(low, high, about);
    assertThat(ticks.length).isBetween(1, about + 1);
    for (double tick : ticks) {
      assertThat(tick).isBetween(low - 1e-9, high + 1e-9);
    }
    if (ticks.length > 1) {
      double step = ticks[1] - ticks[0];
      double power = Math.pow(10, Math.floor(Math.log10(step) + 1e-9));
      assertThat(Math.round(step / power)).isIn(1L, 2L, 5L, 10L);
    }
  }

  @Test
  void timeViewsStayInsideAndZoomAroundAPoint() {
    TimeView view = new TimeView();
    view.setTotal(100);
    view.zoom(0.1, 50);
    assertThat(view.seconds()).isCloseTo(10, within(1e-9));
    assertThat(view.from()).isCloseTo(45, within(1e-9));
    double x = view.x(48, 1000);
    view.zoom(0.5, 48);
    assertThat(view.x(48, 1000)).isCloseTo(x, within(1e-6));
    assertThat(view.time(x, 1000)).isCloseTo(48, within(1e-9));
    view.scroll(-100);
    assertThat(view.from()).isZero();
    view.scroll(1000);
    assertThat(view.to()).isCloseTo(100, within(1e-9));
    view.zoom(1e-9, 99);
    assertThat(view.seconds()).isCloseTo(0.002, within(1e-9));
    view.zoom(1e9, 50);
    assertThat(view.from()).isZero();
    assertThat(view.to()).isEqualTo(100);
  }

  @Test
  void waveformsKnowThePeakOfEveryPixel() {
    float[] x = new float[48_000];
    x[24_000] = 0.8f;
    x[36_000] = -0.9f;
    PeakPyramid peaks = PeakPyramid.of(Audio.of(48_000, x), 0, Progress.SILENT);
    WavePicture picture = WavePicture.of(peaks, 48_000, 0, 1, 100);
    assertThat(picture.high()[50]).isEqualTo(0.8f);
    assertThat(picture.low()[75]).isEqualTo(-0.9f);
    assertThat(picture.high()[20]).isZero();
    assertThat(picture.peak()).isCloseTo(0.9, within(1e-6));
    WavePicture close = WavePicture.of(peaks, 48_000, 0.4999, 0.5001, 96);
    assertThat(close.peak()).isCloseTo(0.8, within(1e-6));
  }

  @org.junit.jupiter.api.Test
  void costsAreSaidInWords() {
    assertThat(Costs.words(kettlesieve.core.comparison.Cost.NONE)).isEmpty();
    assertThat(Costs.words(new kettlesieve.core.comparison.Cost(4.25, 150.0, "12 €", false)))
        .isEqualTo("4.3 s, processor 2.5 min, 12 €, offline");
    assertThat(Costs.words(new kettlesieve.core.comparison.Cost(30.0, null, null, true)))
        .isEqualTo("30 s, real time");
  }

  @org.junit.jupiter.api.Test
  void theChangeMapIsPaperForNothingAndDeepensWithTheGain() {
    assertThat(Ink.Look.DAY.change(0)).isEqualTo(Ink.Look.DAY.change(1));
    int last = 256;
    for (int db = 2; db <= 30; db += 4) {
      int taken = Ink.Look.DAY.change(-db);
      int put = Ink.Look.DAY.change(db);
      int red = taken >> 16 & 0xff;
      assertThat(red).isLessThan(last);
      last = red;
      // Paper is a little yellow: the blue shows from some decibels on.
      assertThat((taken & 0xff) - red).isGreaterThan(db < 10 ? -12 : 0);
      assertThat(put >> 16 & 0xff).isGreaterThan(put >> 8 & 0xff);
    }
  }

  @org.junit.jupiter.api.Test
  void listsShowWordsAndTakeNoTyping() {
    var words = Words.of(kettlesieve.core.comparison.Job::title);
    assertThat(words.toString(kettlesieve.core.comparison.Job.STEMS)).isEqualTo("Stems");
    assertThat(words.toString(null)).isEmpty();
    org.assertj.core.api.Assertions.assertThatThrownBy(() -> words.fromString("Stems"))
        .isInstanceOf(UnsupportedOperationException.class);
  }
}
