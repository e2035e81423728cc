package kettlesieve.core.measure.reference;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.reference.BssEval.Form;

/**
 * The separation evaluation of a version, with the clean recording as the wanted source and what
 * was unwanted (source minus clean recording) as the other.
 */
final class Separation {
  /** Of a pair: on the downmix and, in stereo, channels as they are. */
  static final Analysis<Separation> OF = Separation::new;

  private static final Analysis.OfSource<BssEval> FACTORED = Separation::evaluation;

  private final Map<Form, SeparationSums> sums = new EnumMap<>(Form.class);
  private final Map<Form, String> problems = new EnumMap<>(Form.class);

  private Separation(Pair pair) throws NotMeasurableException {
    pair.needReference();
    BssEval evaluation = pair.ofSource(FACTORED);
    for (Form form : forms(pair.channels())) {
      evaluation.problem(form).ifPresent(p -> problems.put(form, alike(p)));
      if (evaluation.silent(form, 0)) {
        problems.putIfAbsent(form, "the clean recording is silent here");
      }
      sums.put(
          form,
          new SeparationSums(
              pair.timeline(), pair.bootstrap(), pair.framing(), form == Form.IMAGES));
    }
    evaluation
        .split(
            List.of(new BssEval.Judged(pair.version().audio(), 0)),
            (form, e, block) -> sums.get(form).add(block))
        .forEach(
            (form, shares) -> {
              if (shares[0] == null) {
                problems.putIfAbsent(form, BlockToeplitz.TOO_MUCH_ALIKE);
              }
            });
  }

  private static Form[] forms(int channels) {
    return channels == 1 ? new Form[] {Form.SOURCES} : Form.values();
  }

  /** The energies in a form. */
  SeparationSums sums(Form form) throws NotMeasurableException {
    String problem = problems.get(form);
    if (problem != null) {
      throw new NotMeasurableException(problem);
    }
    return sums.get(form);
  }

  /** The clean recording and what was unwanted: the same for all versions. */
  private static BssEval evaluation(SourceAnalysis source) throws NotMeasurableException {
    Audio clean = source.reference().orElseThrow();
    Audio unwanted = SumAudio.remainder(source.source().audio(), List.of(clean));
    try {
      return new BssEval(List.of(clean, unwanted), forms(source.source().channels()));
    } catch (IllegalArgumentException e) {
      throw new NotMeasurableException(alike(e.getMessage()));
    }
  }

  private static String alike(String message) {
    return "the clean recording cannot be told from the noise here: " + message;
  }
}
