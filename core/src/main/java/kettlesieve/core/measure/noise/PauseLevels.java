package kettlesieve.core.measure.noise;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import kettlesieve.core.ground.PauseGround;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.signal.AWeighting;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * Levels of one recording in the source's pauses: powers are means over channels, never under 80 dB
 * below the wanted sound.
 */
public final class PauseLevels {
  /** Levels of the source, without any gain. */
  public static final Analysis.OfSource<PauseLevels> OF_SOURCE = PauseLevels::ofSource;

  /** Levels of the version in the source's pauses, after matching. */
  public static final Analysis<PauseLevels> OF_VERSION = PauseLevels::ofVersion;

  private final int[] frames;
  private final double[] levelsDb;
  private final int[] order;
  private Timeline blocksOf;
  private int[] blocksInOrder;
  private final double[] total;
  private final double[] weighted;
  private final double[][] perBand;
  private final double[][] meanSpectra;
  private final int clamped;

  private PauseLevels(
      SourceMaterial source,
      List<Spectrogram> spectra,
      double powerGain,
      ThirdOctaveBands bands,
      int firstFrame,
      int endFrame) {
    Framing framing = source.framing();
    List<Integer> chosen = new ArrayList<>();
    for (int t = firstFrame; t < endFrame; t++) {
      if (source.pauses().activity().pause(t)) {
        chosen.add(t);
      }
    }
    int n = chosen.size();
    this.frames = chosen.stream().mapToInt(Integer::intValue).toArray();
    this.levelsDb = new double[n];
    this.total = new double[n];
    this.weighted = new double[n];
    this.perBand = new double[n][bands.count()];
    this.meanSpectra = new double[spectra.size()][framing.bins()];
    double[] weights = new double[framing.bins()];
    for (int k = 0; k < weights.length; k++) {
      weights[k] = AWeighting.power(k * framing.binHz());
    }
    int low = source.pauseLowBin();
    int high = source.pauseHighBin();
    double floor = source.pauses().wantedPower() * Db.toPower(PauseGround.FLOOR_DB);
    double share = powerGain / spectra.size();
    int atFloor = 0;
    for (int i = 0; i < n; i++) {
      double judged = 0;
      for (int c = 0; c < spectra.size(); c++) {
        float[] row = spectra.get(c).powers(frames[i]);
        for (int k = 0; k < row.length; k++) {
          double power = row[k] * share;
          total[i] += power;
          weighted[i] += power * weights[k];
          if (k >= low && k <= high) {
            judged += power;
          }
          if (bands.ofBin(k) >= 0) {
            perBand[i][bands.ofBin(k)] += power;
          }
          meanSpectra[c][k] += row[k] / n;
        }
      }
      atFloor += judged <= floor ? 1 : 0;
      levelsDb[i] = Db.ofPower(Math.max(judged, floor) / source.pauses().wantedPower());
      total[i] = Math.max(total[i], floor);
      weighted[i] = Math.max(weighted[i], floor);
    }
    this.order = Statistics.order(levelsDb);
    this.clamped = atFloor;
  }

  private static PauseLevels ofSource(SourceAnalysis analysis) throws NotMeasurableException {
    SourceMaterial source = analysis.source();
    need(source);
    List<Spectrogram> spectra =
        IntStream.range(0, source.channels()).mapToObj(source::spectrum).toList();
    return new PauseLevels(source, spectra, 1, analysis.bands(), 0, source.framing().count());
  }

  private static PauseLevels ofVersion(Pair pair) throws NotMeasurableException {
    need(pair.source());
    return new PauseLevels(
        pair.source(),
        pair.version().spectra(),
        pair.version().powerGain(),
        pair.bands(),
        pair.firstFrame(),
        pair.endFrame());
  }

  private static void need(SourceMaterial source) throws NotMeasurableException {
    Optional<String> problem = source.pauses().problem();
    if (problem.isPresent()) {
      throw new NotMeasurableException(problem.get());
    }
  }

  /** Number of pause frames. */
  public int count() {
    return frames.length;
  }

  /** The i-th pause frame. */
  public int frame(int i) {
    return frames[i];
  }

  /** Level of the i-th pause frame in 200–8,000 Hz relative to the wanted sound, dB, clamped. */
  public double levelDb(int i) {
    return levelsDb[i];
  }

  /** Power of the i-th pause frame in a third-octave band. */
  public double bandPower(int i, int band) {
    return perBand[i][band];
  }

  /** Mean power over the pauses in a third-octave band. */
  public double meanBandPower(int band) {
    return Arrays.stream(perBand).mapToDouble(row -> row[band]).average().orElse(0);
  }

  /** Mean power over the pauses and all frequencies. */
  public double meanPower() {
    return Arrays.stream(total).average().orElse(0);
  }

  /** Mean A-weighted power over the pauses. */
  public double meanWeightedPower() {
    return Arrays.stream(weighted).average().orElse(0);
  }

  /** Share of pause frames at the floor, as digital silence is. */
  public double silentShare() {
    return (double) clamped / Math.max(1, frames.length);
  }

  /** Mean power of a bin over the pauses in one channel, without any gain. */
  public double meanPower(int channel, int bin) {
    return meanSpectra[channel][bin];
  }

  /**
   * Median of the frames' levels with each block counted as often as told; NaN if there is none.
   *
   * @param timeline gives the block of a frame
   */
  public double medianDb(Timeline timeline, int[] blockWeights) {
    return quantileDb(timeline, blockWeights, 0.5);
  }

  /**
   * A quantile of the frames' levels with each block counted as often as told: the mean of the two
   * order statistics it lies between; NaN if there is none.
   *
   * @param timeline gives the block of a frame
   * @param share from 0 to 1
   */
  public double quantileDb(Timeline timeline, int[] blockWeights, double share) {
    int[] blocks = blocksInOrder(timeline);
    long sum = 0;
    for (int block : blocks) {
      sum += blockWeights[block];
    }
    if (sum == 0) {
      return Double.NaN;
    }
    long lower = 1 + (long) Math.floor(share * (sum - 1));
    long upper = 1 + (long) Math.ceil(share * (sum - 1));
    long seen = 0;
    double first = Double.NaN;
    for (int i = 0; i < blocks.length; i++) {
      seen += blockWeights[blocks[i]];
      if (Double.isNaN(first) && seen >= lower) {
        first = levelsDb[order[i]];
      }
      if (seen >= upper) {
        return (first + levelsDb[order[i]]) / 2;
      }
    }
    return first;
  }

  /** The blocks of the frames from the quietest to the loudest: asked for by every draw. */
  private synchronized int[] blocksInOrder(Timeline timeline) {
    if (blocksOf != timeline) {
      blocksInOrder = Arrays.stream(order).map(i -> timeline.block(frames[i])).toArray();
      blocksOf = timeline;
    }
    return blocksInOrder;
  }

  /** Median level of the pauses relative to the wanted sound, dB. */
  public double medianDb() {
    return Statistics.median(levelsDb);
  }

  /** The level that a share of the frames does not reach, dB. */
  public double quantileDb(double share) {
    return Statistics.quantile(levelsDb, share);
  }
}
