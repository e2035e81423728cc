package kettlesieve.core.measure;

import java.util.stream.IntStream;
import kettlesieve.core.match.Activity;
import kettlesieve.core.match.CellMask;
import kettlesieve.core.match.Cells;
import kettlesieve.core.signal.BoxMean;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * What became of the source's cells in a version, from one pass over both: energies over wanted
 * cells by frame and third-octave band and by frame and voice range, and the gain of unwanted
 * cells. Channels are pooled.
 */
public final class WantedEnergies {
  private static final double GAIN_STEP_DB = 0.25;
  private static final double BREATH_FLOOR_DB = -30;
  private static final double QUIET_CELL = 1.6;
  private static final double OFFSET_SECONDS = 0.35;

  /** What a frame without wanted sound is to the sound before it. */
  private enum After {
    SOON,
    LATER
  }

  private final float[][] source;
  private final float[][] version;
  private final float[][] noise;
  private final char[][] count;
  private final float[][] rangeSource;
  private final float[][] rangeVersion;
  private final int[] rangeCount;
  private final BlockHistograms[] unwanted;
  private final int[] unwantedCount;
  private final float[][] binSource;
  private final float[][] binVersion;
  private final int[] binCount;
  private final float[] levelSource;
  private final float[] levelVersion;
  private final BlockHistograms soonAfter;
  private final BlockHistograms muchLater;
  private int soonCount;
  private int laterCount;
  private final PlaceGrid quietPlaces;
  private final double[] longTerm;
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
            .mapToObj(b -> gains(pair, Pair.GAIN_FLOOR_DB))
            .toArray(BlockHistograms[]::new);
    binSource = new float[pair.timeline().blocks()][framing.bins()];
    binVersion = new float[pair.timeline().blocks()][framing.bins()];
    binCount = new int[framing.bins()];
    levelSource = new float[frames];
    levelVersion = new float[frames];
    soonAfter = gains(pair, BREATH_FLOOR_DB);
    muchLater = gains(pair, BREATH_FLOOR_DB);
    quietPlaces = new PlaceGrid(pair.timeline(), bands.count());
    After[] after = after(pair.source().activity(), framing);
    unwantedCount = new int[bands.count()];
    unwantedPlaces = new PlaceGrid(pair.timeline(), bands.count());
    int[] rangeOfBin = new int[framing.bins()];
    for (int k = 0; k < rangeOfBin.length; k++) {
      VoiceRange range = VoiceRange.at(k * framing.binHz());
      rangeOfBin[k] = range == null ? -1 : range.ordinal();
    }
    for (int c = 0; c < pair.channels(); c++) {
      add(pair, c, rangeOfBin, after);
    }
    longTerm = longTermGains(pair);
  }

  private static BlockHistograms gains(Pair pair, double floorDb) {
    return new BlockHistograms(pair.timeline(), floorDb, 20, GAIN_STEP_DB);
  }

  /** Which frames lie 150 to 350 ms after the end of wanted sound, and which 600 ms and more. */
  private static After[] after(Activity activity, Framing framing) {
    After[] after = new After[framing.count()];
    for (int offset : activity.offsets(OFFSET_SECONDS)) {
      int next = Math.min(activity.nextOnset(offset) - framing.framesIn(0.05), after.length);
      for (int t = offset; t < next; t++) {
        double seconds = (t - offset) * framing.hopSeconds();
        if (seconds >= 0.15 && seconds <= 0.35) {
          after[t] = After.SOON;
        } else if (seconds >= 0.6) {
          after[t] = After.LATER;
        }
      }
    }
    return after;
  }

  private void add(Pair pair, int channel, int[] rangeOfBin, After[] after) {
    Framing framing = pair.framing();
    ThirdOctaveBands bands = pair.bands();
    int bins = framing.bins();
    float gain = (float) pair.version().powerGain();
    Cells cells = pair.source().cells(channel).orElseThrow();
    CellMask wantedMask = cells.wanted();
    CellMask unwantedMask = cells.unwanted();
    Spectrogram sourceSpectrum = pair.source().spectrum(channel);
    Spectrogram versionSpectrum = pair.versionSpectrum(channel);
    int low = pair.source().pauseLowBin();
    int high = pair.source().pauseHighBin();
    double[] gainSums = new double[bands.count()];
    int[] gainCounts = new int[bands.count()];
    BoxMean sourceMean = new BoxMean(2, bins, framing.count(), sourceSpectrum::powers);
    BoxMean versionMean = new BoxMean(2, bins, pair.endFrame(), versionSpectrum::powers);
    for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
      float[] s = sourceSpectrum.powers(t);
      float[] v = versionSpectrum.powers(t);
      boolean active = pair.source().activity().active(t);
      if (after[t] != null) {
        addQuiet(pair, t, after[t], sourceMean.row(t), versionMean.row(t), cells, gain);
      }
      float[] meanS = active ? sourceMean.row(t) : null;
      float[] meanV = meanS == null ? null : versionMean.row(t);
      int block = pair.timeline().block(t);
      java.util.Arrays.fill(gainSums, 0);
      java.util.Arrays.fill(gainCounts, 0);
      for (int k = 0; k < bins; k++) {
        int band = bands.ofBin(k);
        if (band < 0) {
          continue;
        }
        if (k >= low && k <= high) {
          levelSource[t] += s[k];
          levelVersion[t] += gain * v[k];
        }
        if (wantedMask.has(t, k)) {
          binSource[block][k] += s[k];
          binVersion[block][k] += gain * v[k];
          binCount[k]++;
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
          unwanted[band].add(block, db, 1);
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

  private void addQuiet(
      Pair pair, int t, After when, float[] meanS, float[] meanV, Cells cells, float gain) {
    int block = pair.timeline().block(t);
    int high = pair.source().pauseHighBin();
    for (int k = pair.source().pauseLowBin(); k <= high; k++) {
      if (meanS[k] <= QUIET_CELL * cells.noise(k)) {
        double db = Math.max(BREATH_FLOOR_DB, gainDb(meanS[k], gain * meanV[k]));
        if (when == After.SOON) {
          soonAfter.add(block, db, 1);
          soonCount++;
        } else {
          muchLater.add(block, db, 1);
          laterCount++;
        }
        int band = pair.bands().ofBin(k);
        if (band >= 0) {
          quietPlaces.add(t, band, db, 1);
        }
      }
    }
  }

  private double[] longTermGains(Pair pair) {
    double[] gains = new double[pair.bands().count()];
    for (int b = 0; b < gains.length; b++) {
      double before = 0;
      double after = 0;
      for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
        before += source(t, b);
        after += version(t, b);
      }
      gains[b] = before > 0 ? after / before : 0;
    }
    return gains;
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
    return unwanted[band].median(blockWeights);
  }

  /** Power gain over all wanted cells of a band; 0 where there are none. */
  public double longTermGain(int band) {
    return longTerm[band];
  }

  /** Energy of the source over the wanted cells of a block and bin. */
  public double binSource(int block, int bin) {
    return binSource[block][bin];
  }

  /** Energy of the version, matched, over the same cells. */
  public double binVersion(int block, int bin) {
    return binVersion[block][bin];
  }

  /** Number of wanted cells of a bin. */
  public int binCount(int bin) {
    return binCount[bin];
  }

  /** Power of the source in a frame, 200–8,000 Hz, summed over channels. */
  public double levelSource(int frame) {
    return levelSource[frame];
  }

  /** The same of the version, matched. */
  public double levelVersion(int frame) {
    return levelVersion[frame];
  }

  /** Gains of noise-only cells 150–350 ms after wanted sound, dB, not under −30. */
  public BlockHistograms soonAfter() {
    return soonAfter;
  }

  /** Gains of noise-only cells 600 ms and more after wanted sound, dB, not under −30. */
  public BlockHistograms muchLater() {
    return muchLater;
  }

  /** The smaller of the numbers of cells in {@link #soonAfter} and {@link #muchLater}. */
  public int quietCells() {
    return Math.min(soonCount, laterCount);
  }

  /** Where those gains come from. */
  public PlaceGrid quietPlaces() {
    return quietPlaces;
  }

  /** Where the gains of unwanted cells come from. */
  public PlaceGrid unwantedPlaces() {
    return unwantedPlaces;
  }
}
