package kettlesieve.core.measure.voice;

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
import kettlesieve.core.measure.pass.VoiceTiles;
import kettlesieve.core.signal.Db;

/** Noise that lies within the voice, under its own sound. */
@AutoService(Measure.class)
public final class NoiseInVoice implements PairMeasure {
  private static final int ENOUGH = 100;

  /** 6 dB over the noise at least; over 20 dB the noise cannot be told any more. */
  private static final double CLEAR = 4;

  private static final double MOST_CLEAR = 100;

  /** More than noise can be: the tile was torn, and tells nothing. */
  private static final double TORN = 2;

  /** Where less of the noise than that is in whole tiles, nothing was taken off. */
  private static final double LEAST_WHOLE = 0.3;

  private static final double LEAST = 0.05;
  private static final double NOTABLE_DB = -6;
  private static final Declaration DECLARATION =
      new Declaration(
          "noise-in-voice",
          "Noise in the voice",
          Axis.MISSED.in(Job.DENOISE),
          "dB",
          false,
          "How much of the noise is still mixed into the voice itself. 0 dB: as much as before; from"
              + " −13 dB on hardly any. Gates, and tools that only turn down what lies between the"
              + " voice's own partials, read 0 to −5 dB.",
          "Third-octaves by eight frames in which the source is 6 to 20 dB over the noise, half-way"
              + " in decibels between that of the pauses and what it is thought to have risen to:"
              + " power of the version beside its best real multiple of the source, over what it were"
              + " if all noise had been taken off, N·(S − N)/S of the energies of source and noise;"
              + " mean q, weighted by N, of the tiles in which it is 2 or less, 0 where less than"
              + " three tenths of N are in such. The reading is 20·log10(1 − √q), −26 dB or more.",
          "Kettle Sieve's own definition; the same of rooms: room-in-voice.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return 2.5;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    VoiceTiles tiles = pair.shared(VoiceTiles.OF);
    int blocks = pair.timeline().blocks();
    double[] taken = new double[blocks];
    double[] whole = new double[blocks];
    double[] all = new double[blocks];
    PlaceGrid places = new PlaceGrid(pair.timeline(), pair.bands().count());
    int count = 0;
    for (VoiceTiles.Tile tile : tiles.all()) {
      double noise = tile.noise();
      double over = tile.before() / noise;
      if (over < CLEAR || over > MOST_CLEAR) {
        continue;
      }
      count++;
      int block = pair.timeline().block(tile.frame());
      // What is left is a share of the noise's energy: loud moments of it count by that.
      all[block] += noise;
      double q = Math.max(0, tiles.takenOff(tile));
      if (q <= TORN) {
        taken[block] += noise * q;
        whole[block] += noise;
        places.add(tile.frame(), tile.band(), leftDb(q), 1);
      }
    }
    if (count < ENOUGH) {
      throw new NotMeasurableException("too little of the voice stands above the noise");
    }
    Estimate estimate = pair.bootstrap().estimate(w -> leftDb(taken, whole, all, w));
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, Math.max(NOTABLE_DB, estimate.value() + 3), 1));
  }

  private static double leftDb(double[] taken, double[] whole, double[] all, int[] weights) {
    double q = 0;
    double tiles = 0;
    double of = 0;
    for (int b = 0; b < weights.length; b++) {
      q += weights[b] * taken[b];
      tiles += weights[b] * whole[b];
      of += weights[b] * all[b];
    }
    return of > 0 ? leftDb(tiles > LEAST_WHOLE * of ? q / tiles : 0) : Double.NaN;
  }

  private static double leftDb(double taken) {
    return Db.ofAmplitude(Math.max(LEAST, 1 - Math.sqrt(Math.min(1, taken))));
  }
}
