package kettlesieve.core.measure.voice;

import java.util.Arrays;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.pass.StemEnergies;
import kettlesieve.core.measure.stems.RoleTiles;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.ThirdOctaveBands;

/** Single frequencies that stand out of a stem and did not in the mix. */
final class StemRinging {
  private StemRinging() {}

  /** What is louder in a stem than in the mix it was taken from, at one frequency. */
  static Reading of(StemSet set, String role) throws NotMeasurableException {
    if (role.isEmpty()) {
      throw new NotMeasurableException("it is measured role by role");
    }
    StemEnergies pass = set.shared(RoleTiles.PASS);
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
          mix[k] > loudest * Db.toPower(LonePeaks.AUDIBLE_DB)
              ? gain(columns(pass, pass.role(role), k, all.length), all)
              : Double.NaN;
    }
    double[] excess = new double[gains.length];
    Arrays.fill(excess, Double.NaN);
    for (int k = framing.binAtOrAbove(LonePeaks.LOWEST_HZ); k < gains.length; k++) {
      int[] near = LonePeaks.neighbours(gains, k);
      if (Double.isFinite(gains[k]) && near.length >= LonePeaks.FEWEST_NEIGHBOURS) {
        double usual = LonePeaks.median(LonePeaks.of(gains, near));
        excess[k] = Math.min(gains[k] - usual, gains[k]);
      }
    }
    int peak = LonePeaks.largest(excess);
    if (peak < 0) {
      throw new NotMeasurableException("there is too little in the mix to compare with");
    }
    int[] around = LonePeaks.neighbours(gains, peak);
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
                  return Math.max(0, Math.min(rise - LonePeaks.median(gainsBeside), rise));
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
    return Reading.of(Ringing.ID, estimate)
        .with("frequency", peak * framing.binHz(), "Hz")
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(hz, perBand, new double[0]))
        .withSpots(places.spots(true, Math.max(2, estimate.value()), 0));
  }

  /** Powers of mix and stem in a bin, by block. */
  private static double[][] columns(StemEnergies pass, int role, int bin, int blocks) {
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
}
