package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.PauseGround;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Timeline;

/** Noise that flares up in the pauses. */
@AutoService(Measure.class)
public final class NoiseBursts implements PairMeasure {
  private static final double LOUD = 0.95;
  private static final double INAUDIBLE_DB = -60;
  private static final double PASSED_DB = -50;
  private static final double HIDDEN_DB = 7;
  private static final Declaration DECLARATION =
      new Declaration(
          "noise-bursts",
          "Noise bursts",
          Map.of(Job.DENOISE, Axis.MISSED, Job.DEREVERB, Axis.INFO),
          "dB",
          false,
          "How far left-over noise flares up above the rest of the pauses, more than it "
              + "did in the source. From about 10 dB on single bursts draw the ear.",
          "95th percentile minus median of the pause frames' levels (200–8,000 Hz; the median not"
              + " under −50 dB), version minus source, not below 0; 0 where the percentile lies 60 dB or"
              + " more under the voice. Where pauses were found in the noisy source itself, weak speech"
              + " hides there: frames 1 dB over the source's median are left out, and levels count no"
              + " lower than 7 dB under it.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    PauseLevels before = pair.ofSource(PauseLevels.OF_SOURCE);
    PauseLevels after = pair.shared(PauseLevels.OF_VERSION);
    if (after.count() == 0) {
      throw new NotMeasurableException("the version covers none of the pauses");
    }
    Timeline timeline = pair.timeline();
    double usual = before.medianDb();
    boolean certain = pair.source().pauses().activity().certain();
    // Weak speech under the noise: less than a decibel over the usual level is not told from noise.
    double floor = certain ? PauseGround.FLOOR_DB : usual - HIDDEN_DB;
    BlockHistograms versions = new BlockHistograms(timeline, -80, 20, 0.05);
    BlockHistograms sources = new BlockHistograms(timeline, -80, 20, 0.05);
    PlaceGrid time = PlaceGrid.ofTime(timeline, 200, 8000);
    double median = Math.max(PASSED_DB, Math.max(floor, after.medianDb()));
    int j = 0;
    for (int i = 0; i < after.count(); i++) {
      while (before.frame(j) != after.frame(i)) {
        j++;
      }
      if (!certain && before.levelDb(j) > usual + 1) {
        continue;
      }
      int block = timeline.block(after.frame(i));
      sources.add(block, before.levelDb(j), 1);
      versions.add(block, Math.max(floor, after.levelDb(i)), 1);
      time.add(after.frame(i), 0, Math.max(floor, after.levelDb(i)) - median, 1);
    }
    Estimate estimate =
        pair.bootstrap()
            .estimate(
                w -> {
                  double loud = versions.quantile(w, LOUD);
                  if (Double.isNaN(loud)) {
                    return Double.NaN;
                  }
                  double own = sources.quantile(w, LOUD) - sources.median(w);
                  double rest = Math.max(PASSED_DB, versions.median(w));
                  return loud <= INAUDIBLE_DB ? 0 : Math.max(0, loud - rest - own);
                });
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(time.trace())
        .withSpots(
            estimate.value() > 0 ? time.spots(true, Math.max(3, estimate.value()), 1) : List.of());
  }
}
