package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.cells.VoiceChanges;

/** How much the clear voice itself was changed. */
@AutoService(Measure.class)
public final class VoiceDistortion implements PairMeasure {
  private static final int ENOUGH = 100;
  private static final double NOTABLE_DB = -15;
  private static final Declaration DECLARATION =
      new Declaration(
          "voice-distortion",
          "Voice distortion",
          Axis.LOST.in(Job.DENOISE),
          "dB",
          false,
          "How much the voice itself was changed where it clearly stands above the noise: how far"
              + " the change lies under it. Under −30 dB hardly any; from −15 dB on the voice"
              + " sounds processed.",
          "Gain of third-octaves of frames that stand 10 dB over the noise, read as V·V* over Re(V·S*),"
              + " in which noise that was taken away does not count; squared difference from its median"
              + " in the band, less what chance explains (N/(2·n·D) over n bins), averaged over 0.3 s, in"
              + " dB, held between −35 and −6; mean, weighted by power to the power 0.25; at most 600 frames"
              + " of a channel. Where what was taken has phases of its own it is no change.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    VoiceChanges changes = pair.shared(VoiceChanges.OF);
    if (changes.count() < ENOUGH) {
      throw new NotMeasurableException("too little of the voice stands 10 dB above the noise");
    }
    PlaceGrid places = changes.places();
    return Reading.of(DECLARATION.id(), changes.mean())
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, NOTABLE_DB, 1e-9));
  }
}
