package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Statistics;

/** Whether the pitch moved by what was asked for. */
@AutoService(Measure.class)
public final class PitchError implements StretchMeasure {
  private static final double LEAST_PEAK = 0.5;
  private static final int FEWEST = 20;

  /** Further than a voice is moved by anyone. */
  private static final double MOST_CENTS = 3000;

  private static final Declaration DECLARATION =
      new Declaration(
          "pitch-error",
          "Pitch error",
          Axis.MISSED.in(Job.PITCH),
          "cents",
          false,
          "How far the pitch lies from what was asked for, 100 cents to a semitone. From about 10"
              + " cents on it is out of tune.",
          "As pitch-drift, around the shift asked for, or around none where that is clearly better"
              + " (by 0.1); less the shift asked for. Of a single voice, and under a peak of"
              + " 0.5, the median of the voiced frames, by YIN; the magnitude"
              + " is scored. Details where 20 or more frames are voiced in both, by YIN: median and"
              + " interquartile range.",
          "Kettle Sieve's own definition; voices by de Cheveigné & Kawahara, J. Acoust. Soc. Am. 111,"
              + " 2002.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    StretchedPitch pitch = warp.shared(StretchedPitch.OF);
    List<StretchedVoices.Frame> likely =
        warp.shared(StretchedVoices.OF).frames().stream()
            .filter(f -> Double.isFinite(f.likelyCents()))
            .toList();
    double[] voiced = likely.stream().mapToDouble(StretchedVoices.Frame::likelyCents).toArray();
    boolean told = pitch.byVoice() || pitch.likeness() >= LEAST_PEAK;
    boolean voice = voiced.length >= FEWEST;
    if (!told && !voice) {
      throw new NotMeasurableException("there is too little of a pitch to compare");
    }
    // The profile sees chords; what is not clear in it may be a voice all the same.
    Estimate moved = told ? pitch.estimate() : median(warp, likely);
    Estimate error = moved.map(cents -> cents - pitch.asked());
    Reading reading =
        Reading.of(DECLARATION.id(), error)
            .scoredAs(error.map(Math::abs))
            .with("moved", moved.value(), "cents")
            .with("likeness", pitch.likeness(), "");
    if (!voice) {
      return reading;
    }
    double spread = Statistics.quantile(voiced, 0.75) - Statistics.quantile(voiced, 0.25);
    return reading
        .with("voiced", Statistics.median(voiced) - pitch.asked(), "cents")
        .with("range", spread, "cents");
  }

  private static Estimate median(StretchedPair warp, List<StretchedVoices.Frame> voiced) {
    BlockHistograms cents =
        new BlockHistograms(warp.source().timeline(), -MOST_CENTS, MOST_CENTS, 1);
    for (StretchedVoices.Frame f : voiced) {
      cents.add(warp.source().timeline().block(warp.frame(f.source())), f.likelyCents(), 1);
    }
    return warp.source().bootstrap().estimate(cents::median);
  }
}
