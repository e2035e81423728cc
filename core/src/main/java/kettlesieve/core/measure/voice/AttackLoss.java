package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.SourceClicks;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.measure.stems.RoleTiles;
import kettlesieve.core.measure.stretch.StretchedHits;
import kettlesieve.core.signal.Statistics;

/** Attacks that were blunted. */
@AutoService(Measure.class)
public final class AttackLoss implements PairMeasure, SetMeasure, StretchMeasure {
  private static final int LAG = 2;
  private static final int ENOUGH_ONSETS = 5;
  private static final double OVER_MEDIAN = 2;
  private static final double LEAST_GAIN = 1e-3;
  private static final Declaration DECLARATION =
      new Declaration(
          "attack-loss",
          "Attack loss",
          Axis.LOST.in(Job.DENOISE, Job.DEREVERB, Job.STEMS, Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How much weaker the beginnings of words and notes have become. Consonants lose "
              + "their edge; plucked notes turn soft.",
          "Spectral flux (rise of the amplitude over wanted cells by third-octaves, over "
              + "2 hops, each band freed of its long-term gain) at the strong onsets of the "
              + "source, source over version, 20·log10, median over the onsets, not below 0.",
          "Kettle Sieve's own definition; flux after Bello et al., IEEE Trans. Speech "
              + "Audio Process. 13, 2005.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    WantedBands energies = pair.shared(WantedBands.OF);
    int first = pair.firstFrame() + LAG;
    int end = pair.endFrame();
    double[] before = new double[Math.max(0, end)];
    double[] after = new double[Math.max(0, end)];
    for (int t = first; t < end; t++) {
      before[t] = flux(pair, energies, t, false);
      after[t] = flux(pair, energies, t, true);
    }
    double[] rising = Arrays.stream(before).filter(x -> x > 0).toArray();
    double limit =
        Math.max(
            OVER_MEDIAN * Statistics.median(rising.length == 0 ? new double[] {1} : rising),
            Statistics.quantile(rising.length == 0 ? new double[] {1} : rising, 0.3));
    int near = pair.framing().framesIn(0.05);
    SourceClicks clicks = pair.source().clicks();
    BlockHistograms losses = new BlockHistograms(pair.timeline(), -20, 40, 0.05);
    PlaceGrid places = PlaceGrid.ofTime(pair.timeline(), 50, pair.framing().sampleRate() / 2.0);
    int onsets = 0;
    for (int t = first; t < end; t++) {
      if (before[t] < limit || clicks.in(t) || !highest(before, t, near)) {
        continue;
      }
      double most =
          Math.max(after[t], Math.max(after[Math.max(0, t - 1)], t + 1 < end ? after[t + 1] : 0));
      double loss = Math.max(-20, Math.min(40, 20 * Math.log10(before[t] / Math.max(most, 1e-12))));
      losses.add(pair.timeline().block(t), loss, 1);
      places.add(t, 0, loss, 1);
      onsets++;
    }
    if (onsets < ENOUGH_ONSETS) {
      throw new NotMeasurableException("fewer than five strong onsets to judge by");
    }
    Estimate estimate = pair.bootstrap().estimate(losses::median).map(x -> Math.max(0, x));
    return Reading.of(DECLARATION.id(), estimate)
        .with("onsets", onsets, "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(1.5, estimate.value()), 1));
  }

  /** At the attacks of a stem's own material. */
  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    RoleTiles tiles = new RoleTiles(set, role);
    double[] before = tiles.risesOfMix();
    double[] after = tiles.risesOfStem();
    double[] rising = Arrays.stream(before).filter(x -> x > 0).toArray();
    if (rising.length < ENOUGH_ONSETS) {
      throw new NotMeasurableException("fewer than five strong onsets to judge by");
    }
    double limit = 2 * OVER_MEDIAN * Statistics.median(rising);
    double level = Math.sqrt(tiles.level());
    int near = set.source().source().framing().framesIn(0.05);
    BlockHistograms losses = new BlockHistograms(set.source().timeline(), -20, 40, 0.05);
    PlaceGrid places = PlaceGrid.ofTime(set.source().timeline(), 50, set.mix().sampleRate() / 2.0);
    int onsets = 0;
    for (int t = 1; t + 1 < before.length; t++) {
      if (before[t] < limit || !highest(before, t, near)) {
        continue;
      }
      double most = Math.max(after[t], Math.max(after[t - 1], after[t + 1])) / level;
      double loss = Math.max(-20, Math.min(40, 20 * Math.log10(before[t] / Math.max(most, 1e-12))));
      losses.add(set.source().timeline().block(t), loss, 1);
      places.add(t, 0, loss, 1);
      onsets++;
    }
    if (onsets < ENOUGH_ONSETS) {
      throw new NotMeasurableException("fewer than five strong onsets to judge by");
    }
    Estimate estimate = set.source().bootstrap().estimate(losses::median).map(x -> Math.max(0, x));
    return Reading.of(DECLARATION.id(), estimate)
        .with("onsets", onsets, "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(1.5, estimate.value()), 1));
  }

  /** At the strong attacks of a source and where they lie in a version of another length. */
  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    BlockHistograms losses = new BlockHistograms(warp.source().timeline(), -20, 40, 0.05);
    PlaceGrid places =
        PlaceGrid.ofTime(
            warp.source().timeline(), 50, warp.source().source().framing().sampleRate() / 2.0);
    List<StretchedHits.Hit> hits = warp.shared(StretchedHits.OF).hits();
    for (StretchedHits.Hit hit : hits) {
      if (hit.beyond()) {
        continue;
      }
      double ratio = hit.rise() / Math.max(hit.kept(), 0.01 * hit.rise());
      double loss = Math.max(-20, Math.min(40, 20 * Math.log10(ratio)));
      int frame = warp.frame(hit.source());
      losses.add(warp.source().timeline().block(frame), loss, 1);
      places.add(frame, 0, loss, 1);
    }
    Estimate estimate = warp.source().bootstrap().estimate(losses::median).map(x -> Math.max(0, x));
    return Reading.of(DECLARATION.id(), estimate)
        .with("onsets", hits.size(), "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(1.5, estimate.value()), 1));
  }

  private static boolean highest(double[] flux, int t, int near) {
    for (int i = Math.max(0, t - near); i <= Math.min(flux.length - 1, t + near); i++) {
      if (flux[i] > flux[t]) {
        return false;
      }
    }
    return true;
  }

  private static double flux(Pair pair, WantedBands energies, int t, boolean version) {
    double sum = 0;
    for (int b = 0; b < pair.bands().count(); b++) {
      double gain = energies.longTermGain(b);
      if (gain > LEAST_GAIN) {
        double now = version ? energies.version(t, b) / gain : energies.source(t, b);
        double then = version ? energies.version(t - LAG, b) / gain : energies.source(t - LAG, b);
        sum += Math.max(0, Math.sqrt(now) - Math.sqrt(then));
      }
    }
    return sum;
  }
}
