package kettlesieve.core.measure.voice;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.measure.noise.PauseLevels;
import kettlesieve.core.signal.Db;

/** Single frequencies that sing on a voice, or whistle in the pauses, and did not before. */
final class VoiceRinging {
  private static final int ENOUGH_CELLS = 40;
  private static final int FEWEST_A_SIDE = 3;
  private static final double LEAST_GAIN_DB = -30;

  private VoiceRinging() {}

  /** The reading of one version. */
  static Reading of(Pair pair) throws NotMeasurableException {
    WantedBins energies = pair.shared(WantedBins.OF);
    int bins = pair.framing().bins();
    int blocks = pair.timeline().blocks();
    int[] all = new int[blocks];
    Arrays.fill(all, 1);
    double[] gains = new double[bins];
    for (int k = 0; k < bins; k++) {
      gains[k] = gain(energies, k, all);
      // What a filter's edge takes away is bandwidth, not ringing beside it.
      gains[k] = room(pair) && gains[k] < LEAST_GAIN_DB ? Double.NaN : gains[k];
    }
    double[] excess = excess(pair, gains);
    int peak = LonePeaks.largest(excess);
    if (peak < 0) {
      throw new NotMeasurableException("too little of the voice stands above the noise");
    }
    // A room leaves no pauses in which a whistle would stand alone.
    double[] whistles = room(pair) ? new double[0] : whistles(pair);
    int whistle = LonePeaks.largest(whistles);
    double whistleDb = whistle < 0 ? 0 : Math.max(0, whistles[whistle]);
    int[] neighbours = LonePeaks.neighbours(gains, peak);
    Estimate estimate =
        pair.bootstrap()
            .estimate(
                w -> {
                  double[] around = new double[neighbours.length];
                  for (int i = 0; i < around.length; i++) {
                    around[i] = gain(energies, neighbours[i], w);
                  }
                  double rise = gain(energies, peak, w);
                  double own = rise - around(pair, peak, neighbours, around);
                  own = room(pair) ? own : Math.min(own, rise);
                  return Double.isNaN(own) ? own : Math.max(whistleDb, Math.max(0, own));
                });
    int loudest = whistleDb > excess[peak] ? whistle : peak;
    double hz = loudest * pair.framing().binHz();
    List<Detail> details = new ArrayList<>();
    details.add(new Detail("frequency", hz, "Hz"));
    details.add(new Detail("whistle", whistleDb, "dB"));
    PlaceGrid places = pair.shared(WantedBands.OF).gains();
    return Reading.of(Ringing.ID, estimate)
        .withDetails(details)
        .withTrace(trace(pair, energies, peak, neighbours))
        .withSpectrum(new BandSpectrum(places.hz(), perBand(pair, excess), new double[0]))
        .withSpots(spots(pair, pair.shared(WantedBands.OF), loudest, estimate.value()));
  }

  private static double gain(WantedBins energies, int bin, int[] weights) {
    if (energies.count(bin) < ENOUGH_CELLS) {
      return Double.NaN;
    }
    double before = 0;
    double after = 0;
    for (int b = 0; b < weights.length; b++) {
      before += weights[b] * energies.source(b, bin);
      after += weights[b] * energies.version(b, bin);
    }
    return before > 0 ? Pair.gainDb(before, after) : Double.NaN;
  }

  private static boolean room(Pair pair) {
    return pair.job().inARoom();
  }

  /**
   * What a bin is compared with: the median of its neighbours; in a room the higher of the medians
   * of both sides, because an edge of the voice's direct sound is no peak. NaN if a side has too
   * few.
   */
  private static double around(Pair pair, int bin, int[] neighbours, double[] gains) {
    if (!room(pair)) {
      return LonePeaks.median(gains);
    }
    double[][] sides = new double[2][gains.length];
    int[] count = new int[2];
    for (int i = 0; i < gains.length; i++) {
      if (Double.isFinite(gains[i])) {
        int side = neighbours[i] < bin ? 0 : 1;
        sides[side][count[side]++] = gains[i];
      }
    }
    return count[0] < FEWEST_A_SIDE || count[1] < FEWEST_A_SIDE
        ? Double.NaN
        : Math.max(
            LonePeaks.median(Arrays.copyOf(sides[0], count[0])),
            LonePeaks.median(Arrays.copyOf(sides[1], count[1])));
  }

