package kettlesieve.core.measure;

import java.util.stream.IntStream;
import kettlesieve.core.match.CellMask;
import kettlesieve.core.match.Cells;
import kettlesieve.core.signal.BoxMean;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Histogram;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * What became of the source's cells in a version, from one pass over both: energies over wanted
 * cells by frame and third-octave band and by frame and voice range, and the gain of unwanted
 * cells. Channels are pooled.
 */
public final class WantedEnergies {
  private static final double GAIN_STEP_DB = 0.25;
  private static final int GAIN_STEPS = 320;

  private final float[][] source;
  private final float[][] version;
  private final float[][] noise;
  private final char[][] count;
  private final float[][] rangeSource;
  private final float[][] rangeVersion;
  private final int[] rangeCount;
  private final Histogram[][] unwanted;
  private final int[] unwantedCount;
  private final PlaceGrid unwantedPlaces;

  WantedEnergies(Pair pair) {
    Framing framing = pair.framing();
    ThirdOctaveBands bands = pair.bands();
    int frames = framing.count();
    int ranges = VoiceRange.values().length;
    // Rows come with the first wanted cell of a frame: pauses take no room.
    source = new float[frames][];
    version = new float[frames][];
    noise = new float[frames][];
    count = new char[frames][];
    rangeSource = new float[frames][];
    rangeVersion = new float[frames][];
    rangeCount = new int[ranges];
    unwanted =
        IntStream.range(0, bands.count())
            .mapToObj(
                b ->
                    IntStream.range(0, pair.timeline().blocks())
                        .mapToObj(i -> emptyHistogram())
                        .toArray(Histogram[]::new))
            .toArray(Histogram[][]::new);
    unwantedCount = new int[bands.count()];
    unwantedPlaces = new PlaceGrid(pair.timeline(), bands.count());
    int[] rangeOfBin = new int[framing.bins()];
    for (int k = 0; k < rangeOfBin.length; k++) {
      VoiceRange range = VoiceRange.at(k * framing.binHz());
      rangeOfBin[k] = range == null ? -1 : range.ordinal();
    }
    for (int c = 0; c < pair.channels(); c++) {
      add(pair, c, rangeOfBin);
    }
  }

  private static Histogram emptyHistogram() {
    return new Histogram(-60 - GAIN_STEP_DB / 2, GAIN_STEP_DB, GAIN_STEPS);
  }

  private void add(Pair pair, int channel, int[] rangeOfBin) {
    Framing framing = pair.framing();
    ThirdOctaveBands bands = pair.bands();
    int bins = framing.bins();
    float gain = (float) pair.version().powerGain();
    Cells cells = pair.source().cells(channel).orElseThrow();
    CellMask wantedMask = cells.wanted();
    CellMask unwantedMask = cells.unwanted();
    Spectrogram sourceSpectrum = pair.source().spectrum(channel);
    Spectrogram versionSpectrum = pair.versionSpectrum(channel);
    double[] gainSums = new double[bands.count()];
    int[] gainCounts = new int[bands.count()];
    BoxMean sourceMean = new BoxMean(2, bins, framing.count(), sourceSpectrum::powers);
    BoxMean versionMean = new BoxMean(2, bins, pair.endFrame(), versionSpectrum::powers);
    for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
      float[] s = sourceSpectrum.powers(t);
      float[] v = versionSpectrum.powers(t);
      float[] meanS = pair.source().activity().active(t) ? sourceMean.row(t) : null;
      float[] meanV = meanS == null ? null : versionMean.row(t);
      int block = pair.timeline().block(t);
      java.util.Arrays.fill(gainSums, 0);
      java.util.Arrays.fill(gainCounts, 0);
      for (int k = 0; k < bins; k++) {
        int band = bands.ofBin(k);
        if (band < 0) {
          continue;
        }
        if (wantedMask.has(t, k)) {
          if (source[t] == null) {
            makeRow(t, bands.count());
          }
          source[t][band] += s[k];
          version[t][band] += gain * v[k];
          noise[t][band] += cells.noise(k);
          count[t][band]++;
          if (rangeOfBin[k] >= 0) {
            rangeSource[t][rangeOfBin[k]] += s[k];
            rangeVersion[t][rangeOfBin[k]] += gain * v[k];
            rangeCount[rangeOfBin[k]]++;
          }
        } else if (meanS != null && unwantedMask.has(t, k)) {
          double db = gainDb(meanS[k], gain * meanV[k]);
          unwanted[band][block].add(db, 1);
          gainSums[band] += db;
          gainCounts[band]++;
        }
      }
      for (int b = 0; b < gainCounts.length; b++) {
        if (gainCounts[b] > 0) {
          unwantedCount[b] += gainCounts[b];
          unwantedPlaces.add(t, b, gainSums[b] / gainCounts[b], gainCounts[b]);
        }
      }
    }
  }

  private void makeRow(int frame, int bands) {
    int ranges = VoiceRange.values().length;
    source[frame] = new float[bands];
    version[frame] = new float[bands];
    noise[frame] = new float[bands];
    count[frame] = new char[bands];
    rangeSource[frame] = new float[ranges];
    rangeVersion[frame] = new float[ranges];
  }

  /** Gain from one power to another in dB, not below {@link Pair#GAIN_FLOOR_DB}. */
  public static double gainDb(double from, double to) {
    return Math.max(Pair.GAIN_FLOOR_DB, Db.ofPower(Math.max(to, 1e-30) / Math.max(from, 1e-30)));
  }

  /** Energy of the source over the wanted cells of a frame and band. */
  public double source(int frame, int band) {
    return source[frame] == null ? 0 : source[frame][band];
  }

  /** Energy of the version, matched, over the same cells. */
  public double version(int frame, int band) {
    return version[frame] == null ? 0 : version[frame][band];
  }

  /** Energy that the noise of the pauses has in the same cells. */
  public double noise(int frame, int band) {
    return noise[frame] == null ? 0 : noise[frame][band];
  }

  /** Number of wanted cells of a frame and band. */
  public int count(int frame, int band) {
    return count[frame] == null ? 0 : count[frame][band];
  }

  /** Energy of the source over the wanted cells of a frame and voice range. */
  public double source(int frame, VoiceRange range) {
    return rangeSource[frame] == null ? 0 : rangeSource[frame][range.ordinal()];
  }

  /** Energy of the version, matched, over the same cells. */
  public double version(int frame, VoiceRange range) {
    return rangeVersion[frame] == null ? 0 : rangeVersion[frame][range.ordinal()];
  }

  /** Number of wanted cells of a voice range. */
  public int count(VoiceRange range) {
    return rangeCount[range.ordinal()];
  }

  /** Number of unwanted cells of a band. */
  public int unwantedCount(int band) {
    return unwantedCount[band];
  }

  /** Median gain over the unwanted cells of a band, dB, blocks weighted; NaN if there are none. */
  public double unwantedMedianDb(int band, int[] blockWeights) {
    Histogram sum = emptyHistogram();
    for (int i = 0; i < blockWeights.length; i++) {
      if (blockWeights[i] > 0) {
        sum.add(unwanted[band][i], blockWeights[i]);
      }
    }
    return sum.median();
  }

  /** Where the gains of unwanted cells come from. */
  public PlaceGrid unwantedPlaces() {
    return unwantedPlaces;
  }
}
