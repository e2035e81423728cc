package kettlesieve.core.work;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.StretchTarget;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.fairness.Fairness;
import kettlesieve.core.measure.Part;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Heading;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.Notice;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;

/**
 * Makes the sheet of versions that were measured.
 *
 * @param comparison what they belong to
 * @param source facts of its source
 * @param ofSource what the person should know of the source
 */
record SheetMaker(Comparison comparison, MediaFacts source, List<Notice> ofSource) {
  /** From so many semitones on it is not the interval that was asked for, badly met. */
  private static final double OTHER_INTERVAL = 0.5;

  /**
   * The sheet.
   *
   * @param checksums of the files by id of the version
   * @param alike versions that null against each other
   */
  ScoreSheet sheet(
      List<Measured> measured,
      List<Failure> failed,
      List<Notice> further,
      Map<String, List<String>> checksums,
      List<Fairness.Item> alike) {
    Scoring scoring = Scoring.of(comparison);
    List<Notice> notices = new ArrayList<>(ofSource);
    notices.addAll(further);
    if (comparison.profile() != null && scoring.profile(comparison.profile()).isEmpty()) {
      notices.add(
          Notice.of(
              "profile: \""
                  + comparison.profile()
                  + "\" is not known here; scored under \""
                  + scoring.profileOrDefault(null).title()
                  + "\" instead. Choose a profile."));
    }
    withoutTarget(measured).ifPresent(notices::add);
    List<Fairness.Item> fairness =
        new ArrayList<>(Fairness.among(comparison, source.sha256(), checksums));
    fairness.addAll(alike);
    measured.forEach(m -> interval(m).ifPresent(fairness::add));
    return ScoreSheet.of(
        new Heading(
            comparison.job(),
            scoring.profileOrDefault(comparison.profile()),
            scoring,
            comparison.source().file(),
            source,
            comparison.roleWeights()),
        comparison.roleWeights().isEmpty()
            ? measured
            : measured.stream().map(m -> m.weighted(comparison.roleWeights())).toList(),
        failed,
        notices,
        fairness);
  }

  /** What is not asked for cannot be missed: said, for it lifts every such version. */
  private Optional<Notice> withoutTarget(List<Measured> measured) {
    boolean some =
        measured.stream()
            .map(m -> comparison.version(m.version().id()))
            .flatMap(Optional::stream)
            .anyMatch(v -> !v.back() && comparison.targetOf(v) == null);
    return switch (comparison.job()) {
      case STRETCH ->
          some
              ? Optional.of(
                  Notice.of(
                      "no length was asked for: each version is judged by the length that its file"
                          + " has, so that none can be too long or too short. Give the ratio."))
              : Optional.empty();
      case PITCH ->
          some
              ? Optional.of(
                  Notice.of(
                      "no shift was asked for: versions are judged as if their pitch were to stay."
                          + " Give the semitones."))
              : Optional.empty();
      case DENOISE, DEREVERB, DECLIP, STEMS -> Optional.empty();
    };
  }

  /** A shifted version that lies at another interval than was asked for, or at none. */
  private Optional<Fairness.Item> interval(Measured measured) {
    Optional<Version> version = comparison.version(measured.version().id());
    Double asked = version.map(comparison::targetOf).orElse(null);
    if (comparison.job() != Job.PITCH || asked == null || version.get().back()) {
      return Optional.empty();
    }
    return measured
        .of(Part.ALL)
        .reading("pitch-error")
        .map(r -> r.value() / 100)
        .filter(off -> Math.abs(off) >= OTHER_INTERVAL)
        .map(
            off ->
                new Fairness.Item(
                    measured.version().label(),
                    "interval",
                    "moved by "
                        + StretchTarget.signed(Math.round(10 * (asked + off)) / 10.0)
                        + " semitones, asked for "
                        + StretchTarget.signed(asked),
                    "judged by what was asked of it"));
  }
}
