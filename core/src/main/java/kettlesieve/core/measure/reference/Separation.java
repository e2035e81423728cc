package kettlesieve.core.measure.reference;

import java.util.List;
import java.util.stream.IntStream;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.SumAudio;

/**
 * The separation evaluation of a version, with the clean recording as the wanted source and what
 * was unwanted (source minus clean recording) as the other.
 */
final class Separation {
  /** As sources: on the downmix. */
  static final Analysis<SeparationSums> SOURCES = pair -> of(pair, false);

  /** As images: channels as they are. */
  static final Analysis<SeparationSums> IMAGES = pair -> of(pair, true);

  private static final Analysis.OfSource<BssEval> FACTORED_SOURCES = s -> evaluation(s, false);
  private static final Analysis.OfSource<BssEval> FACTORED_IMAGES = s -> evaluation(s, true);

  private Separation() {}

  private static SeparationSums of(Pair pair, boolean images) throws NotMeasurableException {
    Audio reference = pair.needReference();
    BssEval evaluation = pair.ofSource(images ? FACTORED_IMAGES : FACTORED_SOURCES);
    Audio version = pair.version().audio();
    Audio judged = images ? version : version.downmix();
    Audio clean = images ? reference : reference.downmix();
    SeparationSums sums =
        new SeparationSums(pair.timeline(), pair.bootstrap(), pair.framing(), images);
    try {
      evaluation.split(
          IntStream.range(0, judged.channels())
              .mapToObj(c -> new BssEval.Judged(judged, c, 0))
              .toList(),
          (c, from, estimate, target, all, length) ->
              sums.add(from, estimate, target, all, clean.samples(c, from, length), length));
    } catch (ArithmeticException e) {
      throw new NotMeasurableException(e.getMessage());
    }
    return sums;
  }

  /** The clean recording and what was unwanted: the same for all versions. */
  private static BssEval evaluation(SourceAnalysis source, boolean images)
      throws NotMeasurableException {
    Audio clean = source.reference().orElseThrow();
    Audio unwanted = SumAudio.remainder(source.source().audio(), List.of(clean));
    List<Audio> sources = List.of(clean, unwanted);
    try {
      BssEval evaluation =
          images
              ? BssEval.ofImages(sources)
              : BssEval.ofSources(sources.stream().map(Audio::downmix).toList());
      if (evaluation.silent(0)) {
        throw new NotMeasurableException("the clean recording is silent here");
      }
      return evaluation;
    } catch (IllegalArgumentException e) {
      throw new NotMeasurableException(
          "the clean recording cannot be told from the noise here: " + e.getMessage());
    }
  }
}
