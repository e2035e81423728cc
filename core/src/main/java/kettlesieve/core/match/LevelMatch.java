package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.List;
import java.util.function.IntFunction;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.ground.CellMask;
import kettlesieve.core.ground.FrameRange;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Histogram;
import kettlesieve.core.signal.Loudness;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.TruePeak;

/**
 * The gain that puts a version's wanted sound level with the source's: the |S|²-weighted median
 * gain over strong wanted cells in 300–3,000 Hz, or over wanted cells where there are fewer than
 * 500 strong ones. A plain median collapses when a tool removes weak cells. Clicks of the source
 * are loud and are to go: their frames are left out, and where too few wanted cells are left, all
 * cells of the other frames tell the level. Where cells cannot be told apart, integrated loudness
 * (ITU-R BS.1770-5) decides.
 *
 * @param gainDb what is to be added to the version
 * @param basis what it was found on, in words
 * @param warnings what the person should know
 */
public record LevelMatch(double gainDb, String basis, List<String> warnings) {
  private static final int ENOUGH_CELLS = 500;
  private static final int FEWEST_CELLS = 50;
  private static final double RANGE_DB = 80;
  private static final double BIN_DB = 0.01;
  private static final int BLOCK = 1 << 14;

  /** So far under the power that is left half of the cells lie only where they are gone. */
  private static final double GONE_DB = 25;

  /** So much is hardly ever a level that was delivered. */
  private static final double DEEP_DB = 40;

  private static final String MOSTLY_GONE =
      "most of the wanted sound is gone: the level is that of what is left of it";

  public LevelMatch {
    warnings = List.copyOf(warnings);
  }

  /**
   * @param frames those that the version covers: what is missing at its ends says nothing of level
   */
  static LevelMatch find(
      SourceMaterial source,
      Audio aligned,
      List<Spectrogram> version,
      FrameRange frames,
      MatchSettings settings) {
    if (settings.level() != LevelMode.WANTED) {
      return ofWhole(source.audio(), aligned, settings.level());
    }
    if (settings.job() == Job.DECLIP) {
      return onUnclipped(source.audio(), source.clipping(), aligned);
    }
    if (settings.job().inARoom()) {
      LevelMatch direct =
          source.ground().problem().isEmpty() ? onDirect(source, version, frames) : null;
      return direct != null ? direct : onLoudness(source.audio(), aligned).uncertain();
    }
    LevelMatch onCells = null;
    if (source.ground().problem().isEmpty()) {
      onCells = onCells(source, version, source.ground()::strong, ENOUGH_CELLS, frames);
      if (onCells == null) {
        onCells = onCells(source, version, source.ground()::wanted, FEWEST_CELLS, frames);
      }
    }
    if (onCells == null && source.clicks().any()) {
      onCells = onCells(source, version, null, FEWEST_CELLS, frames);
    }
    if (onCells != null && onCells.gainDb() <= DEEP_DB) {
      return onCells;
    }
    LevelMatch loud = onLoudness(source.audio(), aligned);
    // Cells that lie so deep are gone, unless the whole file is as quiet: loudness tells which.
    return onCells != null && loud.gainDb() < onCells.gainDb() - GONE_DB ? loud.ofRest() : loud;
  }

  /** The same with the word that most of what was wanted is not there. */
  private LevelMatch ofRest() {
    List<String> more = new ArrayList<>(warnings);
    more.add(MOSTLY_GONE);
    return new LevelMatch(gainDb, basis, more);
  }

  /**
   * The level of one recording as a whole against another; they need not run alike.
   *
   * @param mode wanted sound stands for loudness here, because no cells can be compared
   */
  static LevelMatch ofWhole(Audio source, Audio version, LevelMode mode) {
    return switch (mode) {
      case OFF -> new LevelMatch(0, "left as delivered", List.of());
      case PEAK -> onPeaks(source, version);
      case LOUDNESS, WANTED -> onLoudness(source, version);
    };
  }

  private static LevelMatch onPeaks(Audio source, Audio version) {
    double gain = Db.ofAmplitude(TruePeak.samplePeak(source) / TruePeak.samplePeak(version));
    return Double.isFinite(gain) ? new LevelMatch(gain, "peak", List.of()) : silent();
  }

  private static LevelMatch silent() {
    return new LevelMatch(
        0, "nothing", List.of("the level could not be matched: one of the two is silent"));
  }

  /**
   * Least squares over the samples that were never clipped: a repair has no reason to change them.
   * Where clipping cannot be found, those above nine tenths of the peak are left out.
   */
  static LevelMatch onUnclipped(Audio source, Clipping clipping, Audio version) {
    double[] sums = GoodSamples.sums(source, clipping, version, 0, source.frames());
    double gain = Db.ofAmplitude(sums[1] > 0 ? sums[0] / sums[1] : Math.sqrt(sums[0] / sums[2]));
    return Double.isFinite(gain)
        ? new LevelMatch(gain + 0.0, "samples that were never clipped", List.of())
        : silent();
  }

  /** The same with a word on what it could not be found on. */
  private LevelMatch uncertain() {
    List<String> more = new ArrayList<>(warnings);
    more.add("the level match is uncertain: direct sound cannot be told from the room here");
    return new LevelMatch(gainDb, basis, more);
  }

