package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
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
import kettlesieve.core.measure.room.RoomLosses;

/** Quiet parts of the voice that went with the noise. */
@AutoService(Measure.class)
public final class DetailLoss implements PairMeasure {
  private static final int ENOUGH = 500;
  private static final double DEAD_ZONE_DB = 1;
  private static final Declaration DECLARATION =
      new Declaration(
          "detail-loss",
          "Detail loss",
          Axis.LOST.in(Job.DENOISE, Job.DEREVERB, Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How much of the quiet parts of the voice went with the noise: ends of words, soft"
              + " consonants, weak overtones. From 1 dB on words begin to sound cut; at 5 dB much is"
              + " missing. In dereverb up to 3 dB are the room's own; from 6 dB on the voice is"
              + " thinned.",
          "Loss of each wanted cell, the noise taken off the source first, against that of its"
              + " third-octave as a whole: mean of what exceeds 1 dB, losses held at 30 dB, cells"
              + " weighted by their power to the power 0.25; frames with clicks of the source left"
              + " out. Dereverb: what the energy of cells sank by that stand 2 to 4, 4 to 8 and 8 to 16"
              + " times over late reverberation and noise (5×5 means), mean of the three, 200–8,000"
              + " Hz.",
          "Kettle Sieve's own definition; cells by the mean noise power of the pauses.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return job == Job.DENOISE ? 0.5 : 0;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    return pair.job().inARoom() ? inARoom(pair) : overNoise(pair);
  }

  private static Reading inARoom(Pair pair) throws NotMeasurableException {
    RoomLosses cells = pair.shared(RoomLosses.OF);
    if (cells.count() < ENOUGH) {
      throw new NotMeasurableException("too little of the voice stands above its own room");
    }
    return reading(pair.bootstrap().estimate(cells::lossDb), cells.places(), 4);
  }

  private static Reading overNoise(Pair pair) throws NotMeasurableException {
    CellLosses cells = pair.shared(CellLosses.OF);
    if (cells.count() < ENOUGH) {
      throw new NotMeasurableException("too little of the voice stands above the noise");
    }
    int blocks = pair.timeline().blocks();
    BlockMeans means = new BlockMeans(pair);
    for (int band = 0; band < pair.bands().count(); band++) {
      double usual = cells.usualDb(band);
      for (int block = 0; block < blocks && !Double.isNaN(usual); block++) {
        means.addSum(
            block, cells.over(band, block, usual + DEAD_ZONE_DB), cells.weight(band, block));
      }
    }
    return reading(means.estimate(), cells.places(), 2);
  }

  private static Reading reading(Estimate estimate, PlaceGrid places, double from) {
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, Math.max(from, 2 * estimate.value()), 1e-9));
  }
}
