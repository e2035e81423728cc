package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import java.util.Arrays;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.signal.Db;

/** What is in a stem that is neither its role nor another. */
@AutoService(Measure.class)
public final class Artifacts implements SetMeasure {
  private static final double LEAST = 1e-4;
  private static final double SPOT_DB = -12;
  private static final Declaration DECLARATION =
      new Declaration(
          "artifacts",
          "Artifacts",
          Axis.ADDED.in(Job.STEMS),
          "dB",
          false,
          "How far what belongs to no role lies under this one: watery, torn or smeared sound, what"
              + " a wrong phase makes of a right level. At 0 dB it is as loud as the role, under"
              + " −20 dB it is hard to hear.",
          "By true stems: artifacts of the separation evaluation, SAR, turned round. Else the"
              + " estimated error (est-sdr) less what leaked and what is lacking, against the role's"
              + " energy. Scored: the points that the whole error costs, by the share of its energy"
              + " that is artifacts. Course, bands and spots: the error of each second and"
              + " third-octave.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public String scoredUnit() {
    return "points";
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    StemVerdict verdict = StemVerdict.of(set, role);
    Reading reading = verdict.reading(DECLARATION.id(), StemVerdict.Kind.ADDED);
    StemErrors errors = set.together().shared(StemErrors.OF);
    RoleErrors own = errors.role(role);
    int place = own == null ? -1 : own.place(set.together().tools().indexOf(set.stems()));
    if (place < 0) {
      return reading;
    }
    int bands = set.source().bands().count();
    PlaceGrid places = new PlaceGrid(set.source().timeline(), bands);
    int slotFrames = set.source().source().framing().framesIn(0.1);
    double[][] error = own.errors(place);
    double[][] power = own.powers();
    double loud = 0;
    for (double[] block : power) {
      loud += Arrays.stream(block).sum() / block.length / power.length;
    }
    for (int s = 0; s < set.source().timeline().slots(); s++) {
      int block = set.source().timeline().blockOfSlot(s);
      for (int b = 0; b < bands; b++) {
        if (power[block][b] > 0) {
          double db = Db.ofPower(Math.max(LEAST, error[block][b] / power[block][b]));
          places.add(s * slotFrames, b, Math.min(20, db), power[block][b]);
        }
      }
    }
    return reading
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, SPOT_DB, loud));
  }
}
