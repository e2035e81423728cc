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

/** How much of a version is the clean recording. */
@AutoService(Measure.class)
public final class Sdr implements PairMeasure, SetMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "sdr",
          "SDR",
          Axis.INFO.in(Job.DENOISE, Job.DEREVERB, Job.DECLIP, Job.STEMS),
          "dB",
          true,
          "How much stronger the clean recording is than noise, damage and artifacts "
              + "together. Steady filtering of up to 512 taps is forgiven.",
          "10·log10 of the energy of the version's projection on the clean recording "
              + "(filters of 512 taps) over that of the rest; details: as sources and, in "
              + "stereo, as images, which is then the value. For declip the plain ratio |r|² / "
              + "|r − v|².",
          "Vincent, Gribonval & Févotte, IEEE Trans. Audio, Speech, Lang. Process. 14, "
              + "2006. Declip: Záviška et al. 2021.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    if (pair.job() == Job.DECLIP) {
      return plain(pair);
    }
    return SeparationReading.of(DECLARATION.id(), pair, SeparationSums.Kind.SDR);
  }

  /** Of a stem against the true ones. */
  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    return SeparationReading.of(DECLARATION.id(), set, role, SeparationSums.Kind.SDR);
  }

  /** Without filters: the error of a repair is what differs, sample by sample. */
  private static Reading plain(Pair pair) throws NotMeasurableException {
    Audio reference = pair.needReference();
    SlotSums sums = new SlotSums(pair, 2);
    sums.walk(
        reference,
        (r, v, slot) -> {
          slot[0] += r * r;
          slot[1] += (r - v) * (r - v);
        });
    Estimate estimate = sums.estimate(s -> SiSdr.boundedDb(s[0], s[1]));
    PlaceGrid places = sums.places(s -> SiSdr.boundedDb(s[0], s[1]));
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpots(places.spots(false, estimate.value() - 3, 1));
  }
}
