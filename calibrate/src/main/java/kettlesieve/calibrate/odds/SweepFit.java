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
  private static final double ENOUGH = 0.9;
  private static final double ENOUGH_BEST = 2.0 / 3;

  /** With fewer scores a sweep is none: far too much of a tool may leave nothing to score. */
  private static final int FEWEST = 8;

  private final PrintWriter out;
  private final List<Case> cases = new ArrayList<>();

  /**
   * A sweep.
   *
   * @param best the truly best amount
   * @param asGood by amount, whether its truth is not clearly worse than that of the best
   */
  private record Case(
      Half half,
      String processor,
      boolean doubt,
      List<Estimate> scores,
      int best,
      List<Boolean> asGood) {
    private boolean holdsBest(SweepOdds odds) {
      return best >= odds.from() && best <= odds.to();
    }

    private boolean holdsAsGood(SweepOdds odds) {
      return asGood.subList(odds.from(), odds.to() + 1).contains(true);
    }

    private double width(SweepOdds odds) {
      return (double) (odds.to() - odds.from()) / (scores.size() - 1);
    }
  }

  /**
   * @param out receives the tables
   * @param trials of both halves
   */
  public SweepFit(PrintWriter out, List<SweepTrial> trials) {
    this.out = out;
    for (SweepTrial t : trials) {
      for (SweepTrial.Sweep s : t.sweeps()) {
        List<SweepTrial.Step> scored =
            s.steps().stream().filter(x -> x.said().draws().length > 0).toList();
        if (scored.size() >= FEWEST) {
          List<Truth> truths = scored.stream().map(SweepTrial.Step::truth).toList();
          int best = best(truths);
          cases.add(
              new Case(
                  t.scene().half(),
                  s.processor(),
                  !t.notices().isEmpty(),
                  scored.stream().map(x -> x.said().estimate()).toList(),
                  best,
                  truths.stream().map(x -> truths.get(best).against(x) == 0).toList()));
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
   * Takes the narrowest plateaus that hold an amount as good as the best in nine of ten sweeps of
   * the setting half, and the best itself in two of three; prints what they come to on both.
   *
   * @param validity of the job
   */
  public void print(Validity validity) {
    SweepOdds.Smooth best = new SweepOdds.Smooth(1, 1);
    double narrowest = Double.POSITIVE_INFINITY;
    for (double tilt : TRIED) {
      for (double bend : TRIED) {
        SweepOdds.Smooth tried = new SweepOdds.Smooth(tilt, bend);
        double width = 0;
        int asGood = 0;
        int held = 0;
        int of = 0;
        for (Case c : cases) {
          if (c.half == Half.SETTING) {
            SweepOdds odds = odds(c, validity, tried);
            of++;
            asGood += c.holdsAsGood(odds) ? 1 : 0;
            held += c.holdsBest(odds) ? 1 : 0;
            width += c.width(odds);
          }
        }
        boolean enough = asGood >= ENOUGH * of && held >= ENOUGH_BEST * of - 1e-9;
        if (enough && width < narrowest) {
          narrowest = width;
          best = tried;
        }
      }
    }
    out.printf(
        Locale.ROOT,
        "%n## Sweeps%n%ntilt %.2f τ, bend %.2f τ%n%n| plateau | holds an amount that is not clearly"
            + " worse than the best | holds the best | width, of the range |%n|---|---|---|---|%n",
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
    int asGood = 0;
    int held = 0;
    double width = 0;
    for (Case c : cases) {
      if (c.half == half && c.processor.contains(processor)) {
        SweepOdds odds = odds(c, validity, smooth);
        of++;
        asGood += c.holdsAsGood(odds) ? 1 : 0;
        held += c.holdsBest(odds) ? 1 : 0;
        width += c.width(odds);
      }
    }
    if (of > 0) {
      out.printf(
          Locale.ROOT,
          "| %s | %.0f %% of %d | %.0f %% | %.0f %% |%n",
          what,
          100.0 * asGood / of,
          of,
          100.0 * held / of,
          100 * width / of);
    }
  }
}
