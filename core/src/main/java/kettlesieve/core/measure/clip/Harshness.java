package kettlesieve.core.measure.clip;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.comparison.Job;
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
import kettlesieve.core.measure.voice.ClippedFrames;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Statistics;

/** Treble that clipping put into loud places. */
@AutoService(Measure.class)
public final class Harshness implements PairMeasure {
  private static final double SPLIT_HZ = 4000;
  private static final double LEVEL_STEP_DB = 3;
  private static final int LEVEL_STEPS = 40;
  private static final int ENOUGH_FRAMES = 10;
  private static final double LIKE_LEVEL_DB = 9;
  private static final Declaration DECLARATION =
      new Declaration(
          "harshness",
          "Harshness",
          Axis.INFO.in(Job.DECLIP),
          "dB",
          false,
          "How much brighter the clipped places are than unclipped ones of like level. "
              + "Clipping adds treble that rasps; a good repair takes it out again.",
          "Energy above 4 kHz over energy below in frames with clipped samples, minus the "
              + "median of the same in unclipped frames of like level (the nearest 3 dB step "
              + "within 9 dB); median over the frames.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    pair.shared(Repairs.OF);
    ClippedFrames clipped = pair.ofSource(ClippedFrames.OF);
    Framing framing = pair.framing();
    int split = framing.binAtOrAbove(SPLIT_HZ);
    int frames = pair.endFrame();
    double[] tilt = new double[frames];
    double[] level = new double[frames];
    double loudest = -200;
    for (int t = pair.firstFrame(); t < frames; t++) {
      double low = 1e-20;
      double high = 1e-20;
      for (int c = 0; c < pair.channels(); c++) {
        float[] row = pair.versionSpectrum(c).powers(t);
        for (int k = 1; k < row.length; k++) {
          if (k < split) {
            low += row[k];
          } else {
            high += row[k];
          }
        }
      }
      tilt[t] = Db.ofPower(high / low);
      level[t] = Db.ofPower(high + low);
      loudest = Math.max(loudest, level[t]);
    }
    double[] usual = usual(pair, clipped, tilt, level, loudest);
    BlockHistograms values = new BlockHistograms(pair.timeline(), -60, 60, 0.1);
    PlaceGrid places = RunReadings.grid(pair);
    int count = 0;
    for (int t = pair.firstFrame(); t < frames; t++) {
      int step = step(level[t], loudest);
      if (clipped.in(t) && step < LEVEL_STEPS && Double.isFinite(usual[step])) {
        double excess = tilt[t] - usual[step];
        values.add(pair.timeline().block(t), excess, 1);
        places.add(t, 0, excess, 1);
        count++;
      }
    }
    if (count < ENOUGH_FRAMES) {
      throw new NotMeasurableException(
          "there are too few unclipped places of like level to compare with");
    }
    Estimate estimate = pair.bootstrap().estimate(values::median);
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpots(places.spots(true, estimate.value() + 3, 1));
  }

  private static int step(double level, double loudest) {
    return (int) ((loudest - level) / LEVEL_STEP_DB);
  }

  /** Median tilt of unclipped frames by steps of level; NaN where there is no like level. */
  private static double[] usual(
      Pair pair, ClippedFrames clipped, double[] tilt, double[] level, double loudest) {
    List<List<Double>> steps = new ArrayList<>();
    for (int i = 0; i < LEVEL_STEPS; i++) {
      steps.add(new ArrayList<>());
    }
    for (int t = pair.firstFrame(); t < tilt.length; t++) {
      int step = step(level[t], loudest);
      if (!clipped.in(t) && step < LEVEL_STEPS) {
        steps.get(step).add(tilt[t]);
      }
    }
    double[] own = new double[LEVEL_STEPS];
    for (int i = 0; i < LEVEL_STEPS; i++) {
      double[] values = steps.get(i).stream().mapToDouble(Double::doubleValue).toArray();
      own[i] = values.length >= ENOUGH_FRAMES ? Statistics.median(values) : Double.NaN;
    }
    double[] usual = own.clone();
    int reach = (int) (LIKE_LEVEL_DB / LEVEL_STEP_DB);
    for (int i = 0; i < LEVEL_STEPS; i++) {
      for (int away = 1; away <= reach && Double.isNaN(usual[i]); away++) {
        usual[i] = i + away < LEVEL_STEPS ? own[i + away] : Double.NaN;
      }
    }
    return usual;
  }
}
