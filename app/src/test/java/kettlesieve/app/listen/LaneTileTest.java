package kettlesieve.app.listen;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Map;
import java.util.Set;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Ink;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.picture.FrequencyScale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.testfx.framework.junit5.ApplicationExtension;

/** What a lane draws is what is there, at every zoom. */
@ExtendWith(ApplicationExtension.class)
class LaneTileTest {
  private static final int RATE = 48_000;

  private static final LaneTile.Shades SHADES = new LaneTile.Shades(Ink.Look.DAY, 0, 70);

  /** Quiet, with one single loud sample; the second channel has another elsewhere. */
  private static Audio spikes(int seconds, double left, double right) {
    float[][] x = new float[2][seconds * RATE];
    x[0][(int) (left * RATE)] = 0.9f;
    x[1][(int) (right * RATE)] = -0.7f;
    return Audio.of(RATE, x);
  }

  private static LaneTile.Key key(LaneSource lane, LaneStyle.Picture picture, int level, long i) {
    return new LaneTile.Key(
        lane, lane.near(), picture, FrequencyScale.LINEAR, SHADES, 80, level, i);
  }

  private static int loudest(float[] x) {
    int best = 0;
    for (int i = 0; i < x.length; i++) {
      best = Math.abs(x[i]) > Math.abs(x[best]) ? i : best;
    }
    return best;
  }

  @Test
  void theSmallestPeakIsSeenFromAnyDistance() {
    Audio audio = spikes(100, 33.3, 66.6);
    Drawing.peaks(audio);
    LaneSource lane = LaneSource.of(audio);
    for (int level : new int[] {-1, -4, -8, -12}) {
      LaneTile.Key zero = key(lane, LaneStyle.Picture.WAVEFORM, level, 0);
      double tile = zero.columnSeconds() * LaneTile.COLUMNS;
      long index = (long) Math.floor(33.3 / tile);
      LaneTile drawn = LaneTile.of(key(lane, LaneStyle.Picture.WAVEFORM, level, index));
      int column = loudest(drawn.high());
      assertThat(drawn.high()[column]).isCloseTo(0.9f, within(1e-6f));
      double place = (index * LaneTile.COLUMNS + column + 0.5) * zero.columnSeconds();
      // A run of 256 samples is the finest that is kept of a whole recording.
      assertThat(place).isCloseTo(33.3, within(zero.columnSeconds() + 4096.0 / RATE));
      assertThat(drawn.rough()).isFalse();
      long other = (long) Math.floor(66.6 / tile);
      float[] low = LaneTile.of(key(lane, LaneStyle.Picture.WAVEFORM, level, other)).low();
      assertThat(low[loudest(low)]).isCloseTo(-0.7f, within(1e-6f));
    }
  }

  @Test
  void aLongRecordingIsDrawnRoughlyUntilItsPeaksAreRead() {
    Audio audio = spikes(200, 20, 40);
    LaneSource lane = LaneSource.of(audio);
    LaneTile first = LaneTile.of(key(lane, LaneStyle.Picture.WAVEFORM, -1, 0));
    assertThat(first.rough()).isTrue();
    Drawing.peaks(audio);
    assertThat(LaneTile.of(key(lane, LaneStyle.Picture.WAVEFORM, -1, 0)).rough()).isFalse();
  }

  @Test
  void aStretchedVersionLiesUnderTheSourcesTime() {
    // In the version everything comes at 0.8 of the time, 0.1 s late, inverted and 6 dB down.
    Audio audio = spikes(20, 0.1 + 0.8 * 10, 3);
    TimeMap map = TimeMap.line(0.1, 0.8);
    LaneSource lane = new LaneSource(audio, map, audio, map, -0.5);
    LaneTile.Key key = key(lane, LaneStyle.Picture.WAVEFORM, -4, 0);
    LaneTile tile = LaneTile.of(key);
    int column = loudest(tile.low());
    assertThat(tile.low()[column]).isCloseTo(-0.45f, within(1e-6f));
    assertThat((column + 0.5) * key.columnSeconds()).isCloseTo(10, within(key.columnSeconds()));
    LaneTile own = LaneTile.of(key(lane.inOwnTime(), LaneStyle.Picture.WAVEFORM, -4, 0));
    assertThat((loudest(own.low()) + 0.5) * key.columnSeconds())
        .isCloseTo(8.1, within(key.columnSeconds()));
  }

