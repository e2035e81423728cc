package kettlesieve.calibrate.odds;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.trial.SweepTrial;
import kettlesieve.calibrate.truth.Truth;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.score.odds.SweepOdds;
import kettlesieve.core.score.odds.Validity;

/** Fits how far the scores of sweeps miss the truth, and says what plateaus made of it come to. */
public final class SweepFit {
  private static final double[] TRIED = {0, 0.1, 0.2, 0.3, 0.45, 0.6, 0.8, 1, 1.3, 1.7, 2.2};
  private static final double LEAST = 0.01;

  private final PrintWriter out;
  private final List<Case> cases = new ArrayList<>();

  private record Case(
      Half half, String processor, boolean doubt, List<Estimate> scores, int best) {}

  /**
   * @param out receives the tables
   * @param trials of both halves
   */
  public SweepFit(PrintWriter out, List<SweepTrial> trials) {
    this.out = out;
    for (SweepTrial t : trials) {
      for (SweepTrial.Sweep s : t.sweeps()) {
        if (s.steps().stream().allMatch(x -> x.said().draws().length > 0)) {
          cases.add(
              new Case(
                  t.scene().half(),
                  s.processor(),
                  !t.notices().isEmpty(),
                  s.steps().stream().map(x -> x.said().estimate()).toList(),
                  best(s.steps().stream().map(SweepTrial.Step::truth).toList())));
        }
      }
    }
  }

  /** The amount that two of three truths prefer to most others. */
  static int best(List<Truth> truths) {
    int best = 0;
    double most = -1;
    for (int i = 0; i < truths.size(); i++) {
      double wins = 0;
      for (int j = 0; j < truths.size(); j++) {
        double votes =
            Math.signum(truths.get(i).siSdr() - truths.get(j).siSdr())
                + Math.signum(truths.get(i).stoi() - truths.get(j).stoi())
                + Math.signum(truths.get(i).fwSegSnr() - truths.get(j).fwSegSnr());
        wins += votes > 0 ? 1 : 0;
      }
      if (wins > most) {
        most = wins;
        best = i;
      }
    }
    return best;
  }

  private static SweepOdds odds(Case c, Validity validity, SweepOdds.Smooth smooth) {
    List<Double> amounts = new ArrayList<>();
    for (int i = 0; i < c.scores.size(); i++) {
      amounts.add((double) i);
    }
    return SweepOdds.of(amounts, c.scores, validity, c.doubt, smooth);
  }

  /**
   * Fits on the setting half and prints both.
   *
   * @param validity of the job
   */
  public void print(Validity validity) {
    SweepOdds.Smooth best = new SweepOdds.Smooth(1, 1);
    double least = Double.POSITIVE_INFINITY;
    for (double tilt : TRIED) {
      for (double bend : TRIED) {
        SweepOdds.Smooth tried = new SweepOdds.Smooth(tilt, bend);
        double loss = 0;
        for (Case c : cases) {
          if (c.half == Half.SETTING) {
            loss -= Math.log(Math.max(LEAST, odds(c, validity, tried).chances().get(c.best)));
          }
        }
        if (loss < least) {
          least = loss;
          best = tried;
        }
      }
    }
    out.printf(
        Locale.ROOT,
        "%n## Sweeps%n%ntilt %.2f τ, bend %.2f τ%n%n| plateau | holds the best | width, steps of"
            + " the range |%n|---|---|---|%n",
        best.tilt(),
        best.bend());
    for (Half half : Half.values()) {
      row(half.name().toLowerCase(Locale.ROOT) + " half", half, "", validity, best);
      Map<String, String> processors = new LinkedHashMap<>();
      cases.forEach(c -> processors.put(c.processor, c.processor));
      for (String processor : processors.keySet()) {
        row("– " + processor, half, processor, validity, best);
      }
    }
    out.flush();
  }

  private void row(
      String what, Half half, String processor, Validity validity, SweepOdds.Smooth smooth) {
    int of = 0;
    int held = 0;
    double width = 0;
    for (Case c : cases) {
      if (c.half == half && c.processor.contains(processor)) {
        SweepOdds odds = odds(c, validity, smooth);
        of++;
        held += c.best >= odds.from() && c.best <= odds.to() ? 1 : 0;
        width += (double) (odds.to() - odds.from()) / (c.scores.size() - 1);
      }
    }
    out.printf(
        Locale.ROOT,
        "| %s | %s | %.0f %% |%n",
        what,
        of == 0 ? "–" : String.format(Locale.ROOT, "%.0f %% of %d", 100.0 * held / of, of),
        of == 0 ? Double.NaN : 100 * width / of);
  }
}
