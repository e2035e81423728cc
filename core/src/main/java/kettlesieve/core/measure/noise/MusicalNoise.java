package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.room.LateCells;
import kettlesieve.core.signal.Spectrogram;

/** Isolated short tones that a denoiser leaves of the noise. */
@AutoService(Measure.class)
public final class MusicalNoise implements PairMeasure {
  private static final double INAUDIBLE_DB = -60;
  private static final double SMOOTH_HZ = 750;
  private static final double HIDDEN = 0.15;
  private static final double FOLLOWS = 0.40;

  /** Steady noise and weak speech have under 0.3 of a frame's power in lone peaks. */
  private static final double FEW_LONE = 0.3;

  private static final double MANY_LONE = 0.45;
  private static final double ROUGH = 0.8;
  private static final double WHISTLES = 1.1;
  private static final double LONE = 4;
  private static final int BESIDE_FROM = 2;
  private static final int BESIDE_TO = 6;
  private static final double LOUD_FRAMES = 0.9;
  private static final double LEAST_SHARE = 1e-4;
  private static final int ENOUGH_DEEP = 2000;
  private static final Declaration DECLARATION =
      new Declaration(
          "musical-noise",
          "Musical noise",
          Axis.ADDED.in(Job.DENOISE, Job.DEREVERB, Job.STRETCH, Job.PITCH),
          "ln ratio",
          false,
          "Short whistles and gurgling left in the pauses where a steady hiss was. 0 means the"
              + " remaining noise is as smooth as the source's; from about 1 on it twitters.",
          "Pause cells of 200–8,000 Hz, each file divided by its own mean pause spectrum and then,"
              + " frame by frame, by a running mean of 750 Hz; kurtosis of these powers (fourth raw"
              + " moment over squared second, 6 for Gaussian noise), version over source, natural"
              + " logarithm; 0 where nine tenths of the pauses are 60 dB or more below the voice; less where levels follow"
              + " the source's by a correlation under 0.40, 0 under 0.15: that is weak speech, not"
              + " noise, unless 0.45 of the power of the frames above −60 dB (0.3 and less: not) stands in lone peaks, four times"
              + " the mean of what lies two to six bins beside, and it is 1.1 or more (0.8 and less: not). In dereverb over"
              + " 2,000 or more cells deep in the tail: x = (version + 2 % of the source) over the"
              + " late reverberation, y = x over the mean of x within 375 Hz; logarithm of"
              + " mean(y²)/mean(y)², version minus source.",
          "After Uemura, Takahashi, Saruwatari, Shikano & Kondo, IWAENC 2008.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return job == Job.DENOISE ? 0.7 : 0;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    return pair.job().inARoom() ? inTheTail(pair) : inThePauses(pair);
  }

