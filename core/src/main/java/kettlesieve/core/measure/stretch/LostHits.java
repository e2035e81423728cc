package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockRatio;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Statistics;

/** Attacks that are not there any more. */
@AutoService(Measure.class)
public final class LostHits implements StretchMeasure {
  private static final double SOFTER_DB = 10;
  private static final double BEFORE_SECONDS = 0.005;
  private static final double AFTER_SECONDS = 0.030;
  private static final double LEAST_POWER = 1e-12;
  private static final Declaration DECLARATION =
      new Declaration(
          "lost-hits",
          "Lost hits",
          Axis.LOST.in(Job.STRETCH, Job.PITCH),
          "%",
          false,
          "Share of the strong attacks that are gone or hardly there: a stroke that was cut out"
              + " where the sound was shortened.",
          "Strong attacks whose rise in the version is under a fifth of the source's, or whose power"
              + " from 5 ms before to 30 ms after is over 10 dB under the median change of all.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    List<StretchedHits.Hit> hits = warp.shared(StretchedHits.OF).hits();
    Audio source = warp.source().source().whole().downmix();
    Audio version = warp.version().audio().downmix();
    double[] change = new double[hits.size()];
    for (int i = 0; i < change.length; i++) {
      StretchedHits.Hit hit = hits.get(i);
      change[i] =
          10
              * Math.log10(
                  power(version, warp.fit().map().at(hit.source())) / power(source, hit.source()));
    }
    double usual = Statistics.median(change);
    BlockRatio lost = new BlockRatio(warp.source());
    PlaceGrid places = PlaceGrid.ofTime(warp.source().timeline(), 50, source.sampleRate() / 2.0);
    for (int i = 0; i < change.length; i++) {
      StretchedHits.Hit hit = hits.get(i);
      boolean gone = hit.lost() || change[i] < usual - SOFTER_DB;
      int frame = warp.frame(hit.source());
      lost.add(warp.source().timeline().block(frame), gone ? 100 : 0, 1);
      places.add(frame, 0, gone ? 100 : 0, 1);
    }
    return Reading.of(DECLARATION.id(), lost.estimate(share -> share))
        .with("attacks", hits.size(), "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, 0, 1));
  }

  private static double power(Audio audio, double seconds) {
    int rate = audio.sampleRate();
    long from = Math.round((seconds - BEFORE_SECONDS) * rate);
    float[] x = audio.samples(0, from, (int) ((BEFORE_SECONDS + AFTER_SECONDS) * rate));
    double sum = 0;
    for (float v : x) {
      sum += (double) v * v;
    }
    return Math.max(LEAST_POWER, sum / x.length);
  }
}
