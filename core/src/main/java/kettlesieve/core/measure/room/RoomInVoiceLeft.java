package kettlesieve.core.measure.room;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;

/** Reverberation that lies within the voice, under its own sound. */
@AutoService(Measure.class)
public final class RoomInVoiceLeft implements PairMeasure {
  private static final int ENOUGH = 300;
  private static final Declaration DECLARATION =
      new Declaration(
          "room-in-voice",
          "Room in the voice",
          Axis.MISSED.in(Job.DEREVERB),
          "dB",
          false,
          "How much of the room is still mixed into the voice itself, where turning parts of it down"
              + " cannot take it away. 0 dB: as much as before; −10 dB: hardly any. Tools that only"
              + " turn the spectrum up and down stay near 0.",
          "Wanted cells, in tiles of a third-octave by 0.1 s: what the version holds beside its best"
              + " complex multiple of the source. Twice its power at right angles to the source, less"
              + " 0.8 times what lies along the source in excess of that, over the power of the late"
              + " reverberation: (1 − α)²; the reading is α² times the tiles' gain, −20 dB or more."
              + " Where the tail grew, 1 + |1 − α| stands for α.",
          "Kettle Sieve's own definition; late reverberation: Lebart, Boucher & Denbigh, Acta Acustica"
              + " 87, 2001.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    if (pair.shared(LateCells.OF).ground().dry()) {
      throw new NotMeasurableException("this recording holds hardly any reverberation");
    }
    RoomInVoice cells = pair.shared(RoomInVoice.OF);
    if (cells.count() < ENOUGH) {
      throw new NotMeasurableException("too little of the voice stands above its own room");
    }
    Estimate estimate = pair.bootstrap().estimate(cells::leftDb);
    PlaceGrid places = cells.places();
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, estimate.value() + 3, 1));
  }
}
