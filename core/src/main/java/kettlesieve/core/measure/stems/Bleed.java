package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Evidence;
import kettlesieve.core.measure.Figure;
import kettlesieve.core.measure.Limit;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.Share;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.pass.StemEnergies;
import kettlesieve.core.signal.Db;

/** How loud the other roles are in a stem. */
@AutoService(Measure.class)
public final class Bleed implements SetMeasure {
  /** Cells that overlap by three quarters tell half as much as there are of them. */
  private static final double OVERLAP = 0.5;

  private static final double LEAST = 1e-6;

  /** Without true stems less than this, −30 dB, cannot be told from none. */
  private static final double FLOOR = 1e-3;

  private static final double FEWEST_CELLS = 200;
  private static final Declaration DECLARATION =
      new Declaration(
          "bleed",
          "Bleed",
          Axis.MISSED.in(Job.STEMS),
          "dB",
          false,
          "How far the other roles are down in this stem: a cymbal in the voice, the voice behind"
              + " the piano. At −10 dB it is plainly heard, under −24 dB it hides behind the rest.",
          "Per role, its energy in the stem against its own, and their sum over roles. By true"
              + " stems: the interference of the separation evaluation, by who makes it. Else, by"
              + " third-octaves: regression (ridge 5 %) of the stem on what the other tools agree"
              + " is each role, over the lower tenth of all tools (the least of four or fewer),"
              + " for leakage goes one way. Scored: the points that the whole error costs, by the"
              + " share of its energy that leaked. Spots and course: the cells of the mix that"
              + " belong to the other role.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  /** Where one role is heard in the stem. */
  private static final class Leak {
    final PlaceGrid places;

    /** What a slot and band hold on average: softer ones are no spot worth hearing. */
    double loud;

    Leak(StemSet set) {
      places = new PlaceGrid(set.source().timeline(), set.source().bands().count());
    }
  }

  @Override
  public String scoredUnit() {
    return "points";
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    StemVerdict verdict = StemVerdict.of(set, role);
    Estimate moved = verdict.ratio(StemVerdict.Kind.LEAKED);
    double floor = verdict.byTruth() ? LEAST : FLOOR;
    List<Share> shares = new ArrayList<>();
    List<Detail> details = new ArrayList<>();
    double all = 0;
    double worst = 0;
    Evidence first = Evidence.NONE;
    for (var gain : verdict.gains().entrySet()) {
      double power = Math.max(floor, gain.getValue());
      all += power;
      double db = Db.ofPower(power);
      Limit limit = gain.getValue() <= floor ? Limit.AT_OR_BELOW : Limit.NONE;
      Estimate own = moved.map(x -> db + x - moved.value());
      Evidence evidence = evidence(set, role, gain.getKey(), db);
      Estimate points = verdict.points(gain.getKey());
      shares.add(new Share(gain.getKey(), new Figure(own, points, limit), evidence));
      details.add(new Detail(gain.getKey(), db, "dB"));
      if (power > worst) {
        worst = power;
        first = evidence;
      }
    }
    double db = Db.ofPower(Math.max(LEAST, all));
    Limit limit =
        shares.stream().allMatch(s -> s.figure().limit() == Limit.AT_OR_BELOW)
            ? Limit.AT_OR_BELOW
            : Limit.NONE;
    double least = Math.max(LEAST, floor * verdict.gains().size());
    details.add(new Detail("floor", Db.ofPower(least), "dB"));
    details.add(new Detail("under the role", moved.value(), "dB"));
    if (verdict.byTruth()) {
      byOthers(set, role).ifPresent(x -> details.add(new Detail("without true stems", x, "dB")));
    }
    return new Reading(
        DECLARATION.id(),
        new Figure(
            moved.map(x -> db + x - moved.value()), verdict.points(StemVerdict.Kind.LEAKED), limit),
        details,
        first,
        shares,
        verdict.notes());
  }

  /** What would be read if the true stems were not known. */
  private static Optional<Double> byOthers(StemSet set, String role) {
    try {
      double sum =
          StemVerdict.byOthers(set, role).gains().values().stream()
              .mapToDouble(g -> Math.max(FLOOR, g))
              .sum();
      return Optional.of(Db.ofPower(Math.max(LEAST, sum)));
    } catch (NotMeasurableException e) {
      return Optional.empty();
    }
  }

  /** Where a role is heard in a stem: in the cells of the mix that are its own. */
  private static Evidence evidence(StemSet set, String role, String offender, double db)
      throws NotMeasurableException {
    StemEnergies pass = set.shared(RoleTiles.PASS);
    if (set.cells().problem(role).isPresent() || pass.owner(offender) < 0) {
      return Evidence.NONE;
    }
    Leak leak = leak(set, pass, role, offender);
    return leak == null
        ? Evidence.NONE
        : new Evidence(
            leak.places.trace(),
            new BandSpectrum(leak.places.hz(), leak.places.perBand(), new double[0]),
            leak.places.spots(true, Math.max(-30, db), leak.loud));
  }

  private static Leak leak(StemSet set, StemEnergies pass, String role, String offender) {
    int r = pass.role(role);
    int o = pass.owner(offender);
    Leak leak = new Leak(set);
    double all = 0;
    double cells = 0;
    int tiles = 0;
    int slotFrames = set.source().source().framing().framesIn(0.1);
    for (int s = 0; s < pass.timeline().slots(); s++) {
      for (int b = 0; b < pass.bands(); b++) {
        double mix = pass.mix(o, s, b);
        if (!(mix > 0)) {
          continue;
        }
        double number = Math.max(1, OVERLAP * pass.cells(o, s, b));
        double inPhase = pass.cross(r, o, s, b) / mix;
        double own = set.cells().content(offender, role, s, b);
        double leaked = inPhase - own;
        // By chance the stem's own material is in phase with the mix, too.
        double chance = own / (2 * number);
        double power = mix * (leaked * leaked - chance);
        double rest = pass.energy(r, o, s, b) - mix * (inPhase * inPhase + 2 * own);
        double shown = Math.max(LEAST, (power + Math.max(0, rest)) / mix);
        leak.places.add(s * slotFrames, b, Db.ofPower(shown), mix);
        all += mix;
        tiles++;
        cells += pass.cells(o, s, b);
      }
    }
    leak.loud = tiles > 0 ? all / tiles : 0;
    return cells >= FEWEST_CELLS ? leak : null;
  }
}
