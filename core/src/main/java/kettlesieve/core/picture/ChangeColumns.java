package kettlesieve.core.picture;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.signal.Db;

/**
 * Levels for the change map: what a version took out and put in, by time and frequency. Each cell
 * is the gain of powers smoothed over three moments and three rows, so that noise that was merely
 * moved does not glitter; cells in which both are far below the loudest show no change.
 */
public final class ChangeColumns {
  private static final double FLOOR_DB = -95;
  private static final double STEP_SECONDS = 0.011;

  private ChangeColumns() {}

  /**
   * Gains in dB by column and row, row 0 at the bottom; 0 where nothing changed or nothing is.
   *
   * @param source the source
   * @param version with matched level
   * @param map from the source's time to the version's
   * @param seconds moments of the source
   * @param gainDb added to the version's levels
   */
  public static float[][] gains(
      Audio source,
      Audio version,
      TimeMap map,
      double[] seconds,
      double gainDb,
      int rows,
      FrequencyScale scale,
      double topHz) {
    double[][] s = smoothed(source, TimeMap.IDENTITY, seconds, rows, scale, topHz);
    double[][] v = smoothed(version, map, seconds, rows, scale, topHz);
    double floor = Db.toPower(FLOOR_DB);
    double gain = Db.toPower(gainDb);
    float[][] gains = new float[seconds.length][rows];
    for (int c = 0; c < gains.length; c++) {
      for (int r = 0; r < rows; r++) {
        gains[c][r] = (float) Db.ofPower((gain * v[c][r] + floor) / (s[c][r] + floor));
      }
    }
    return gains;
  }

  private static double[][] smoothed(
      Audio audio, TimeMap map, double[] seconds, int rows, FrequencyScale scale, double topHz) {
    double[][] sum = new double[seconds.length][rows];
    for (int shift = -1; shift <= 1; shift++) {
      double[] moments = new double[seconds.length];
      for (int c = 0; c < moments.length; c++) {
        moments[c] = map.at(seconds[c] + shift * STEP_SECONDS);
      }
      float[][] levels = SpectrumColumns.levels(audio, moments, rows, scale, topHz);
      for (int c = 0; c < moments.length; c++) {
        for (int r = 0; r < rows; r++) {
          for (int k = Math.max(0, r - 1); k <= Math.min(rows - 1, r + 1); k++) {
            sum[c][r] += Db.toPower(levels[c][k]) / 9;
          }
        }
      }
    }
    return sum;
  }
}
