package kettlesieve.core.measure.reference;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.signal.Audio;

/** The separation evaluation of the stems of one tool against the true ones, all in one walk. */
final class StemSeparation {
  /** As sources: on the downmix. */
  static final StemSet.OfSet<StemSeparation> SOURCES = set -> new StemSeparation(set, false);

  /** As images: channels as they are. */
  static final StemSet.OfSet<StemSeparation> IMAGES = set -> new StemSeparation(set, true);

  /** The normal equations grow with the square of it: 6,144 unknowns take 150 MB. */
  private static final int MOST_CHANNELS = 12;

  private final Map<String, SeparationSums> sums = new LinkedHashMap<>();
  private final Map<String, Map<String, Double>> interference = new LinkedHashMap<>();

  /** The normal equations of the true stems: the same for all tools. Equal for the same stems. */
  private record Factored(Map<String, Audio> truth, boolean images)
      implements Analysis.OfSource<BssEval> {
    @Override
    public BssEval of(SourceAnalysis source) throws NotMeasurableException {
      List<Audio> sources =
          truth.values().stream().map(whole -> StemSet.excerpt(source, whole)).toList();
      int channels = sources.size() * (images ? sources.get(0).channels() : 1);
      if (channels > MOST_CHANNELS) {
        throw new NotMeasurableException(
            "the separation evaluation takes up to "
                + MOST_CHANNELS
                + " channels of true stems; there are "
                + channels);
      }
      try {
        return images
            ? BssEval.ofImages(sources)
            : BssEval.ofSources(sources.stream().map(Audio::downmix).toList());
      } catch (IllegalArgumentException e) {
        throw new NotMeasurableException("the true stems cannot be told apart: " + e.getMessage());
      }
    }
  }

  private StemSeparation(StemSet set, boolean images) throws NotMeasurableException {
    Map<String, Audio> truth = set.truths();
    List<String> roles = List.copyOf(truth.keySet());
    BssEval evaluation = set.source().shared(new Factored(truth, images));
    List<BssEval.Judged> judged = new ArrayList<>();
    List<String> judgedRoles = new ArrayList<>();
    List<Audio> clean = new ArrayList<>();
    for (String role : set.stems().stems().keySet()) {
      int wanted = roles.indexOf(role);
      if (wanted < 0 || evaluation.silent(wanted)) {
        continue;
      }
      Audio stem = images ? set.stem(role) : set.stem(role).downmix();
      sums.put(
          role,
          new SeparationSums(
              set.source().timeline(),
              set.source().bootstrap(),
              set.source().source().framing(),
              images));
      interference.put(role, new LinkedHashMap<>());
      for (int c = 0; c < stem.channels(); c++) {
        judged.add(new BssEval.Judged(stem, c, wanted));
        judgedRoles.add(role);
        Audio own = set.truth(role).orElseThrow();
        clean.add(images ? own : own.downmix());
      }
    }
    double[][] energies;
    try {
      energies =
          evaluation.split(
              judged,
              (e, from, estimate, target, all, length) -> {
                set.stop().check();
                float[] wanted = clean.get(e).samples(judged.get(e).channel(), from, length);
                sums.get(judgedRoles.get(e)).add(from, estimate, target, all, wanted, length);
              });
    } catch (ArithmeticException e) {
      throw new NotMeasurableException(e.getMessage());
    }
    for (int e = 0; e < energies.length; e++) {
      Map<String, Double> by = interference.get(judgedRoles.get(e));
      for (int s = 0; s < roles.size(); s++) {
        if (s != judged.get(e).wanted()) {
          by.merge(roles.get(s), energies[e][s], Double::sum);
        }
      }
    }
  }

  /**
   * The energies of a role's stem.
   *
   * @throws NotMeasurableException if there is no true stem of it
   */
  SeparationSums of(String role) throws NotMeasurableException {
    SeparationSums own = sums.get(role);
    if (own == null) {
      throw new NotMeasurableException("there is no true stem of " + role + ", or it is silent");
    }
    return own;
  }

  /** By offender: the target over what this one has in the stem, dB. */
  Map<String, Double> bySource(String role) {
    Map<String, Double> ratios = new LinkedHashMap<>();
    double target = sums.get(role).target();
    interference
        .get(role)
        .forEach((r, energy) -> ratios.put(r, SeparationSums.ratioDb(target, energy)));
    return ratios;
  }
}
