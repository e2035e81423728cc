package kettlesieve.calibrate.odds;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.makers.StemTools;
import kettlesieve.calibrate.trial.ClipTrial;
import kettlesieve.calibrate.trial.PlayedTrial;
import kettlesieve.calibrate.trial.RoomTrial;
import kettlesieve.calibrate.trial.StemTrial;
import kettlesieve.calibrate.trial.Trial;
import kettlesieve.core.measure.Estimate;

/** Cases from the trials of each job. */
public final class OddsCases {
  private static final double CLEAR_DB = 2;
  private static final double MOST_DB = 60;
  private static final String BY_TRUTH = "with true stems";
  private static final int FEW_TOOLS = 3;

  private OddsCases() {}

  private static OddsCase.Version version(
      String tool, Estimate score, boolean choice, double... truth) {
    return new OddsCase.Version(tool, score, choice, truth);
  }

  private static boolean choice(Maker.Kind kind) {
    return kind == Maker.Kind.REAL || kind == Maker.Kind.BAD;
  }

  /** Of denoisers: the majority of SI-SDR, STOI and frequency-weighted segmental SNR. */
  public static List<OddsCase> denoise(List<Trial> trials) {
    return trials.stream()
        .map(
            t ->
                OddsCase.of(
                    t.scene().id(),
                    t.scene().half(),
                    !t.notices().isEmpty(),
                    t.versions(),
                    v ->
                        version(
                            v.maker(),
                            v.estimate(),
                            choice(v.kind()),
                            v.truth().siSdr(),
                            v.truth().stoi(),
                            v.truth().fwSegSnr()),
                    (a, b) -> a.truth().against(b.truth())))
        .toList();
  }

  /** Of dereverberation: SI-SDR against the direct and early sound. */
  public static List<OddsCase> dereverb(List<RoomTrial> trials) {
    return trials.stream()
        .map(
            t ->
                OddsCase.of(
                    t.scene().id(),
                    t.scene().half(),
                    !t.notices().isEmpty(),
                    t.versions(),
                    v -> version(v.maker(), v.said().estimate(), choice(v.kind()), v.siSdr()),
                    OddsCase.apart(RoomTrial.Judged::siSdr, CLEAR_DB)))
        .toList();
  }

  /** Of declipping: the gain in SDR on the clipped samples. */
  public static List<OddsCase> declip(List<ClipTrial> trials) {
    return trials.stream()
        .map(
            t ->
                OddsCase.of(
                    t.scene().id(),
                    t.scene().half(),
                    false,
                    t.versions(),
                    v -> version(v.maker(), v.said().estimate(), choice(v.kind()), gain(v)),
                    OddsCase.apart(OddsCases::gain, CLEAR_DB)))
        .toList();
  }

  private static double gain(ClipTrial.Judged v) {
    return Math.min(MOST_DB, v.deltaSdr());
  }

  /** Of what was played anew: two of three distances. */
  public static List<OddsCase> played(List<PlayedTrial> trials) {
    List<OddsCase> cases = new ArrayList<>();
    for (PlayedTrial t : trials) {
      for (double amount :
          t.versions().stream().mapToDouble(v -> v.amount()).distinct().toArray()) {
        cases.add(
            OddsCase.of(
                t.scene().id(),
                t.scene().half(),
                false,
                t.versions().stream().filter(v -> v.amount() == amount).toList(),
                v ->
                    version(
                        v.way(),
                        v.said().estimate(),
                        !v.way().equals(PlayedTrial.TRUE),
                        -v.truth().tone(),
                        -v.truth().time(),
                        -v.truth().attacks()),
                (a, b) -> a.truth().against(b.truth())));
      }
    }
    return cases;
  }

  /**
   * Of stems: the signal-to-distortion ratio of images, where the scale-invariant one agrees.
   *
   * @param byTruth whether true stems were given
   */
  public static List<OddsCase> stems(List<StemTrial> trials, boolean byTruth) {
    List<OddsCase> cases = new ArrayList<>();
    for (StemTrial t : trials) {
      Map<String, List<StemTrial.Judged>> groups = new LinkedHashMap<>();
      for (StemTrial.Judged v : t.judged()) {
        if (v.set().equals(BY_TRUTH) == byTruth) {
          groups.computeIfAbsent(v.group() + "/" + v.role(), g -> new ArrayList<>()).add(v);
        }
      }
      for (List<StemTrial.Judged> group : groups.values()) {
        cases.add(
            OddsCase.of(
                t.id(),
                t.half(),
                !byTruth && group.size() < FEW_TOOLS,
                group,
                v ->
                    version(
                        v.tool() + "/" + v.role(),
                        v.said().estimate(),
                        !v.kind().equals(StemTools.Kind.TRUE_STEMS.name()),
                        v.truth().sdr(),
                        v.truth().siSdr()),
                (a, b) -> Math.abs(a.truth().sdr() - b.truth().sdr()) > 1 ? agreed(a, b) : 0));
      }
    }
    return cases;
  }

  private static double agreed(StemTrial.Judged a, StemTrial.Judged b) {
    double sdr = a.truth().sdr() - b.truth().sdr();
    return sdr * (a.truth().siSdr() - b.truth().siSdr()) > 0 ? Math.signum(sdr) : 0;
  }
}
