package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
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
import kettlesieve.core.signal.Harmonicity;

/** How far the voice's harmonics stand out of noise and roughness. */
@AutoService(Measure.class)
public final class HarmonicsToNoise implements PairMeasure {
  /** A clear voice; those of the bench read 8 to 23 without noise. */
  private static final double CLEAR_DB = 13;

  private static final double LEAST_GAIN_DB = 0.5;
  private static final double MOST_GAIN_DB = 6;
  private static final int FEWEST = 20;
  private static final double NOTABLE_DB = 3;
  private static final Declaration DECLARATION =
      new Declaration(
          "harmonics-to-noise",
          "Harmonics to noise",
          Axis.MISSED.in(Job.DENOISE),
          "dB",
          false,
          "How far the harmonics of the voice stand out of what is noisy or rough between and beside"
              + " them while it is voiced, against a clear voice: from 0 dB on it is clear. Whatever"
              + " the noise is, steady or not: noise under the voice lowers it, and so does roughness"
              + " that was put in.",
          "Share r of a voiced frame that is periodic: highest autocorrelation (40 ms, 60–4,000 Hz) at"
              + " 70 to 400 Hz, the window's divided out; 10·log10(r/(1 − r)), median, less 13 dB or"
              + " what lies nearest to that from 0.5 to 6 dB over the source's own. Voiced are of the"
              + " louder two fifths of the source's frames the more periodic half.",
          "Boersma, Proc. Inst. Phonetic Sciences 17, Amsterdam 1993.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    VoicedFrames voiced = pair.ofSource(VoicedFrames.OF);
    Harmonicity version = new Harmonicity(pair.version().aligned().downmix());
    BlockHistograms before = new BlockHistograms(pair.timeline(), -20, 25, 0.05);
    BlockHistograms after = new BlockHistograms(pair.timeline(), -20, 25, 0.05);
    PlaceGrid places = PlaceGrid.ofTime(pair.timeline(), 60, 4000);
    int rate = pair.framing().sampleRate();
    int count = 0;
    for (VoicedFrames.Voiced frame : voiced.frames()) {
      long sample = Math.round(frame.seconds() * rate);
      if (sample < pair.firstSample() || sample >= pair.endSample()) {
        continue;
      }
      double hnr = version.at(frame.seconds()).hnr();
      int at = pair.frameOf(sample);
      int block = pair.timeline().block(at);
      before.add(block, frame.hnr(), 1);
      after.add(block, hnr, 1);
      places.add(at, 0, hnr - wanted(frame.hnr()), 1);
      count++;
    }
    if (count < FEWEST) {
      throw new NotMeasurableException("the version covers too little of the voice");
    }
    double own = pair.bootstrap().estimate(before::median).value();
    Estimate value = pair.bootstrap().estimate(w -> after.median(w) - wanted(before.median(w)));
    return Reading.of(DECLARATION.id(), value)
        .with("version", value.value() + wanted(own), "dB")
        .with("source", own, "dB")
        .withTrace(places.trace())
        .withSpots(places.spots(false, Math.min(-NOTABLE_DB, value.value()), 1));
  }

  /** What can be asked of a version: a clear voice, but no wonders. */
  private static double wanted(double source) {
    return Math.min(source + MOST_GAIN_DB, Math.max(source + LEAST_GAIN_DB, CLEAR_DB));
  }
}
