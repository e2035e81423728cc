package kettlesieve.core.measure.reference;

import com.google.auto.service.AutoService;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
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
import kettlesieve.core.signal.Spectrogram;

/** Log-spectral distance to the clean recording. */
@AutoService(Measure.class)
public final class Lsd implements PairMeasure {
  private static final double DEPTH_DB = -60;
  private static final Declaration DECLARATION =
      new Declaration(
          "lsd",
          "Log-spectral distance",
          Axis.INFO.in(Job.DENOISE, Job.DEREVERB, Job.DECLIP),
          "dB",
          true,
          "How far the spectrum lies from that of the clean recording, frame by frame. 0 "
              + "dB: the same; from about 2 dB on it is plainly heard.",
          "Root of the mean over 50 Hz to 16 kHz of the squared difference of levels in "
              + "dB, mean over frames with wanted sound; levels not under 60 dB below the "
              + "strongest cell of the clean frame.",
          "Gray & Markel, \"Distance measures for speech processing\", IEEE Trans. ASSP 24, "
              + "1976.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    pair.needReference();
    List<Spectrogram> reference = pair.ofSource(ReferenceSpectra.OF);
    int low = pair.framing().binAtOrAbove(50);
    int high = pair.framing().binAtOrBelow(Math.min(16_000, 0.45 * pair.framing().sampleRate()));
    BlockMeans means = new BlockMeans(pair);
    PlaceGrid places = new PlaceGrid(pair.timeline(), pair.bands().count());
    PlaceGrid time = PlaceGrid.ofTime(pair.timeline(), 50, 16_000);
    float gain = (float) pair.version().powerGain();
    for (int c = 0; c < pair.channels(); c++) {
      for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
        if (!pair.source().pauses().activity().active(t)) {
          continue;
        }
        float[] r = reference.get(c).powers(t);
        float[] v = pair.versionSpectrum(c).powers(t);
        float strongest = 0;
        for (int k = low; k <= high; k++) {
          strongest = Math.max(strongest, r[k]);
        }
        if (!(strongest > 1e-20)) {
          continue;
        }
        float floor = (float) (strongest * Db.toPower(DEPTH_DB));
        double squares = 0;
        int band = -1;
        double inBand = 0;
        int bins = 0;
        for (int k = low; k <= high; k++) {
          float ratio = Math.max(floor, gain * v[k]) / Math.max(floor, r[k]);
          double d = Db.nearlyOfPower(ratio);
          squares += d * d;
          if (pair.bands().ofBin(k) != band) {
            if (band >= 0 && bins > 0) {
              places.add(t, band, inBand / bins, bins);
            }
            band = pair.bands().ofBin(k);
            inBand = 0;
            bins = 0;
          }
          inBand += d * d;
          bins++;
        }
        if (band >= 0) {
          places.add(t, band, inBand / bins, bins);
        }
        double distance = Math.sqrt(squares / (high - low + 1));
        means.add(t, distance);
        time.add(t, 0, distance, 1);
      }
    }
    if (means.none()) {
      throw new NotMeasurableException("no wanted sound was found in the clean recording");
    }
    Estimate estimate = means.estimate();
    double[] perBand = java.util.Arrays.stream(places.perBand()).map(Math::sqrt).toArray();
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(time.trace())
        .withSpectrum(new BandSpectrum(places.hz(), perBand, new double[0]))
        .withSpots(time.spots(true, estimate.value() + 2, 1));
  }
}
