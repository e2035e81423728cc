package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.function.Predicate;
import java.util.function.ToDoubleBiFunction;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.VoiceRange;
import kettlesieve.core.measure.room.RangeGains;

/** A range of the voice that was taken away with the noise. */
@AutoService(Measure.class)
public final class VoiceLoss implements PairMeasure {
  private static final int ENOUGH_CELLS = 100;
  private static final int ENOUGH_IN_A_ROOM = 300;
  private static final Declaration DECLARATION =
      new Declaration(
          "voice-loss",
          "Voice loss",
          Axis.LOST.in(Job.DENOISE, Job.DEREVERB, Job.DECLIP, Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How far the worst of the voice's ranges (body, presence, air) sank against its middle."
              + " From −3 dB on a voice gets thin or dull.",
          "Energy gain over wanted cells in body 80–300, presence 2,000–6,000 and air"
              + " 6,000–16,000 Hz, lowest of them minus that of the middle 300–2,000 Hz; ranges with"
              + " 100 or more cells. In declip only over frames without clipped samples. In dereverb the plain median of the cells' gains, ranges with 300 or more.",
          "Kettle Sieve's own definition; cells by the mean noise power of the pauses.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return job == Job.DENOISE ? 0.75 : 0;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    return pair.job().inARoom() ? byMedians(pair) : byEnergies(pair);
  }

  private static Reading byEnergies(Pair pair) throws NotMeasurableException {
    WantedRanges energies = pair.shared(WantedRanges.OF);
    ClippedFrames judged = pair.ofSource(ClippedFrames.OF);
    int blocks = pair.timeline().blocks();
    int ranges = VoiceRange.values().length;
    double[][] source = new double[ranges][blocks];
    double[][] version = new double[ranges][blocks];
    for (VoiceRange range : VoiceRange.values()) {
      for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
        if (!judged.judges(t)) {
          continue;
        }
        int block = pair.timeline().block(t);
        source[range.ordinal()][block] += energies.source(t, range);
        version[range.ordinal()][block] += energies.version(t, range);
      }
    }
    return reading(
        pair,
        range -> energies.count(range) >= ENOUGH_CELLS,
        (range, weights) -> gain(source, version, range, weights));
  }

  /** Energies would follow the loudest vowels, which carry the most room. */
  private static Reading byMedians(Pair pair) throws NotMeasurableException {
    RangeGains gains = pair.shared(RangeGains.OF);
    return reading(pair, range -> gains.count(range) >= ENOUGH_IN_A_ROOM, gains::medianDb);
  }

  private static Reading reading(
      Pair pair, Predicate<VoiceRange> usable, ToDoubleBiFunction<VoiceRange, int[]> gain)
      throws NotMeasurableException {
    EnumSet<VoiceRange> ranges = EnumSet.noneOf(VoiceRange.class);
    for (VoiceRange range : VoiceRange.values()) {
      if (usable.test(range)) {
        ranges.add(range);
      }
    }
    if (!ranges.contains(VoiceRange.MIDDLE) || ranges.size() < 2) {
      throw new NotMeasurableException(
          "too little of the voice stands above the noise to compare its ranges");
    }
    Estimate estimate = pair.bootstrap().estimate(w -> worstAgainstMiddle(ranges, gain, w));
    List<Detail> details = new ArrayList<>();
    int[] whole = new int[pair.timeline().blocks()];
    Arrays.fill(whole, 1);
    for (VoiceRange range : ranges) {
      details.add(new Detail(range.id(), gain.applyAsDouble(range, whole), "dB"));
    }
    PlaceGrid places = pair.shared(WantedBands.OF).gains();
    return Reading.of(DECLARATION.id(), estimate)
        .withDetails(details)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(false, -3, 6));
  }

  private static double worstAgainstMiddle(
      EnumSet<VoiceRange> ranges, ToDoubleBiFunction<VoiceRange, int[]> gains, int[] weights) {
    double middle = gains.applyAsDouble(VoiceRange.MIDDLE, weights);
    double worst = Double.NaN;
    for (VoiceRange range : ranges) {
      double against = gains.applyAsDouble(range, weights) - middle;
      if (range != VoiceRange.MIDDLE && !Double.isNaN(against)) {
        worst = Double.isNaN(worst) ? against : Math.min(worst, against);
      }
    }
    return worst;
  }

  private static double gain(
      double[][] source, double[][] version, VoiceRange range, int[] weights) {
    double before = 0;
    double after = 0;
    for (int i = 0; i < weights.length; i++) {
      before += weights[i] * source[range.ordinal()][i];
      after += weights[i] * version[range.ordinal()][i];
    }
    return before > 0 ? Pair.gainDb(before, after) : Double.NaN;
  }
}
