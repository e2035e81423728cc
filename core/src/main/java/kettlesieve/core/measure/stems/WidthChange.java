package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.ThirdOctaveBands;

/** Whether a stem stands as wide as its role does in the mix. */
@AutoService(Measure.class)
public final class WidthChange implements SetMeasure {

  /** In the role's cells a little of the others stands, too: what is narrower is not seen. */
  private static final double NARROW = 0.063;

  private static final Declaration DECLARATION =
      new Declaration(
          "width-change",
          "Width change",
          Axis.LOST.in(Job.STEMS),
          "dB",
          false,
          "How much wider or narrower the stem stands than its role does in the mix. Under zero it"
              + " has moved towards the middle, as a stem in mono does.",
          "Power of side over middle in the role's cells, stem against mix; the magnitude is"
              + " scored. Ratios under −12 dB count as that.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    RoleTiles tiles = new RoleTiles(set, role);
    if (set.mix().channels() != 2) {
      throw new NotMeasurableException("the mix is not in stereo");
    }
    double[][] sums = new double[set.source().timeline().blocks()][4];
    for (int s = 0; s < set.source().timeline().slots(); s++) {
      float[] own = tiles.pass().width(tiles.role(), s);
      double[] to = sums[set.source().timeline().blockOfSlot(s)];
      for (int i = 0; i < to.length; i++) {
        to[i] += own[i];
      }
    }
    Estimate change =
        set.source()
            .bootstrap()
            .estimate(
                w -> {
                  double[] all = new double[4];
                  for (int b = 0; b < w.length; b++) {
                    for (int i = 0; i < all.length; i++) {
                      all[i] += w[b] * sums[b][i];
                    }
                  }
                  return all[0] > 0 && all[2] > 0
                      ? wide(all[3] / all[2]) - wide(all[1] / all[0])
                      : Double.NaN;
                });
    return Reading.of(DECLARATION.id(), change)
        .scoredAs(change.map(Math::abs))
        .withSpectrum(byBand(tiles, set.source().bands().count()));
  }

  /** How wide the stem stands in each band, and its role in the mix. */
  private static BandSpectrum byBand(RoleTiles tiles, int bands) {
    double[] hz = new double[bands];
    double[] stem = new double[bands];
    double[] mix = new double[bands];
    for (int b = 0; b < bands; b++) {
      double[] own = tiles.pass().widthOfBand(tiles.role(), b);
      hz[b] = ThirdOctaveBands.middleHz(b);
      mix[b] = own[0] > 0 ? wide(own[1] / own[0]) : Double.NaN;
      stem[b] = own[2] > 0 ? wide(own[3] / own[2]) : Double.NaN;
    }
    return new BandSpectrum(hz, stem, mix);
  }

  private static double wide(double ratio) {
    return Db.ofPower(Math.max(NARROW, ratio));
  }
}
