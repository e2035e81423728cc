package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockRatio;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;

/** Moments at which a voice jumps off its pitch. */
@AutoService(Measure.class)
public final class PitchSlips implements StretchMeasure {
  private static final double OFF_CENTS = 100;
  private static final int FEWEST = 20;
  private static final int RUN = 4;
  private static final Declaration DECLARATION =
      new Declaration(
          "pitch-slips",
          "Pitch slips",
          Axis.MISSED.in(Job.PITCH),
          "%",
          false,
          "Share of the sung or spoken time in which the pitch is off by more than a semitone: a"
              + " syllable that was not moved, a note that breaks into another octave.",
          "Of a source that is one voice (its pitch wanders, its level does not only fall): frames"
              + " voiced in both (each 10 ms) whose pitch ratio is over 100 cents off the target,"
              + " four or more in a row, unless both sound either way (octaves);"
              + " detail: voicing, the share of the source's voiced frames that the version has not.",
          "De Cheveigné & Kawahara, J. Acoust. Soc. Am. 111, 2002.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    warp.source().shared(SingleVoice.OF).check();
    List<StretchedVoices.Frame> frames = warp.shared(StretchedVoices.OF).frames();
    double asked = 1200 * Math.log(warp.pitch()) / Math.log(2);
    BlockRatio slips = new BlockRatio(warp.source());
    PlaceGrid places = PlaceGrid.ofTime(warp.source().timeline(), 65, 2000);
    int both = 0;
    for (int i = 0; i < frames.size(); i++) {
      StretchedVoices.Frame frame = frames.get(i);
      if (!frame.both()) {
        continue;
      }
      boolean off = inRun(frames, i, asked);
      int at = warp.frame(frame.source());
      slips.add(warp.source().timeline().block(at), off ? 100 : 0, 1);
      places.add(at, 0, off ? 100 : 0, 1);
      both++;
    }
    if (both < FEWEST) {
      throw new NotMeasurableException(
          "the version is voiced at fewer than 20 of the moments at which the source is");
    }
    return Reading.of(DECLARATION.id(), slips.estimate(share -> share))
        .with("voicing", 100.0 * (frames.size() - both) / frames.size(), "%")
        .withTrace(places.trace())
        .withSpots(places.spots(true, 20, 3));
  }

  private static boolean off(StretchedVoices.Frame frame, double asked) {
    return frame.both() && !frame.twofold() && Math.abs(frame.cents() - asked) > OFF_CENTS;
  }

  /** Whether a moment is off together with its neighbours: where voicing begins, one may err. */
  private static boolean inRun(List<StretchedVoices.Frame> frames, int at, double asked) {
    int from = at;
    while (from > 0 && joined(frames, from - 1) && off(frames.get(from - 1), asked)) {
      from--;
    }
    int to = at;
    while (to + 1 < frames.size() && joined(frames, to) && off(frames.get(to + 1), asked)) {
      to++;
    }
    return off(frames.get(at), asked) && to - from + 1 >= RUN;
  }

  private static boolean joined(List<StretchedVoices.Frame> frames, int first) {
    return frames.get(first + 1).source() - frames.get(first).source() < 1.5 * StretchedVoices.HOP;
  }
}
