package kettlesieve.core.measure.reference;

import com.google.auto.service.AutoService;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockMeans;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.signal.Intelligibility;

/** How well the words can be understood, against the clean recording. */
@AutoService(Measure.class)
public final class Stoi implements PairMeasure {
  /** The clean recording's side, over the whole excerpt. */
  private static final Analysis.OfSource<Intelligibility.Clean> CLEAN =
      s -> new Intelligibility.Clean(s.reference().orElseThrow().downmix());

  private static final Declaration DECLARATION =
      new Declaration(
          "stoi",
          "STOI",
          Axis.INFO.in(Job.DENOISE, Job.DEREVERB),
          "",
          true,
          "Short-time objective intelligibility: 1 for the clean recording, above about "
              + "0.9 every word is understood, under 0.6 words are lost.",
          "Correlation of the envelopes of 15 third-octaves from 150 Hz over stretches of "
              + "384 ms, the version normalised and clipped at −15 dB, mean over bands and "
              + "stretches; at 10 kHz, silent frames (40 dB) left out.",
          "Taal, Hendriks, Heusdens & Jensen, IEEE Trans. Audio, Speech, Lang. Process. "
              + "19, 2011.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Intelligibility found = intelligibility(pair);
    if (found.values().length == 0) {
      throw new NotMeasurableException("there is less than 0.4 s of speech in the clean recording");
    }
    BlockMeans means = new BlockMeans(pair);
    PlaceGrid places = PlaceGrid.ofTime(pair.timeline(), 150, 4300);
    for (int i = 0; i < found.values().length; i++) {
      long sample =
          pair.firstSample() + Math.round(found.seconds()[i] * pair.framing().sampleRate());
      int frame = pair.frameOf(sample);
      means.add(frame, found.values()[i]);
      places.add(frame, 0, found.values()[i], 1);
    }
    Estimate estimate = means.estimate();
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpots(places.spots(false, estimate.value() - 0.1, 1));
  }

  private static Intelligibility intelligibility(Pair pair) throws NotMeasurableException {
    Audio clean = pair.needReference();
    Audio own = pair.version().audio().downmix().slice(pair.firstSample(), pair.endSample());
    boolean whole = pair.firstSample() == 0 && pair.endSample() == clean.frames();
    return whole
        ? Intelligibility.of(pair.ofSource(CLEAN), own)
        : Intelligibility.of(clean.downmix().slice(pair.firstSample(), pair.endSample()), own);
  }
}
