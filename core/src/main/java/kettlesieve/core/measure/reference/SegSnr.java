package kettlesieve.core.measure.reference;

import com.google.auto.service.AutoService;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockMeans;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.signal.Db;

/** Signal-to-noise ratio of short frames against the clean recording. */
@AutoService(Measure.class)
public final class SegSnr implements PairMeasure {
  private static final double FRAME_SECONDS = 0.030;
  private static final double LEAST_DB = -10;
  private static final double LARGEST_DB = 35;
  private static final Declaration DECLARATION =
      new Declaration(
          "seg-snr",
          "Segmental SNR",
          Axis.INFO.in(Job.DENOISE, Job.DEREVERB),
          "dB",
          true,
          "How much stronger the clean recording is than the difference to it, moment by "
              + "moment, so that soft words count as much as loud ones.",
          "10·log10(Σr² / Σ(r − v)²) of frames of 30 ms with wanted sound, each held "
              + "between −10 and 35 dB, mean over the frames.",
          "Hansen & Pellom, \"An effective quality evaluation protocol for speech "
              + "enhancement algorithms\", ICSLP 1998.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Audio reference = pair.needReference();
    Audio version = pair.version().audio();
    int length = (int) Math.round(FRAME_SECONDS * version.sampleRate());
    BlockMeans means = new BlockMeans(pair);
    PlaceGrid places = PlaceGrid.ofTime(pair.timeline(), 20, version.sampleRate() / 2.0);
    for (long at = pair.firstSample(); at + length <= pair.endSample(); at += length) {
      int frame = pair.frameOf(at);
      if (!pair.source().pauses().activity().active(frame)) {
        continue;
      }
      double energy = 0;
      double error = 0;
      for (int c = 0; c < version.channels(); c++) {
        float[] r = reference.samples(c, at, length);
        float[] v = version.samples(c, at, length);
        for (int i = 0; i < length; i++) {
          energy += (double) r[i] * r[i];
          error += ((double) r[i] - v[i]) * ((double) r[i] - v[i]);
        }
      }
      if (energy > 0) {
        double db = Db.ofPower(energy / Math.max(error, 1e-30));
        double held = Math.max(LEAST_DB, Math.min(LARGEST_DB, db));
        means.add(frame, held);
        places.add(frame, 0, held, 1);
      }
    }
    if (means.none()) {
      throw new NotMeasurableException("no wanted sound was found in the clean recording");
    }
    Estimate estimate = means.estimate();
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpots(places.spots(false, estimate.value() - 5, 1));
  }
}
