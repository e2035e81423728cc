package kettlesieve.core.measure.room;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.Reading;

/** Reverberation that is heard while the voice goes on. */
@AutoService(Measure.class)
public final class RoomUnderVoice implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "room-under-voice",
          "Room under the voice",
          Axis.MISSED.in(Job.DEREVERB),
          "dB",
          false,
          "How much of the room is still heard between and below the voice while it speaks. 0 dB: "
              + "as much as before; −5 dB: about as dry as a room can be made under a voice.",
          "As room-tail, over cells of late reverberation in frames that hold voice.",
          "Late reverberation: Lebart, Boucher & Denbigh, Acta Acustica 87, 2001.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    LateCells cells = pair.shared(LateCells.OF);
    return RoomTail.ofRoom(DECLARATION.id(), pair, cells, cells.voice());
  }
}
