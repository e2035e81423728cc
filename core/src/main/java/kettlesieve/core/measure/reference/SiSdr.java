package kettlesieve.core.measure.reference;

import com.google.auto.service.AutoService;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.signal.Db;

/** Scale-invariant signal-to-distortion ratio against the clean recording. */
@AutoService(Measure.class)
public final class SiSdr implements PairMeasure, SetMeasure {
  private static final double LARGEST_DB = 100;
  private static final int READ = 4096;
  private static final Declaration DECLARATION =
      new Declaration(
          "si-sdr",
          "SI-SDR",
          Axis.INFO.in(Job.DENOISE, Job.DEREVERB, Job.DECLIP, Job.STEMS),
          "dB",
          true,
          "How much stronger the clean recording is in the version than everything else. It counts"
              + " leftover noise, damage and filtering alike; above 30 dB small filtering rules it.",
          "α = ⟨v, r⟩ / ⟨r, r⟩; 10·log10(|αr|² / |αr − v|²) with v the matched version and r the"
              + " clean recording; not above 100 dB.",
          "Le Roux, Wisdom, Erdogan & Hershey, \"SDR – half-baked or well done?\", ICASSP 2019.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  /**
   * The ratio from the three inner products.
   *
   * @param vr ⟨v, r⟩
   * @param rr ⟨r, r⟩
   * @param vv ⟨v, v⟩
   * @return dB, not above 100; NaN if either signal is silent
   */
  public static double ratioDb(double vr, double rr, double vv) {
    if (!(rr > 0) || !(vv > 0)) {
      return Double.NaN;
    }
    double target = vr * vr / rr;
    double rest = Math.max(vv - target, target * Db.toPower(-LARGEST_DB));
    return target > 0 ? Db.ofPower(target / rest) : -LARGEST_DB;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Audio reference = pair.needReference();
    SlotSums sums = new SlotSums(pair, 3);
    sums.walk(
        reference,
        (r, v, slot) -> {
          slot[0] += v * r;
          slot[1] += r * r;
          slot[2] += v * v;
        });
    Estimate estimate = sums.estimate(s -> ratioDb(s[0], s[1], s[2]));
    if (!Double.isFinite(estimate.value())) {
      throw new NotMeasurableException("the reference or the version is silent here");
    }
    PlaceGrid places = sums.places(s -> ratioDb(s[0], s[1], s[2]));
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpots(places.spots(false, estimate.value() - 3, 1));
  }

  /** Of a stem against the true one, over all channels. */
  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    if (role.isEmpty()) {
      throw new NotMeasurableException("it is measured role by role");
    }
    Audio truth =
        set.truth(role)
            .orElseThrow(() -> new NotMeasurableException("there is no true stem of " + role));
    Audio stem = set.stem(role);
    int blocks = set.source().timeline().blocks();
    double[][] sums = new double[blocks][3];
    float[] r = new float[READ];
    float[] v = new float[READ];
    for (long at = 0; at < truth.frames(); at += READ) {
      int n = (int) Math.min(READ, truth.frames() - at);
      double[] to = sums[(int) Math.min(blocks - 1, at * blocks / truth.frames())];
      for (int c = 0; c < truth.channels(); c++) {
        truth.read(c, at, r, 0, n);
        stem.read(c, at, v, 0, n);
        for (int i = 0; i < n; i++) {
          to[0] += v[i] * r[i];
          to[1] += r[i] * r[i];
          to[2] += v[i] * v[i];
        }
      }
    }
    Estimate estimate =
        set.source()
            .bootstrap()
            .estimate(
                w -> {
                  double[] all = new double[3];
                  for (int b = 0; b < blocks; b++) {
                    for (int i = 0; i < all.length; i++) {
                      all[i] += w[b] * sums[b][i];
                    }
                  }
                  return ratioDb(all[0], all[1], all[2]);
                });
    if (!Double.isFinite(estimate.value())) {
      throw new NotMeasurableException("the true stem or the stem is silent here");
    }
    return Reading.of(DECLARATION.id(), estimate);
  }

  /** Energy over error in dB, not above 100; NaN for silence. */
  static double boundedDb(double energy, double error) {
    return energy > 0
        ? Db.ofPower(energy / Math.max(error, energy * Db.toPower(-LARGEST_DB)))
        : Double.NaN;
  }
}
