package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.ThirdOctaveBands;
import kettlesieve.core.task.Stop;

/** Whether a stem stands as wide as its role does in the mix. */
@AutoService(Measure.class)
public final class WidthChange implements SetMeasure, StretchMeasure {

  /** In the role's cells a little of the others stands, too: what is narrower is not seen. */
  private static final double NARROW = 0.063;

  private static final double STEP_SECONDS = 0.05;

  private static final Declaration DECLARATION =
      new Declaration(
          "width-change",
          "Width change",
          Axis.LOST.in(Job.STEMS, Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How much wider or narrower the stem stands than its role does in the mix, or a stretched"
              + " version than its source. Under zero it has moved towards the middle, as what is in"
              + " mono does.",
          "Power of side over middle in the role's cells, stem against mix; the magnitude is"
              + " scored. Ratios under −12 dB count as that. Stretched or shifted: of the whole at mapped"
              + " moments (50 ms); one channel alone is as wide as 0 dB.",
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
    Estimate change = change(set.source(), sums);
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

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    Audio source = warp.source().source().whole();
    Audio version = warp.version().audio();
    if (source.channels() != 2) {
      throw new NotMeasurableException("the source is not in stereo");
    }
    int blocks = warp.source().timeline().blocks();
    double[][] sums = new double[blocks][4];
    PlaceGrid places = PlaceGrid.ofTime(warp.source().timeline(), 50, source.sampleRate() / 2.0);
    double start = warp.source().source().startSeconds();
    double end = start + warp.source().source().audio().seconds();
    for (double at = start; at < end; at += STEP_SECONDS) {
      Stop.checkHere();
      double there = warp.fit().map().at(at);
      if (there < 0 || there > version.seconds()) {
        continue;
      }
      double[] own = sides(source, at);
      double[] other = sides(version, there);
      int frame = warp.frame(at);
      double[] to = sums[warp.source().timeline().block(frame)];
      for (int i = 0; i < 2; i++) {
        to[i] += own[i];
        to[2 + i] += other[i];
      }
      if (own[0] > 0 && other[0] + other[1] > 0) {
        double change = wide(other[1] / Math.max(1e-30, other[0])) - wide(own[1] / own[0]);
        places.add(frame, 0, Math.abs(change), own[0]);
      }
    }
    Estimate change = change(warp.source(), sums);
    return Reading.of(DECLARATION.id(), change)
        .scoredAs(change.map(Math::abs))
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(2, Math.abs(change.value())), 0));
  }

  /** From middle and side of what was and of what is, by block. */
  private static Estimate change(SourceAnalysis source, double[][] sums) {
    return source
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
  }

  /** Power of the middle and of the side around a moment. */
  private static double[] sides(Audio audio, double seconds) {
    int length = (int) (STEP_SECONDS * audio.sampleRate());
    long from = Math.round(seconds * audio.sampleRate());
    float[] left = audio.samples(0, from, length);
    float[] right = audio.channels() > 1 ? audio.samples(1, from, length) : left;
    double[] powers = new double[2];
    for (int i = 0; i < length; i++) {
      powers[0] += Math.pow((double) left[i] + right[i], 2);
      powers[1] += Math.pow((double) left[i] - right[i], 2);
    }
    return powers;
  }

  private static double wide(double ratio) {
    return Db.ofPower(Math.max(NARROW, ratio));
  }
}