  private static Reading inTheTail(Pair pair) throws NotMeasurableException {
    LateCells cells = pair.shared(LateCells.OF);
    if (cells.deep() < ENOUGH_DEEP) {
      throw new NotMeasurableException("too little of the tail stands alone to judge its sound");
    }
    PlaceGrid places = cells.uneven();
    Estimate estimate = pair.bootstrap().estimate(cells::unevenness);
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, 4, 1));
  }

  private static Reading inThePauses(Pair pair) throws NotMeasurableException {
    PauseLevels after = pair.shared(PauseLevels.OF_VERSION);
    PauseLevels before = pair.ofSource(PauseLevels.OF_SOURCE);
    if (after.count() == 0) {
      throw new NotMeasurableException("the version covers none of the pauses");
    }
    if (after.quantileDb(LOUD_FRAMES) <= INAUDIBLE_DB) {
      return Reading.of(DECLARATION.id(), pair.bootstrap().estimate(w -> 0))
          .withNotes(
              java.util.List.of(
                  "the pauses are 60 dB or more below the voice, all but a tenth of them"));
    }
    Moments source = new Moments(pair, before, false);
    Moments version = new Moments(pair, after, true);
    double all = Math.log(version.wholeKurtosis() / source.wholeKurtosis());
    // Where most cells are gone, what is left follows nothing; but it is whistles, not speech.
    double lone = lone(pair, after);
    double share =
        Math.max(
            shareOfNoise(following(pair, before, after)),
            within(lone, FEW_LONE, MANY_LONE) * within(all, ROUGH, WHISTLES));
    Estimate estimate =
        pair.bootstrap().estimate(w -> share * Math.log(version.kurtosis(w) / source.kurtosis(w)));
    if (!Double.isFinite(estimate.value())) {
      throw new NotMeasurableException("the pauses of the source or the version are silent");
    }
    double reference = source.wholeKurtosis();
    PlaceGrid places = version.places(reference);
    return Reading.of(DECLARATION.id(), estimate)
        .with("lone", 100 * lone, "%")
        .withTrace(version.trace(reference))
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, Math.max(0.5, estimate.value()), 1));
  }

  /**
   * Correlation of the levels of source and version over the cells of the pauses, each bin about
   * its own mean: what is left of the noise follows it; weak speech that hid in the pauses does
   * not.
   */
  private static double following(Pair pair, PauseLevels before, PauseLevels after) {
    SourceMaterial material = pair.source();
    int low = material.pauseLowBin();
    int high = material.pauseHighBin();
    double together = 0;
    double own = 0;
    double others = 0;
    for (int c = 0; c < pair.channels(); c++) {
      double[][] sums = new double[high - low + 1][5];
      for (int i = 0; i < after.count(); i++) {
        float[] source = material.spectrum(c).powers(after.frame(i));
        float[] version = pair.versionSpectrum(c).powers(after.frame(i));
        for (int k = low; k <= high; k++) {
          double x = Math.log(Math.max(source[k], LEAST_SHARE * before.meanPower(c, k) + 1e-30));
          double y = Math.log(Math.max(version[k], LEAST_SHARE * after.meanPower(c, k) + 1e-30));
          double[] sum = sums[k - low];
          sum[0] += x;
          sum[1] += y;
          sum[2] += x * x;
          sum[3] += y * y;
          sum[4] += x * y;
        }
      }
      for (double[] sum : sums) {
        together += sum[4] - sum[0] * sum[1] / after.count();
        own += sum[2] - sum[0] * sum[0] / after.count();
        others += sum[3] - sum[1] * sum[1] / after.count();
      }
    }
    return own > 0 && others > 0 ? together / Math.sqrt(own * others) : 0;
  }

  private static double shareOfNoise(double correlation) {
    return within(correlation, HIDDEN, FOLLOWS);
  }

  private static double within(double value, double none, double all) {
    return Math.max(0, Math.min(1, (value - none) / (all - none)));
  }

  /**
   * Mean share of a pause frame's power that stands in lone peaks, over the frames that are heard.
   */
  private static double lone(Pair pair, PauseLevels after) {
    int low = pair.source().pauseLowBin();
    int high = pair.source().pauseHighBin();
    double sum = 0;
    int frames = 0;
    for (int c = 0; c < pair.channels(); c++) {
      for (int i = 0; i < after.count(); i++) {
        if (after.levelDb(i) <= INAUDIBLE_DB) {
          continue;
        }
        float[] powers = pair.versionSpectrum(c).powers(after.frame(i));
        double whole = 0;
        double peaks = 0;
        for (int k = low + BESIDE_TO; k <= high - BESIDE_TO; k++) {
          double mean = after.meanPower(c, k);
          double own = mean > 0 ? powers[k] / mean : 0;
          double beside = 0;
          for (int d = BESIDE_FROM; d <= BESIDE_TO; d++) {
            beside += powers[k - d] + powers[k + d];
          }
          beside /= 2 * (BESIDE_TO - BESIDE_FROM + 1);
          whole += own;
          peaks += powers[k] > LONE * beside ? own : 0;
        }
        if (whole > 0) {
          sum += peaks / whole;
          frames++;
        }
      }
    }
    return frames > 0 ? sum / frames : 0;
  }

  /** Second and fourth raw moments of the flattened pause powers, block by block. */
  private static final class Moments {
    private final Pair pair;
    private final double[] squares;
    private final double[] fourths;
    private final double[] counts;
    private final PlaceGrid gridSquares;
    private final PlaceGrid gridFourths;

    Moments(Pair pair, PauseLevels levels, boolean version) {
      this.pair = pair;
      int blocks = pair.timeline().blocks();
      squares = new double[blocks];
      fourths = new double[blocks];
      counts = new double[blocks];
      gridSquares = new PlaceGrid(pair.timeline(), pair.bands().count());
      gridFourths = new PlaceGrid(pair.timeline(), pair.bands().count());
      SourceMaterial source = pair.source();
      int low = source.pauseLowBin();
      int high = source.pauseHighBin();
      int half = Math.max(1, (int) Math.round(SMOOTH_HZ / pair.framing().binHz() / 2));
      double[] flat = new double[high - low + 1];
      for (int c = 0; c < pair.channels(); c++) {
        Spectrogram spectrum = version ? pair.versionSpectrum(c) : source.spectrum(c);
        for (int i = 0; i < levels.count(); i++) {
          int frame = levels.frame(i);
          if (flatten(spectrum.powers(frame), levels, c, low, flat)) {
            add(frame, flat, half, low);
          }
        }
      }
    }

    private static boolean flatten(
        float[] row, PauseLevels levels, int channel, int low, double[] flat) {
      double sum = 0;
      for (int i = 0; i < flat.length; i++) {
        double mean = levels.meanPower(channel, low + i);
        flat[i] = mean > 0 ? row[low + i] / mean : 0;
        sum += flat[i];
      }
      return sum > 0;
    }

    private void add(int frame, double[] flat, int half, int low) {
      int block = pair.timeline().block(frame);
      double running = 0;
      for (int i = 0; i < Math.min(half, flat.length); i++) {
        running += flat[i];
      }
      for (int i = 0; i < flat.length; i++) {
        if (i + half < flat.length) {
          running += flat[i + half];
        }
        if (i - half - 1 >= 0) {
          running -= flat[i - half - 1];
        }
        int width = Math.min(flat.length - 1, i + half) - Math.max(0, i - half) + 1;
        if (running <= 1e-12 * width) {
          continue;
        }
        double x = flat[i] * width / running;
        double x2 = x * x;
        squares[block] += x2;
        fourths[block] += x2 * x2;
        counts[block]++;
        int band = pair.bands().ofBin(low + i);
        if (band >= 0) {
          gridSquares.add(frame, band, x2, 1);
          gridFourths.add(frame, band, x2 * x2, 1);
        }
      }
    }

    double kurtosis(int[] weights) {
      double second = 0;
      double fourth = 0;
      double count = 0;
      for (int b = 0; b < weights.length; b++) {
        second += weights[b] * squares[b];
        fourth += weights[b] * fourths[b];
        count += weights[b] * counts[b];
      }
      return fourth / count / (second / count * (second / count));
    }

    double wholeKurtosis() {
      int[] all = new int[squares.length];
      java.util.Arrays.fill(all, 1);
      return kurtosis(all);
    }

    PlaceGrid places(double reference) {
      PlaceGrid places = new PlaceGrid(pair.timeline(), pair.bands().count());
      for (int t = 0; t < pair.timeline().frames(); t += pair.framing().framesIn(0.1)) {
        int slot = pair.timeline().slot(t);
        for (int b = 0; b < pair.bands().count(); b++) {
          double second = gridSquares.value(slot, b);
          double fourth = gridFourths.value(slot, b);
          if (second > 0) {
            places.add(t, b, Math.log(fourth / (second * second) / reference), 1);
          }
        }
      }
      return places;
    }

    kettlesieve.core.measure.Trace trace(double reference) {
      var seconds = gridSquares.trace();
      var fourth = gridFourths.trace();
      double[] values = new double[seconds.values().length];
      for (int i = 0; i < values.length; i++) {
        double second = seconds.values()[i];
        values[i] = Math.log(fourth.values()[i] / (second * second) / reference);
      }
      return new kettlesieve.core.measure.Trace(seconds.seconds(), values);
    }
  }
}
