package kettlesieve.core.measure.reference;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.StemsTogether;
import kettlesieve.core.measure.reference.BssEval.Form;

/** The separation evaluation of the stems of one tool against the true ones. */
final class StemSeparation {
  /** The normal equations grow with the square of it: 6,144 unknowns take 150 MB. */
  private static final int MOST_CHANNELS = 12;

  private static final StemsTogether.OfAll<Map<MatchedStems, StemSeparation>> OF_ALL =
      StemSeparation::ofAll;

  private final List<String> trueRoles;
  private final Map<Form, String> problems;

  /** By form and role; no entry where the true stem is silent, null where it cannot be split. */
  private final Map<Form, Map<String, Split>> splits = new EnumMap<>(Form.class);

  /** A role's stem in one form: its energies, and by source what that has in it. */
  private record Split(SeparationSums sums, double[] shares) {}

  private StemSeparation(List<String> trueRoles, Map<Form, String> problems) {
    this.trueRoles = trueRoles;
    this.problems = problems;
    for (Form form : Form.values()) {
      splits.put(form, new LinkedHashMap<>());
    }
  }

  /** Of a tool; all that are measured together are evaluated in one walk over the true stems. */
  static StemSeparation of(StemSet set) throws NotMeasurableException {
    return set.together().shared(OF_ALL).get(set.stems());
  }

  /** A stem that is judged. */
  private record Stem(MatchedStems tool, String role) {}

  private static Map<MatchedStems, StemSeparation> ofAll(StemsTogether all) {
    List<String> roles = List.copyOf(all.truth().keySet());
    List<Audio> sources = all.truth().values().stream().map(all::excerpt).toList();
    Map<Form, String> problems = new EnumMap<>(Form.class);
    Map<MatchedStems, StemSeparation> separations = new IdentityHashMap<>();
    all.tools().forEach(t -> separations.put(t, new StemSeparation(roles, problems)));
    List<Form> forms = forms(sources, problems);
    if (forms.isEmpty()) {
      return separations;
    }
    try {
      BssEval evaluation = new BssEval(sources, forms.toArray(Form[]::new));
      forms.forEach(f -> evaluation.problem(f).ifPresent(p -> problems.put(f, alike(p))));
      split(all, evaluation, mono(sources), separations);
    } catch (IllegalArgumentException e) {
      forms.forEach(form -> problems.put(form, alike(e.getMessage())));
    }
    if (mono(sources)) {
      problems.computeIfAbsent(Form.IMAGES, f -> problems.get(Form.SOURCES));
    }
    return separations;
  }

  /** One channel is its own image: the form of sources tells of both. */
  private static boolean mono(List<Audio> sources) {
    return sources.get(0).channels() == 1;
  }

  /** In which forms it can be evaluated; why not in the others is put beside. */
  private static List<Form> forms(List<Audio> sources, Map<Form, String> problems) {
    List<Form> forms = new ArrayList<>();
    int each = sources.get(0).channels();
    for (Form form : each == 1 ? new Form[] {Form.SOURCES} : Form.values()) {
      int channels = sources.size() * (form == Form.IMAGES ? each : 1);
      if (channels > MOST_CHANNELS) {
        problems.put(
            form,
            "the separation evaluation takes up to "
                + MOST_CHANNELS
                + " channels of true stems; there are "
                + channels);
      } else {
        forms.add(form);
      }
    }
    return forms;
  }

  private static void split(
      StemsTogether all,
      BssEval evaluation,
      boolean mono,
      Map<MatchedStems, StemSeparation> separations) {
    List<String> roles = List.copyOf(all.truth().keySet());
    List<Stem> stems = new ArrayList<>();
    List<BssEval.Judged> judged = new ArrayList<>();
    for (MatchedStems tool : all.tools()) {
      for (var stem : tool.stems().entrySet()) {
        int wanted = roles.indexOf(stem.getKey());
        if (wanted >= 0) {
          stems.add(new Stem(tool, stem.getKey()));
          judged.add(new BssEval.Judged(all.excerpt(stem.getValue()), wanted));
        }
      }
    }
    Map<Form, SeparationSums[]> sums = new EnumMap<>(Form.class);
    for (Form form : Form.values()) {
      SeparationSums[] own = new SeparationSums[stems.size()];
      Arrays.setAll(own, e -> sums(all, form));
      sums.put(form, own);
    }
    evaluation
        .split(
            judged,
            (form, e, block) -> {
              all.stop().check();
              sums.get(form)[e].add(block);
              if (mono) {
                sums.get(Form.IMAGES)[e].add(block);
              }
            })
        .forEach(
            (form, shares) -> {
              for (int e = 0; e < shares.length; e++) {
                Stem stem = stems.get(e);
                if (evaluation.silent(form, judged.get(e).wanted())) {
                  continue;
                }
                StemSeparation own = separations.get(stem.tool());
                own.put(form, stem.role(), sums.get(form)[e], shares[e]);
                if (mono) {
                  own.put(Form.IMAGES, stem.role(), sums.get(Form.IMAGES)[e], shares[e]);
                }
              }
            });
  }

  private static SeparationSums sums(StemsTogether all, Form form) {
    return new SeparationSums(
        all.source().timeline(),
        all.source().bootstrap(),
        all.source().source().framing(),
        form == Form.IMAGES);
  }

  private static String alike(String message) {
    return "the true stems cannot be told apart: " + message;
  }

  private void put(Form form, String role, SeparationSums sums, double[] shares) {
    splits.get(form).put(role, shares == null ? null : new Split(sums, shares));
  }

  /**
   * The energies of a role's stem.
   *
   * @throws NotMeasurableException if there is no true stem of it
   */
  SeparationSums sums(Form form, String role) throws NotMeasurableException {
    return split(form, role).sums();
  }

  private Split split(Form form, String role) throws NotMeasurableException {
    String problem = problems.get(form);
    if (problem != null) {
      throw new NotMeasurableException(problem);
    }
    Split own = splits.get(form).get(role);
    if (own == null) {
      throw new NotMeasurableException(
          splits.get(form).containsKey(role)
              ? BlockToeplitz.TOO_MUCH_ALIKE
              : "there is no true stem of " + role + ", or it is silent");
    }
    return own;
  }

  /** By offender: the energy that this one has in the stem. */
  Map<String, Double> energies(Form form, String role) throws NotMeasurableException {
    Split own = split(form, role);
    Map<String, Double> energies = new LinkedHashMap<>();
    for (int s = 0; s < trueRoles.size(); s++) {
      if (!trueRoles.get(s).equals(role)) {
        energies.put(trueRoles.get(s), own.shares()[s]);
      }
    }
    return energies;
  }

  /** By offender: the target over what this one has in the stem, dB. */
  Map<String, Double> bySource(Form form, String role) throws NotMeasurableException {
    Split own = split(form, role);
    double target = own.sums().target();
    Map<String, Double> ratios = new LinkedHashMap<>();
    for (int s = 0; s < trueRoles.size(); s++) {
      if (!trueRoles.get(s).equals(role)) {
        ratios.put(trueRoles.get(s), SeparationSums.ratioDb(target, own.shares()[s]));
      }
    }
    return ratios;
  }
}