  @Test
  void closeUpTheMatchedSoundIsDrawnToTheSample() {
    Audio far = spikes(2, 1, 1.5);
    Audio near = far.times(0.5);
    LaneSource lane = new LaneSource(near, TimeMap.IDENTITY, far, TimeMap.IDENTITY, 1);
    int level = -16;
    long index = (long) Math.floor(RATE / (LaneTile.COLUMNS * Math.pow(2, level) * RATE));
    LaneTile tile = LaneTile.of(key(lane, LaneStyle.Picture.WAVEFORM, level, index));
    assertThat(tile.high()[loudest(tile.high())]).isCloseTo(0.45f, within(1e-6f));
  }

  @Test
  void theSpectrogramHasTheToneInItsRow() {
    float[] x = new float[8 * RATE];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (0.3 * Math.sin(2 * Math.PI * 4000 * i / RATE));
    }
    LaneSource lane = LaneSource.of(Audio.of(RATE, x));
    LaneTile tile = LaneTile.of(key(lane, LaneStyle.Picture.SPECTROGRAM, -6, 0));
    var pixels = tile.image().getPixelReader();
    int darkest = 0;
    for (int y = 0; y < 80; y++) {
      boolean darker =
          pixels.getColor(128, y).getBrightness() < pixels.getColor(128, darkest).getBrightness();
      darkest = darker ? y : darkest;
    }
    // 4 of 16 kHz: a quarter of the way up.
    assertThat(80 - darkest).isBetween(18, 22);
  }

  @Test
  void theChangeMapIsBlueWhereSomethingWasTakenOutAndVioletWhereItWasPutIn() {
    float[] x = new float[8 * RATE];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (0.3 * Math.sin(2 * Math.PI * 4000 * i / RATE));
    }
    Audio tone = Audio.of(RATE, x);
    Audio quiet = tone.times(0.01);
    LaneTile out =
        LaneTile.of(
            new LaneTile.Key(
                LaneSource.of(quiet),
                tone,
                LaneStyle.Picture.CHANGE,
                FrequencyScale.LINEAR,
                SHADES,
                80,
                -6,
                0));
    LaneTile in =
        LaneTile.of(
            new LaneTile.Key(
                LaneSource.of(tone),
                quiet,
                LaneStyle.Picture.CHANGE,
                FrequencyScale.LINEAR,
                SHADES,
                80,
                -6,
                0));
    var blue = out.image().getPixelReader().getColor(100, 60);
    var violet = in.image().getPixelReader().getColor(100, 60);
    assertThat(blue.getBlue()).isGreaterThan(blue.getRed() + 0.3);
    assertThat(violet.getRed()).isGreaterThan(violet.getGreen() + 0.15);
    var paper = out.image().getPixelReader().getColor(100, 5);
    assertThat(paper.getBrightness()).isGreaterThan(0.93);
  }

  @Test
  void piecesOfTheNextZoomCoverTwoOfThisOne() {
    LaneTile.Key key = key(LaneSource.of(spikes(1, 0.5, 0.6)), LaneStyle.Picture.WAVEFORM, -8, 5);
    LaneTile.Key parent = key.parent(1);
    assertThat(parent.index()).isEqualTo(2);
    assertThat(parent.from()).isEqualTo(key.from() - key.columnSeconds() * LaneTile.COLUMNS);
    assertThat(key.parent(3).level()).isEqualTo(-5);
  }

  @Test
  void onlyTheChosenStemsAreDrawn() {
    Audio mix = spikes(1, 0.2, 0.4);
    Audio vocals = spikes(1, 0.2, 0.9);
    Audio drums = spikes(1, 0.7, 0.4);
    Map<String, Audio> stems = Map.of("vocals", vocals, "drums", drums);
    Audio all = LaneSource.stems(stems, Set.of(), mix);
    Audio one = LaneSource.stems(stems, Set.of("drums"), mix);
    assertThat(all.samples(0, (int) (0.2 * RATE), 1)[0]).isEqualTo(0.9f);
    assertThat(one.samples(0, (int) (0.2 * RATE), 1)[0]).isZero();
    assertThat(LaneSource.stems(stems, Set.of("tuba"), mix).samples(0, 0, RATE)).containsOnly(0f);
  }
}
