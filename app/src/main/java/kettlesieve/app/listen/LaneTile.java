package kettlesieve.app.listen;

import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Ink;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.picture.ChangeColumns;
import kettlesieve.core.picture.FrequencyScale;
import kettlesieve.core.picture.PeakPyramid;
import kettlesieve.core.picture.SpectrumColumns;
import kettlesieve.core.signal.Db;

/**
 * A piece of a lane's picture: 256 columns.
 *
 * @param image a spectrogram or change map; null for a waveform
 * @param low smallest sample by column; null for an image
 * @param high largest sample by column; null for an image
 * @param rough whether it was drawn from samples here and there and is to be drawn again
 */
record LaneTile(WritableImage image, float[] low, float[] high, boolean rough) {
  static final int COLUMNS = 256;
  static final double TOP_HZ = 16_000;

  private static final float LOUDEST_DB = -22;
  private static final int READ_WHOLE = 1 << 12;
  private static final int SAMPLED = 64;
  private static final int SAMPLED_PLACES = 4;

  /**
   * How levels are taken and become colours.
   *
   * @param look colours
   * @param window samples of the window; 0 for the usual
   * @param rangeDb from the quietest level that is drawn to the loudest
   */
  record Shades(Ink.Look look, int window, int rangeDb) {}

  /**
   * Which piece.
   *
   * @param lane what is drawn
   * @param source the source, for the change map
   * @param picture kind of picture
   * @param scale frequency axis
   * @param shades how levels become colours; null for a waveform, which is drawn anew each time
   * @param rows rows of an image
   * @param level zoom: a column is 2^level seconds
   * @param index counted from the start
   */
  record Key(
      LaneSource lane,
      Audio source,
      LaneStyle.Picture picture,
      FrequencyScale scale,
      Shades shades,
      int rows,
      int level,
      long index) {

    double columnSeconds() {
      return Math.pow(2, level);
    }

    double from() {
      return index * COLUMNS * columnSeconds();
    }

    Key parent(int up) {
      return new Key(lane, source, picture, scale, shades, rows, level + up, index >> up);
    }
  }

  static double topHz(Audio audio) {
    return Math.min(TOP_HZ, audio.sampleRate() / 2.0);
  }

  /** What it takes in memory, in units of about 5 kB. */
  int weight() {
    return image == null ? 1 : (int) Math.ceil(image.getHeight() / 5);
  }

  static LaneTile of(Key key) {
    return switch (key.picture()) {
      case WAVEFORM -> wave(key);
      case SPECTROGRAM -> shades(key);
      case CHANGE -> changes(key);
    };
  }

  private static boolean close(Key key) {
    return key.columnSeconds() * key.lane().far().sampleRate() < 4;
  }

  private static LaneTile wave(Key key) {
    LaneSource lane = key.lane();
    boolean close = close(key);
    Audio audio = close ? lane.near() : lane.far();
    TimeMap map = close ? lane.nearMap() : lane.farMap();
    double factor = close ? 1 : lane.factor();
    PeakPyramid peaks = Drawing.peaksIfKnown(audio);
    boolean rough =
        !close && peaks == null && key.columnSeconds() * audio.sampleRate() > READ_WHOLE;
    float[] low = new float[COLUMNS];
    float[] high = new float[COLUMNS];
    double first = map.at(key.from()) * audio.sampleRate();
    for (int c = 0; c < COLUMNS; c++) {
      double next = map.at(key.from() + (c + 1) * key.columnSeconds()) * audio.sampleRate();
      float[] range =
          peaks != null && !close ? peaks.range(first, next) : direct(audio, first, next);
      low[c] = (float) (Math.min(factor * range[0], factor * range[1]));
      high[c] = (float) (Math.max(factor * range[0], factor * range[1]));
      first = next;
    }
    return new LaneTile(null, low, high, rough);
  }

  /** Range from samples alone: all of them, or some here and there where there are many. */
  private static float[] direct(Audio audio, double from, double to) {
    long first = Math.max(0, (long) Math.floor(from));
    long last = Math.min(audio.frames(), Math.max(first + 1, (long) Math.ceil(to)));
    if (first >= last) {
      return new float[2];
    }
    long length = last - first;
    boolean all = length <= 2 * READ_WHOLE;
    int places = all ? 1 : SAMPLED_PLACES;
    int count = all ? (int) length : SAMPLED;
    float[] range = {Float.MAX_VALUE, -Float.MAX_VALUE};
    float[] block = new float[count];
    for (int c = 0; c < audio.channels(); c++) {
      for (int p = 0; p < places; p++) {
        audio.read(c, first + (length - count) * p / places, block, 0, count);
        for (float x : block) {
          range[0] = Math.min(range[0], x);
          range[1] = Math.max(range[1], x);
        }
      }
    }
    return range;
  }

  private static double[] moments(Key key) {
    double[] seconds = new double[COLUMNS];
    for (int c = 0; c < COLUMNS; c++) {
      seconds[c] = key.from() + (c + 0.5) * key.columnSeconds();
    }
    return seconds;
  }

  private static LaneTile shades(Key key) {
    double[] seconds = moments(key);
    for (int c = 0; c < COLUMNS; c++) {
      seconds[c] = key.lane().farMap().at(seconds[c]);
    }
    float[][] levels =
        SpectrumColumns.levels(
            key.lane().far(),
            seconds,
            key.rows(),
            key.scale(),
            topHz(key.source()),
            key.shades().window());
    double range = key.shades().rangeDb();
    double gain = Db.ofAmplitude(Math.abs(key.lane().factor()));
    return image(
        key,
        (c, r) -> key.shades().look().shade((levels[c][r] + gain - LOUDEST_DB + range) / range));
  }

  private static LaneTile changes(Key key) {
    float[][] gains =
        ChangeColumns.gains(
            key.source(),
            key.lane().far(),
            key.lane().farMap(),
            moments(key),
            Db.ofAmplitude(Math.abs(key.lane().factor())),
            key.rows(),
            key.scale(),
            topHz(key.source()));
    return image(key, (c, r) -> key.shades().look().change(gains[c][r]));
  }

  private interface Shade {
    int of(int column, int row);
  }

  private static LaneTile image(Key key, Shade shade) {
    int rows = key.rows();
    int[] pixels = new int[COLUMNS * rows];
    for (int c = 0; c < COLUMNS; c++) {
      for (int r = 0; r < rows; r++) {
        pixels[(rows - 1 - r) * COLUMNS + c] = shade.of(c, r);
      }
    }
    WritableImage image = new WritableImage(COLUMNS, rows);
    image
        .getPixelWriter()
        .setPixels(0, 0, COLUMNS, rows, PixelFormat.getIntArgbInstance(), pixels, 0, COLUMNS);
    return new LaneTile(image, null, null, false);
  }
}
