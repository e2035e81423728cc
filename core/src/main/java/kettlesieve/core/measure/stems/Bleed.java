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

  /** What is expected of a stem's own content is known to about this share of it. */
  private static final double DOUBT = 0.5;

  /** Standard deviations of what chance may make. */
  private static final double SURE = 2;

  private static final double LEAST = 1e-6;
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
          "In the cells of the mix that belong to another role, by slots of 0.1 s and"
              + " third-octaves: what of the stem is in phase with the mix, less what the stem's"
              + " own material has there by expectation, and what is left of its power beyond twice"
              + " that; against the mix's power in those cells, per role, and their sum over roles.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  /** What one role leaves in the stem. */
  private static final class Leak {
    final String role;
    final double[] left;
    final double[] own;
    final double[] mix;
    final PlaceGrid places;
    double floor;

    /** What a slot and band hold on average: softer ones are no spot worth hearing. */
    double loud;

    Leak(StemSet set, String role) {
      this.role = role;
      int blocks = set.source().timeline().blocks();
      left = new double[blocks];
      own = new double[blocks];
      mix = new double[blocks];
      places = new PlaceGrid(set.source().timeline(), set.source().bands().count());
    }

    double ratio(int[] w) {
      double part = 0;
      double beyond = 0;
      double all = 0;
      for (int b = 0; b < w.length; b++) {
        part += w[b] * left[b];
        beyond += w[b] * own[b];
        all += w[b] * mix[b];
      }
      return all > 0 ? Math.max(floor, (part + Math.max(0, beyond)) / all) : Double.NaN;
    }
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    if (role.isEmpty()) {
      throw new NotMeasurableException("it is measured role by role");
    }
    StemEnergies pass = set.shared(RoleTiles.PASS);
    Optional<String> problem = set.cells().problem(role);
    if (problem.isPresent()) {
      throw new NotMeasurableException(problem.get());
    }
    List<Leak> leaks = new ArrayList<>();
    for (String offender : set.cells().offenders(role)) {
      Leak leak = leak(set, pass, role, offender);
      if (leak != null) {
        leaks.add(leak);
      }
    }
    if (leaks.isEmpty()) {
      throw new NotMeasurableException(
          "there is too little in the mix that belongs to another role alone");
    }
    double floor = leaks.stream().mapToDouble(l -> l.floor).sum();
    Estimate sum =
        set.source()
            .bootstrap()
            .estimate(
                w -> {
                  double all = 0;
                  for (Leak l : leaks) {
                    double ratio = l.ratio(w);
                    all += Double.isNaN(ratio) ? l.floor : ratio;
                  }
                  return Db.ofPower(Math.max(LEAST, all));
                });
    List<Share> shares = new ArrayList<>();
    List<Detail> details = new ArrayList<>();
    Leak worst = leaks.get(0);
    for (Leak l : leaks) {
      Estimate own =
          set.source().bootstrap().estimate(w -> Db.ofPower(Math.max(LEAST, l.ratio(w))));
      Limit limit =
          own.value() <= Db.ofPower(Math.max(LEAST, l.floor)) + 0.01
              ? Limit.AT_OR_BELOW
              : Limit.NONE;
      Evidence evidence =
          new Evidence(
              l.places.trace(),
              new BandSpectrum(l.places.hz(), l.places.perBand(), new double[0]),
              l.places.spots(true, Math.max(-30, own.value()), l.loud));
      shares.add(new Share(l.role, new Figure(own, own, limit), evidence));
      details.add(new Detail(l.role, own.value(), "dB"));
      worst = l.ratio(ones(l)) > worst.ratio(ones(worst)) ? l : worst;
    }
    details.add(new Detail("floor", Db.ofPower(Math.max(LEAST, floor)), "dB"));
    Limit limit =
        shares.stream().allMatch(s -> s.figure().limit() == Limit.AT_OR_BELOW)
            ? Limit.AT_OR_BELOW
            : Limit.NONE;
    String first = worst.role;
    Evidence evidence =
        shares.stream().filter(s -> s.role().equals(first)).findFirst().orElseThrow().evidence();
    return new Reading(
        DECLARATION.id(),
        new Figure(sum, sum, limit),
        details,
        evidence,
        shares,
        List.of("cells told by " + set.cells().by().words()));
  }

  private static int[] ones(Leak l) {
    int[] ones = new int[l.mix.length];
    java.util.Arrays.fill(ones, 1);
    return ones;
  }

  private static Leak leak(StemSet set, StemEnergies pass, String role, String offender) {
    int r = pass.role(role);
    int o = pass.owner(offender);
    int bands = pass.bands();
    Leak leak = new Leak(set, offender);
    double floor = 0;
    double scatter = 0;
    double all = 0;
    double cells = 0;
    int tiles = 0;
    int slotFrames = set.source().source().framing().framesIn(0.1);
    for (int s = 0; s < pass.timeline().slots(); s++) {
      int block = pass.timeline().blockOfSlot(s);
      for (int b = 0; b < bands; b++) {
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
        leak.left[block] += power;
        leak.own[block] += rest;
        leak.mix[block] += mix;
        double shown = Math.max(LEAST, (power + Math.max(0, rest)) / mix);
        leak.places.add(s * slotFrames, b, Db.ofPower(shown), mix);
        floor += mix * Math.pow(DOUBT * own, 2);
        scatter += Math.pow(mix * chance, 2);
        all += mix;
        tiles++;
        cells += pass.cells(o, s, b);
      }
    }
    leak.loud = tiles > 0 ? all / tiles : 0;
    // Chance evens out over many slots and bands; what is expected wrongly does not.
    leak.floor = all > 0 ? (floor + SURE * Math.sqrt(scatter)) / all : 0;
    return cells >= FEWEST_CELLS ? leak : null;
  }
}
