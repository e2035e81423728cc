package kettlesieve.core.measure.voice;

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
import kettlesieve.core.measure.pass.VoiceTiles;

/** How much the voice itself was changed. */
@AutoService(Measure.class)
public final class VoiceDistortion implements PairMeasure {
  private static final int ENOUGH = 100;

  /** The voice is as strong as the noise at least. */
  private static final double STANDS = 1;

  private static final double MOST_DB = -6;
  private static final double NOTABLE_DB = -15;
  private static final Declaration DECLARATION =
      new Declaration(
          "voice-distortion",
          "Voice distortion",
          Axis.LOST.in(Job.DENOISE),
          "dB",
          false,
          "How much the voice itself was changed: how far the change lies under it. Under −30 dB"
              + " hardly any; from −15 dB on the voice sounds processed.",
          "Gain of third-octaves by eight frames in which the voice is as strong as the noise, read as"
              + " V·V* over Re(V·S*), in which noise that was taken away does not count; squared"
              + " difference from its median in the band (of tiles 6 dB over the noise), less what"
              + " chance explains (N/(2·n·D) over n cells, of which half tell something new), in dB,"
              + " held between −35 and −6; mean, weighted by power to the power 0.25; 150 runs of"
              + " eight frames. Where noise was taken off, and cells not turned down, it is no change.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return 0.75;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    VoiceTiles tiles = pair.shared(VoiceTiles.OF);
    TileMeans changes =
        new TileMeans(
            pair,
            STANDS,
            tile -> {
              double off = 1 - tiles.gain(tile);
              double chance = tile.quiet() / (tile.own() * tile.cells());
              return Math.min(1, off * off) - chance;
            },
            MOST_DB);
    if (changes.count() < ENOUGH) {
      throw new NotMeasurableException("too little of the voice stands above the noise");
    }
    PlaceGrid places = changes.places();
    return Reading.of(DECLARATION.id(), changes.mean())
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, NOTABLE_DB, 1e-9));
  }
}
