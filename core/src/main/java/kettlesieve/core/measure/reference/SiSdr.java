package kettlesieve.core.measure.reference;

import java.util.EnumSet;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.measure.Trace;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Db;

/** Scale-invariant signal-to-distortion ratio against the clean recording. */
public final class SiSdr implements Measure {
  private static final double LARGEST_DB = 100;
  private static final Declaration DECLARATION =
      new Declaration(
          "si-sdr",
          "SI-SDR",
          Axis.INFO,
          "dB",
          EnumSet.of(Job.DENOISE, Job.DEREVERB, Job.DECLIP),
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
    Audio reference =
        pair.reference().orElseThrow(() -> new NotMeasurableException("no reference"));
    Audio version = pair.version().audio();
    Timeline timeline = pair.timeline();
    int blocks = timeline.blocks();
    double[][] sums = new double[blocks][3];
    int hop = pair.framing().hop();
    int rate = version.sampleRate();
    double start = pair.source().startSeconds();
    long first = Math.round((pair.version().match().coveredFrom() - start) * rate);
    long end = Math.round((pair.version().match().coveredTo() - start) * rate);
    double[] seconds = new double[timeline.slots()];
    double[][] slotSums = new double[timeline.slots()][3];
    for (int c = 0; c < version.channels(); c++) {
      for (long at = first; at < end; at += hop) {
        int length = (int) Math.min(hop, end - at);
        float[] v = version.samples(c, at, length);
        float[] r = reference.samples(c, at, length);
        int frame = (int) Math.min(timeline.frames() - 1, at / hop);
        double[] block = sums[timeline.block(frame)];
        double[] slot = slotSums[timeline.slot(frame)];
        for (int i = 0; i < length; i++) {
          add(block, v[i], r[i]);
          add(slot, v[i], r[i]);
        }
      }
    }
    Estimate estimate =
        pair.bootstrap()
            .estimate(
                w -> {
                  double[] total = new double[3];
                  for (int b = 0; b < blocks; b++) {
                    for (int i = 0; i < 3; i++) {
                      total[i] += w[b] * sums[b][i];
                    }
                  }
                  return ratioDb(total[0], total[1], total[2]);
                });
    if (!Double.isFinite(estimate.value())) {
      throw new NotMeasurableException("the reference or the version is silent here");
    }
    double[] values = new double[seconds.length];
    for (int s = 0; s < seconds.length; s++) {
      seconds[s] = timeline.slotMiddle(s);
      values[s] = ratioDb(slotSums[s][0], slotSums[s][1], slotSums[s][2]);
    }
    return Reading.of(DECLARATION.id(), estimate).withTrace(new Trace(seconds, values));
  }

  private static void add(double[] sums, double v, double r) {
    sums[0] += v * r;
    sums[1] += r * r;
    sums[2] += v * v;
  }
}