  /** How far each bin stands above its neighbourhood, dB; NaN where that cannot be told. */
  private static double[] excess(Pair pair, double[] gains) {
    double[] excess = new double[gains.length];
    Arrays.fill(excess, Double.NaN);
    for (int k = pair.framing().binAtOrAbove(LonePeaks.LOWEST_HZ); k < gains.length; k++) {
      if (Double.isFinite(gains[k])) {
        int[] around = LonePeaks.neighbours(gains, k);
        if (around.length >= LonePeaks.FEWEST_NEIGHBOURS) {
          excess[k] = gains[k] - around(pair, k, around, LonePeaks.of(gains, around));
          // Where only the neighbours were taken down nothing sings: that is loss.
          excess[k] = room(pair) ? excess[k] : Math.min(excess[k], gains[k]);
        }
      }
    }
    return excess;
  }

  /** The same in the pauses: but only as far as a bin became louder than it was. */
  private static double[] whistles(Pair pair) throws NotMeasurableException {
    PauseLevels before = pair.ofSource(PauseLevels.OF_SOURCE);
    PauseLevels after = pair.shared(PauseLevels.OF_VERSION);
    SourceMaterial source = pair.source();
    double[] gains = new double[pair.framing().bins()];
    Arrays.fill(gains, Double.NaN);
    double audible = source.pauses().wantedPower() * Db.toPower(LonePeaks.AUDIBLE_DB);
    boolean[] heard = new boolean[gains.length];
    for (int k = source.pauseLowBin(); k <= source.pauseHighBin(); k++) {
      double was = 0;
      double is = 0;
      for (int c = 0; c < pair.channels(); c++) {
        was += before.meanPower(c, k) / pair.channels();
        is += after.meanPower(c, k) * pair.version().powerGain() / pair.channels();
      }
      heard[k] = is > audible;
      gains[k] = Pair.gainDb(was, is);
    }
    double[] excess = excess(pair, gains);
    for (int k = 0; k < excess.length; k++) {
      excess[k] = heard[k] ? Math.min(excess[k], gains[k]) : Double.NaN;
    }
    return excess;
  }

  private static kettlesieve.core.measure.Trace trace(
      Pair pair, WantedBins energies, int peak, int[] neighbours) {
    int blocks = pair.timeline().blocks();
    PlaceGrid places = PlaceGrid.ofTime(pair.timeline(), 20, pair.framing().sampleRate() / 2.0);
    int[] only = new int[blocks];
    double[] values = new double[blocks];
    for (int b = 0; b < blocks; b++) {
      only[b] = 1;
      double own = gain(energies, peak, only);
      double around =
          around(
              pair,
              peak,
              neighbours,
              Arrays.stream(neighbours).mapToDouble(i -> gain(energies, i, only)).toArray());
      values[b] = own - around;
      only[b] = 0;
    }
    for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
      double value = values[pair.timeline().block(t)];
      if (Double.isFinite(value)) {
        places.add(t, 0, value, 1);
      }
    }
    return places.trace();
  }

  private static double[] perBand(Pair pair, double[] excess) {
    double[] bands = new double[pair.bands().count()];
    Arrays.fill(bands, Double.NaN);
    for (int k = 0; k < excess.length; k++) {
      int band = pair.bands().ofBin(k);
      if (band >= 0 && Double.isFinite(excess[k])) {
        bands[band] = Double.isNaN(bands[band]) ? excess[k] : Math.max(bands[band], excess[k]);
      }
    }
    return bands;
  }

  /** Where the voice is strong at the frequency that rings. */
  private static List<Spot> spots(Pair pair, WantedBands energies, int bin, double value) {
    if (!(value > 2)) {
      return List.of();
    }
    int band = Math.max(0, pair.bands().ofBin(bin));
    PlaceGrid strength = new PlaceGrid(pair.timeline(), 1);
    for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
      strength.add(t, 0, energies.version(t, band), 1);
    }
    double hz = bin * pair.framing().binHz();
    double width = 3 * pair.framing().binHz();
    return strength.spots(true, 1e-12, 1).stream()
        .map(s -> new Spot(s.from(), s.to(), Math.max(20, hz - width), hz + width, value))
        .limit(8)
        .toList();
  }
}