  /** Weighted by |S|, not |S|²: the loudest vowels carry the most room. */
  private static LevelMatch onDirect(
      SourceMaterial source, List<Spectrogram> version, FrameRange range) {
    Framing framing = source.framing();
    int low = framing.binAtOrAbove(300);
    int high = framing.binAtOrBelow(3000);
    Histogram gains = new Histogram(-RANGE_DB - BIN_DB / 2, BIN_DB, (int) (2 * RANGE_DB / BIN_DB));
    int count = 0;
    for (int c = 0; c < version.size(); c++) {
      CellMask wanted = source.ground().wanted(c);
      for (int t = range.first(); t < range.end(); t++) {
        int k = wanted.next(t, low);
        if (k < 0 || k > high) {
          continue;
        }
        float[] s = source.spectrum(c).powers(t);
        float[] v = version.get(c).powers(t);
        for (; k >= 0 && k <= high; k = wanted.next(t, k + 1)) {
          gains.add(Db.nearlyOfPower(Math.max(v[k] / s[k], 1e-30f)), Math.sqrt(s[k]));
          count++;
        }
      }
    }
    return count < FEWEST_CELLS
        ? null
        : new LevelMatch(-gains.median() + 0.0, "direct sound", List.of());
  }

  /**
   * On some of the cells.
   *
   * @param masks of a channel; null for all cells
   * @return null where there are too few
   */
  private static LevelMatch onCells(
      SourceMaterial source,
      List<Spectrogram> version,
      IntFunction<CellMask> masks,
      int enough,
      FrameRange range) {
    Framing framing = source.framing();
    int low = framing.binAtOrAbove(300);
    int high = framing.binAtOrBelow(3000);
    int bins = (int) (2 * RANGE_DB / BIN_DB);
    Histogram weighted = new Histogram(-RANGE_DB - BIN_DB / 2, BIN_DB, bins);
    Histogram plain = new Histogram(-RANGE_DB - BIN_DB / 2, BIN_DB, bins);
    int count = 0;
    double before = 0;
    double after = 0;
    for (int c = 0; c < version.size(); c++) {
      CellMask mask = masks == null ? null : masks.apply(c);
      for (int t = range.first(); t < range.end(); t++) {
        int k = next(mask, t, low);
        if (k < 0 || k > high || source.clicks().in(t)) {
          continue;
        }
        float[] s = source.spectrum(c).powers(t);
        float[] v = version.get(c).powers(t);
        for (; k >= 0 && k <= high; k = next(mask, t, k + 1)) {
          if (!(s[k] > 0)) {
            continue;
          }
          double gain = Db.nearlyOfPower(Math.max(v[k] / s[k], 1e-30f));
          weighted.add(gain, s[k]);
          plain.add(gain, 1);
          before += s[k];
          after += v[k];
          count++;
        }
      }
    }
    if (count < enough) {
      return null;
    }
    double median = weighted.median();
    List<String> warnings = new ArrayList<>();
    double left = before > 0 && after > 0 ? 10 * Math.log10(after / before) : median;
    if (median < left - GONE_DB) {
      // What is gone has no level; raised to the source's, it would be all that is measured.
      return new LevelMatch(
          -weighted.medianAbove(left - GONE_DB) + 0.0,
          "what is left of the wanted sound",
          List.of(MOSTLY_GONE));
    }
    if (Math.abs(median - plain.median()) > 2) {
      warnings.add(
          String.format(
              java.util.Locale.ROOT,
              "the level match is uncertain: loud and quiet parts of the wanted sound changed by"
                  + " different amounts (%.1f and %.1f dB)",
              median,
              plain.median()));
    }
    String basis = masks == null ? "frames without clicks" : "wanted sound";
    return new LevelMatch(-median + 0.0, basis, warnings);
  }

  private static int next(CellMask mask, int frame, int bin) {
    return mask == null ? bin : mask.next(frame, bin);
  }

  private static LevelMatch onLoudness(Audio source, Audio aligned) {
    // Brought near the source's level first: the gates of a loudness stand at fixed levels.
    double near = rms(source) / rms(aligned);
    if (!(near > 0) || Double.isInfinite(near)) {
      return silent();
    }
    var before = Loudness.of(source).integrated();
    var after = Loudness.of(aligned.times(near)).integrated();
    if (before.isEmpty() || after.isEmpty()) {
      return new LevelMatch(
          0, "nothing", List.of("the level could not be matched: there is too little sound"));
    }
    return new LevelMatch(
        Db.ofAmplitude(near) + before.getAsDouble() - after.getAsDouble(),
        "integrated loudness",
        List.of());
  }

  private static double rms(Audio audio) {
    float[] block = new float[BLOCK];
    double sum = 0;
    for (int c = 0; c < audio.channels(); c++) {
      for (long at = 0; at < audio.frames(); at += block.length) {
        audio.read(c, at, block, 0, block.length);
        for (float x : block) {
          sum += (double) x * x;
        }
      }
    }
    return Math.sqrt(sum / Math.max(1, audio.frames() * audio.channels()));
  }
}
