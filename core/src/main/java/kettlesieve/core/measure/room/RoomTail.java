package kettlesieve.core.measure.room;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.RoomDecay;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.DecayTime;

/** Reverberation that follows the voice. */
@AutoService(Measure.class)
public final class RoomTail implements PairMeasure {
  private static final int ENOUGH_OFFSETS = 5;
  private static final double QUIET_SECONDS = 0.25;
  private static final Declaration DECLARATION =
      new Declaration(
          "room-tail",
          "Room tail",
          Map.of(Job.DENOISE, Axis.INFO, Job.DEREVERB, Axis.MISSED),
          "dB",
          false,
          "How much of the room is still heard after each word. 0 dB: as much as before; "
              + "−12 dB: dry. Noise in the pauses hides it.",
          "Dereverb: gain of the powers smoothed over 5×5 cells, −40 to +20 dB, over cells of late "
              + "reverberation in frames without voice; median of each third-octave with 50 or more "
              + "cells, less that of the wanted cells there, mean over three or more; details: decay time of each octave. Denoise: level (200–8,000 Hz) 60 to 250 ms after wanted sound ends, against the 250 ms "
              + "before, version minus source, median; details: early decay time of version and "
              + "source by backward integration of the mean decay.",
          "Late reverberation: Lebart, Boucher & Denbigh, Acta Acustica 87, 2001; early decay time: "
              + "ISO 3382-1 (Schroeder integration).");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    if (!pair.job().inARoom()) {
      return afterWords(pair);
    }
    LateCells cells = pair.shared(LateCells.OF);
    double[] seconds = cells.ground().decay().seconds();
    List<Detail> details = new ArrayList<>();
    for (int o = 0; o < seconds.length; o++) {
      put(details, RoomDecay.octaveHz(o) + " Hz", seconds[o]);
    }
    return ofRoom(DECLARATION.id(), pair, cells, cells.tail()).withDetails(details);
  }

  /** What became of late reverberation, judged on some of its cells. */
  static Reading ofRoom(String id, Pair pair, LateCells cells, LateCells.Gains gains)
      throws NotMeasurableException {
    if (cells.ground().dry()) {
      throw new NotMeasurableException("this recording holds hardly any reverberation");
    }
    if (gains.usable() < LateCells.FEWEST_BANDS) {
      throw new NotMeasurableException("noise covers the reverberation");
    }
    Estimate estimate = pair.bootstrap().estimate(draw -> gains.meanDb(draw, cells.wanted()));
    PlaceGrid places = gains.places();
    return Reading.of(id, estimate)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), gains.perBand(cells.wanted()), new double[0]))
        .withSpots(places.spots(true, estimate.value() + 3, 1));
  }

  private static Reading afterWords(Pair pair) throws NotMeasurableException {
    FrameLevels energies = pair.shared(FrameLevels.OF);
    int from = pair.framing().framesIn(0.06);
    int to = pair.framing().framesIn(0.25);
    BlockHistograms tails = new BlockHistograms(pair.timeline(), -60, 40, 0.1);
    PlaceGrid places = PlaceGrid.ofTime(pair.timeline(), 200, 8000);
    double[] decayBefore = new double[2 * to];
    double[] decayAfter = new double[2 * to];
    int count = 0;
    for (int offset : pair.source().pauses().activity().offsets(QUIET_SECONDS)) {
      if (offset - to < pair.firstFrame() || offset + to >= pair.endFrame()) {
        continue;
      }
      double source = ratio(energies, offset, from, to, false);
      double version = ratio(energies, offset, from, to, true);
      if (source > 0 && version >= 0) {
        double db = Math.max(-60, Db.ofPower(Math.max(version, 1e-12) / source));
        tails.add(pair.timeline().block(offset), db, 1);
        places.add(offset + from, 0, db, 1);
        count++;
        for (int i = 0; i < 2 * to; i++) {
          decayBefore[i] += energies.source(offset - to + i);
          decayAfter[i] += energies.version(offset - to + i);
        }
      }
    }
    if (count < ENOUGH_OFFSETS) {
      throw new NotMeasurableException(
          "the voice ends fewer than five times with a quarter of a second of pause after it");
    }
    Estimate estimate = pair.bootstrap().estimate(tails::median);
    List<Detail> details = new ArrayList<>();
    double hop = pair.framing().hopSeconds();
    put(details, "decay", DecayTime.early(decayAfter, hop));
    put(details, "source", DecayTime.early(decayBefore, hop));
    return Reading.of(DECLARATION.id(), estimate)
        .withDetails(details)
        .withTrace(places.trace())
        .withSpots(places.spots(true, estimate.value() + 3, 1));
  }

  private static void put(List<Detail> details, String key, double seconds) {
    if (Double.isFinite(seconds)) {
      details.add(new Detail(key, seconds, "s"));
    }
  }

  private static double ratio(FrameLevels energies, int offset, int from, int to, boolean version) {
    double tail = 0;
    double before = 0;
    for (int i = 0; i < to; i++) {
      int earlier = offset - 1 - i;
      before += version ? energies.version(earlier) : energies.source(earlier);
      if (i >= from) {
        tail += version ? energies.version(offset + i) : energies.source(offset + i);
      }
    }
    return before > 0 ? tail / (to - from) / (before / to) : -1;
  }
}
