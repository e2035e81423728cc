package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.ground.PauseGround;
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
import kettlesieve.core.signal.Db;

/** Residual noise in the pauses, relative to the wanted sound. */
@AutoService(Measure.class)
public final class PauseNoise implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "pause-noise",
          "Noise in pauses",
          Map.of(Job.DENOISE, Axis.MISSED, Job.DEREVERB, Axis.INFO),
          "dB",
          false,
          "How loud the noise left in the pauses is, against the voice. At −20 dB it is plainly"
              + " heard between words; at −50 dB and below the pauses seem silent.",
          "Median over pause frames of the power in 200–8,000 Hz relative to the mean power of the"
              + " wanted sound in the same range, after matching; not below −80 dB.",
          "Levels in dBFS are 20·log10 of the RMS; A-weighting by IEC 61672-1; bands by"
              + " IEC 61260-1.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return job == Job.DENOISE ? 1.0 : 0;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    PauseLevels levels = pair.shared(PauseLevels.OF_VERSION);
    PauseLevels before = pair.ofSource(PauseLevels.OF_SOURCE);
    if (levels.count() == 0) {
      throw new NotMeasurableException("the version covers none of the pauses");
    }
    pair.shared(Presence.OF).check();
    Estimate estimate =
        pair.bootstrap().estimate(weights -> levels.medianDb(pair.timeline(), weights));
    PlaceGrid places = places(pair, levels);
    return Reading.of(DECLARATION.id(), estimate)
        .withDetails(details(pair, levels))
        .withTrace(PauseTraces.levels(pair, levels))
        .withSpectrum(new BandSpectrum(places.hz(), perBand(pair, levels), perBand(pair, before)))
        .withSpots(places.spots(true, PauseGround.FLOOR_DB + 1, 1))
        .withNotes(notes(levels));
  }

  private static List<String> notes(PauseLevels levels) {
    return levels.silentShare() > 0
        ? List.of(
            String.format(
                java.util.Locale.ROOT,
                "%.0f %% of the pauses are digital silence or as quiet; counted as −80 dB",
                100 * levels.silentShare()))
        : List.of();
  }

  private static List<Detail> details(Pair pair, PauseLevels levels) {
    List<Detail> details = new ArrayList<>();
    details.add(new Detail("dBFS", Db.ofPower(levels.meanPower()), "dBFS"));
    details.add(new Detail("dBA", Db.ofPower(levels.meanWeightedPower()), "dBFS"));
    double floor = pair.source().pauses().wantedPower() * Db.toPower(PauseGround.FLOOR_DB);
    details.add(
        new Detail("peak", Math.max(Db.ofPower(floor), Db.ofAmplitude(peak(pair))), "dBFS"));
    if (levels.silentShare() > 0) {
      details.add(new Detail("silent", 100 * levels.silentShare(), "%"));
    }
    return details;
  }

  private static double peak(Pair pair) {
    Audio version = pair.version().audio();
    int rate = version.sampleRate();
    double peak = 0;
    for (TimeSpan pause : pair.source().pauses().activity().pauses()) {
      long from = Math.round(pause.from() * rate);
      int length = (int) (Math.round(pause.to() * rate) - from);
      for (int c = 0; c < version.channels(); c++) {
        for (float x : version.samples(c, from, length)) {
          peak = Math.max(peak, Math.abs(x));
        }
      }
    }
    return peak;
  }

  private static PlaceGrid places(Pair pair, PauseLevels levels) {
    PlaceGrid places = new PlaceGrid(pair.timeline(), pair.bands().count());
    double wanted = pair.source().pauses().wantedPower();
    for (int i = 0; i < levels.count(); i++) {
      for (int b = 0; b < pair.bands().count(); b++) {
        if (PauseTraces.judged(pair, b)) {
          double db = Db.ofPower(Math.max(levels.bandPower(i, b), 1e-30) / wanted);
          places.add(levels.frame(i), b, Math.max(PauseGround.FLOOR_DB, db), 1);
        }
      }
    }
    return places;
  }

  private static double[] perBand(Pair pair, PauseLevels levels) {
    double[] values = new double[pair.bands().count()];
    for (int b = 0; b < values.length; b++) {
      if (!pair.bands().hasBins(b)) {
        values[b] = Double.NaN;
        continue;
      }
      double db =
          Db.ofPower(
              Math.max(levels.meanBandPower(b), 1e-30) / pair.source().pauses().wantedPower());
      values[b] = Math.max(PauseGround.FLOOR_DB, db);
    }
    return values;
  }
}
