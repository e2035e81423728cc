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

/** How unevenly the cells of a voice were turned down. */
@AutoService(Measure.class)
public final class UnevenGain implements PairMeasure {
  private static final int ENOUGH = 100;

  /** The voice is 3 dB over the noise at least. */
  private static final double STANDS = 2;

  private static final double NOTABLE_DB = -15;
  private static final Declaration DECLARATION =
      new Declaration(
          "uneven-gain",
          "Uneven gain",
          Axis.ADDED.in(Job.DENOISE),
          "dB",
          false,
          "How unevenly the voice was turned up and down from bin to bin and frame to frame: what"
              + " no single gain explains, under the voice. Under −30 dB hardly any; from −15 dB on"
              + " it sounds torn.",
          "1 − Re(V·S*)²/(|V|²·|S|²) of third-octaves by eight frames in which the voice is 3 dB"
              + " over the noise, in dB, held between −35 and 0; mean, weighted by power to the"
              + " power 0.25; 150 runs of eight frames. Where noise was taken off, and cells not"
              + " turned down, it is no unevenness.",
          "Magnitude-squared coherence: Carter, \"Coherence and time delay estimation\", Proc."
              + " IEEE 75, 1987; as a ratio of signal to distortion: Kates & Arehart, J. Acoust."
              + " Soc. Am. 117, 2005. Tiles, weights and the exception are Kettle Sieve's own.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return 3;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    TileMeans uneven =
        new TileMeans(
            pair,
            STANDS,
            tile ->
                1
                    - tile.along()
                        * tile.along()
                        / (tile.before() * Math.max(tile.after(), 1e-12 * tile.before())),
            0);
    if (uneven.count() < ENOUGH) {
      throw new NotMeasurableException("too little of the voice stands above the noise");
    }
    PlaceGrid places = uneven.places();
    return Reading.of(DECLARATION.id(), uneven.mean())
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, NOTABLE_DB, 1e-9));
  }
}
