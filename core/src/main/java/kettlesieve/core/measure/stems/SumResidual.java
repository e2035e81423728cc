package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.BlockRatio;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.pass.StemEnergies;
import kettlesieve.core.signal.Db;

/** The null test: whether the stems add up to the mix. */
@AutoService(Measure.class)
public final class SumResidual implements SetMeasure {
  private static final double LEAST = 1e-15;
  private static final double LEFT_OUT_DB = -3;
  private static final double CLEARLY_DB = 3;
  private static final double LATE_SECONDS = 0.0001;
  private static final double OFF_DB = 0.1;
  private static final Declaration DECLARATION =
      new Declaration(
          "sum-residual",
          "Sum residual",
          Axis.INFO.in(Job.STEMS),
          "dB",
          false,
          "What is left when all stems are taken from the mix. Under −90 dB they add up; more than"
              + " −20 dB is a role that is in no stem, or one whose level was changed.",
          "Power of the mix minus the sum of all stems over the power of the mix, sample by sample."
              + " Course and bands: the same by spectra. Details: the same"
              + " in the cells of each role, and `fitted`, what is left once each stem has the delay"
              + " (±0.1 s) and the gain that suit it best.",
          "The null test is common practice.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  /** Sample by sample, over the whole band: what lies under the lowest band is left, too. */
  private static BlockRatio inTime(StemSet set) {
    BlockRatio left = new BlockRatio(set.source());
    Audio mix = set.mix();
    Audio rest = SumAudio.remainder(mix, List.of(set.sum()));
    int hop = set.source().source().framing().hop();
    int frames = set.source().timeline().frames();
    float[] x = new float[hop];
    for (int c = 0; c < mix.channels(); c++) {
      for (long at = 0; at < mix.frames(); at += hop) {
        if (at % (512L * hop) == 0) {
          set.stop().check();
        }
        int n = (int) Math.min(hop, mix.frames() - at);
        double whole = 0;
        double over = 0;
        mix.read(c, at, x, 0, n);
        for (int i = 0; i < n; i++) {
          whole += x[i] * x[i];
        }
        rest.read(c, at, x, 0, n);
        for (int i = 0; i < n; i++) {
          over += x[i] * x[i];
        }
        int frame = (int) Math.min(frames - 1L, at / hop);
        left.add(set.source().timeline().block(frame), over, whole);
      }
    }
    return left;
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    if (!role.isEmpty()) {
      throw new NotMeasurableException("it is a matter of all stems together");
    }
    StemEnergies pass = set.shared(RoleTiles.PASS);
    double total = 0;
    int tiles = 0;
    PlaceGrid places = new PlaceGrid(set.source().timeline(), pass.bands());
    int slotFrames = set.source().source().framing().framesIn(0.1);
    for (int s = 0; s < pass.timeline().slots(); s++) {
      for (int b = 0; b < pass.bands(); b++) {
        double whole = pass.whole(s, b);
        total += whole;
        tiles++;
        if (whole > 0) {
          double share = Math.max(LEAST, pass.residual(s, b) / whole);
          places.add(s * slotFrames, b, Db.ofPower(share), whole);
        }
      }
    }
    Estimate estimate = inTime(set).estimate(share -> Db.ofPower(Math.max(LEAST, share)));
    List<Detail> details = new ArrayList<>();
    List<String> notes = new ArrayList<>();
    for (String owner : set.cells().owners()) {
      double share = pass.leftOf(pass.owner(owner));
      if (Double.isFinite(share)) {
        double db = Db.ofPower(Math.max(LEAST, share));
        details.add(new Detail(owner, db, "dB"));
        if (db > LEFT_OUT_DB && !set.stems().stems().containsKey(owner)) {
          notes.add("what is left holds " + owner + ": it is in no stem");
        }
      }
    }
    NullFit fit = set.shared(NullFit.OF);
    if (Double.isFinite(fit.leftDb())) {
      details.add(new Detail("fitted", fit.leftDb(), "dB"));
    }
    boolean better = fit.leftDb() < estimate.value() - CLEARLY_DB;
    for (NullFit.Suited stem : better ? fit.suited() : List.<NullFit.Suited>of()) {
      boolean late = Math.abs(stem.lateSeconds()) > LATE_SECONDS;
      boolean off = Math.abs(stem.gainDb()) > OFF_DB;
      if (late || off) {
        notes.add(
            String.format(
                Locale.ROOT,
                "%s is%s%s%s: a matter of level and delay, not of loss",
                stem.role(),
                off ? String.format(Locale.ROOT, " %+.1f dB off", -stem.gainDb()) : "",
                late && off ? " and" : "",
                late
                    ? String.format(
                        Locale.ROOT,
                        " %.2f ms %s",
                        Math.abs(1000 * stem.lateSeconds()),
                        stem.lateSeconds() > 0 ? "late" : "early")
                    : ""));
      }
    }
    return Reading.of(DECLARATION.id(), estimate)
        .withDetails(details)
        .withNotes(notes)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, estimate.value() + 6, total / Math.max(1, tiles)));
  }
}
