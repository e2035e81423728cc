package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.noise.PauseLevels;
import kettlesieve.core.measure.pass.StemPass;
import kettlesieve.core.measure.stems.RoleTiles;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.signal.ThirdOctaveBands;

/** Single frequencies that sing. */
@AutoService(Measure.class)
public final class Ringing implements PairMeasure, SetMeasure {
  private static final int ENOUGH_CELLS = 40;
  private static final int FEWEST_NEIGHBOURS = 6;
  private static final int LEFT_OUT = 2;
  private static final int FEWEST_A_SIDE = 3;
  private static final double LEAST_GAIN_DB = -30;
  private static final double LOWEST_HZ = 100;
  private static final double AUDIBLE_DB = -60;
  private static final double THIRD_OCTAVE = Math.pow(2, 1 / 3.0);
  private static final Declaration DECLARATION =
      new Declaration(
          "ringing",
          "Ringing",
          Axis.ADDED.in(Job.DENOISE, Job.DEREVERB, Job.STEMS, Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How far one narrow frequency stands out that did not in the source: a "
              + "resonance on the voice, or a whistle in the pauses.",
          "Long-term spectrum over wanted cells (40 or more a bin), version over source; "
              + "highest peak above the median of ±1/3 octave, ±2 bins left out, and no more "
              + "than the bin rose above the source. Whistles: the same over the pauses. The "
              + "larger of the two; details: frequency, whistle. In dereverb above the higher of the "
              + "medians of the lower and the upper third-octave, bins whose gain is over −30 dB, "
              + "and no whistles.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return job == Job.DENOISE ? 0.5 : 0;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
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
    int peak = largest(excess);
    if (peak < 0) {
      throw new NotMeasurableException("too little of the voice stands above the noise");
    }
    // A room leaves no pauses in which a whistle would stand alone.
    double[] whistles = room(pair) ? new double[0] : whistles(pair);
    int whistle = largest(whistles);
    double whistleDb = whistle < 0 ? 0 : Math.max(0, whistles[whistle]);
    int[] neighbours = neighbours(gains, peak);
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
    return Reading.of(DECLARATION.id(), estimate)
        .withDetails(details)
        .withTrace(trace(pair, energies, peak, neighbours))
        .withSpectrum(new BandSpectrum(places.hz(), perBand(pair, excess), new double[0]))
        .withSpots(spots(pair, pair.shared(WantedBands.OF), loudest, estimate.value()));
  }

  /** What is louder in a stem than in the mix it was taken from, at one frequency. */
  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    if (role.isEmpty()) {
      throw new NotMeasurableException("it is measured role by role");
    }
    StemPass pass = set.shared(RoleTiles.PASS);
    Framing framing = set.source().source().framing();
    int[] all = new int[set.source().timeline().blocks()];
    Arrays.fill(all, 1);
    double loudest = 0;
    double[] mix = new double[framing.bins()];
    for (int k = 0; k < mix.length; k++) {
      for (int b = 0; b < all.length; b++) {
        mix[k] += pass.mixBin(b, k);
      }
      loudest = Math.max(loudest, mix[k]);
    }
    double[] gains = new double[mix.length];
    for (int k = 0; k < gains.length; k++) {
      gains[k] =
          mix[k] > loudest * Db.toPower(AUDIBLE_DB)
              ? gain(columns(pass, pass.role(role), k, all.length), all)
              : Double.NaN;
    }
    double[] excess = new double[gains.length];
    Arrays.fill(excess, Double.NaN);
    for (int k = framing.binAtOrAbove(LOWEST_HZ); k < gains.length; k++) {
      int[] near = neighbours(gains, k);
      if (Double.isFinite(gains[k]) && near.length >= FEWEST_NEIGHBOURS) {
        double usual = median(of(gains, near));
        excess[k] = Math.min(gains[k] - usual, gains[k]);
      }
    }
    int peak = largest(excess);
    if (peak < 0) {
      throw new NotMeasurableException("there is too little in the mix to compare with");
    }
    int[] around = neighbours(gains, peak);
    double[][][] beside = new double[around.length][][];
    for (int i = 0; i < around.length; i++) {
      beside[i] = columns(pass, pass.role(role), around[i], all.length);
    }
    double[][] own = columns(pass, pass.role(role), peak, all.length);
    Estimate estimate =
        set.source()
            .bootstrap()
            .estimate(
                w -> {
                  double rise = gain(own, w);
                  double[] gainsBeside = new double[beside.length];
                  for (int i = 0; i < gainsBeside.length; i++) {
                    gainsBeside[i] = gain(beside[i], w);
                  }
                  return Math.max(0, Math.min(rise - median(gainsBeside), rise));
                });
    ThirdOctaveBands bands = set.source().bands();
    double[] hz = new double[bands.count()];
    double[] perBand = new double[hz.length];
    Arrays.fill(perBand, Double.NaN);
    for (int b = 0; b < hz.length; b++) {
      hz[b] = ThirdOctaveBands.middleHz(b);
    }
    PlaceGrid places = new PlaceGrid(set.source().timeline(), hz.length);
    int blockFrames = Math.max(1, framing.count() / all.length);
    for (int k = 1; k < excess.length; k++) {
      int band = bands.ofBin(k);
      if (band >= 0 && Double.isFinite(excess[k])) {
        perBand[band] = Math.max(Double.isNaN(perBand[band]) ? 0 : perBand[band], excess[k]);
      }
    }
    for (int b = 0; b < all.length; b++) {
      double before = pass.mixBin(b, peak);
      double after = pass.stemBin(pass.role(role), b, peak);
      if (before > 0 && bands.ofBin(peak) >= 0) {
        places.add(b * blockFrames, bands.ofBin(peak), Pair.gainDb(before, after), before);
      }
    }
    return Reading.of(DECLARATION.id(), estimate)
        .with("frequency", peak * framing.binHz(), "Hz")
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(hz, perBand, new double[0]))
        .withSpots(places.spots(true, Math.max(2, estimate.value()), 0));
  }

  /** Powers of mix and stem in a bin, by block. */
  private static double[][] columns(StemPass pass, int role, int bin, int blocks) {
    double[][] columns = new double[2][blocks];
    for (int b = 0; b < blocks; b++) {
      columns[0][b] = pass.mixBin(b, bin);
      columns[1][b] = pass.stemBin(role, b, bin);
    }
    return columns;
  }

  private static double gain(double[][] columns, int[] weights) {
    double before = 0;
    double after = 0;
    for (int b = 0; b < weights.length; b++) {
      before += weights[b] * columns[0][b];
      after += weights[b] * columns[1][b];
    }
    return before > 0 ? Pair.gainDb(before, after) : Double.NaN;
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

  private static double median(double[] values) {
    double[] finite = new double[values.length];
    int count = 0;
    for (double value : values) {
      if (Double.isFinite(value)) {
        finite[count++] = value;
      }
    }
    return Statistics.median(Arrays.copyOf(finite, count));
  }

  private static boolean room(Pair pair) {
    return pair.job() == Job.DEREVERB;
  }

  /**
   * What a bin is compared with: the median of its neighbours; in a room the higher of the medians
   * of both sides, because an edge of the voice's direct sound is no peak. NaN if a side has too
   * few.
   */
  private static double around(Pair pair, int bin, int[] neighbours, double[] gains) {
    if (!room(pair)) {
      return median(gains);
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
            median(Arrays.copyOf(sides[0], count[0])), median(Arrays.copyOf(sides[1], count[1])));
  }

  private static int[] neighbours(double[] gains, int bin) {
    int low = (int) Math.floor(bin / THIRD_OCTAVE);
    int high = Math.min(gains.length - 1, (int) Math.ceil(bin * THIRD_OCTAVE));
    int first = Math.max(1, low);
    // Loops: asked for every bin of every stem, streams cost a twentieth of it all.
    int[] near = new int[Math.max(0, high - first + 1)];
    int count = 0;
    for (int k = first; k <= high; k++) {
      if (Math.abs(k - bin) > LEFT_OUT && Double.isFinite(gains[k])) {
        near[count++] = k;
      }
    }
    return Arrays.copyOf(near, count);
  }

  private static double[] of(double[] gains, int[] bins) {
    double[] some = new double[bins.length];
    for (int i = 0; i < some.length; i++) {
      some[i] = gains[bins[i]];
    }
    return some;
  }

  /** How far each bin stands above its neighbourhood, dB; NaN where that cannot be told. */
  private static double[] excess(Pair pair, double[] gains) {
    double[] excess = new double[gains.length];
    Arrays.fill(excess, Double.NaN);
    for (int k = pair.framing().binAtOrAbove(LOWEST_HZ); k < gains.length; k++) {
      if (Double.isFinite(gains[k])) {
        int[] around = neighbours(gains, k);
        if (around.length >= FEWEST_NEIGHBOURS) {
          excess[k] = gains[k] - around(pair, k, around, of(gains, around));
          // Where only the neighbours were taken down nothing sings: that is loss.
          excess[k] = room(pair) ? excess[k] : Math.min(excess[k], gains[k]);
        }
      }
    }
    return excess;
  }

  private static int largest(double[] values) {
    int best = -1;
    for (int k = 0; k < values.length; k++) {
      if (Double.isFinite(values[k]) && (best < 0 || values[k] > values[best])) {
        best = k;
      }
    }
    return best;
  }

  /** The same in the pauses: but only as far as a bin became louder than it was. */
  private static double[] whistles(Pair pair) throws NotMeasurableException {
    PauseLevels before = pair.ofSource(PauseLevels.OF_SOURCE);
    PauseLevels after = pair.shared(PauseLevels.OF_VERSION);
    SourceMaterial source = pair.source();
    double[] gains = new double[pair.framing().bins()];
    Arrays.fill(gains, Double.NaN);
    double audible = source.pauses().wantedPower() * Db.toPower(AUDIBLE_DB);
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
