package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.List;
import java.util.function.Predicate;
import java.util.stream.Stream;
import kettlesieve.calibrate.trial.SweepTrial;
import kettlesieve.calibrate.truth.Truth;

/** How the score follows one processor from too little to far too much, in Markdown. */
public final class SweepTables {
  private final PrintWriter out;
  private final List<SweepTrial> trials;
  private final Tables<SweepTrial> tables;

  /**
   * @param out receives the tables
   * @param trials of both halves
   */
  public SweepTables(PrintWriter out, List<SweepTrial> trials) {
    this.out = out;
    this.trials = trials;
    this.tables = new Tables<>(out, trials, t -> t.scene().half());
  }

  /** All tables. */
  public void print() {
    tables.head(
        "More is worse by all three truths: steps at which the score rises by a point or more",
        "processor");
    tables.row("all", t -> rising(t, s -> true));
    for (String processor :
        trials.stream()
            .flatMap(t -> t.sweeps().stream())
            .map(s -> s.processor())
            .distinct()
            .toList()) {
      tables.row(processor, t -> rising(t, s -> s.processor().equals(processor)));
    }
    tables.row(
        "sweeps that end above what they reached before all truths fell",
        t -> ending(t, s -> true));
    out.flush();
  }

  private static Stream<SweepTrial.Sweep> sweeps(
      List<SweepTrial> trials, Predicate<SweepTrial.Sweep> counted) {
    return trials.stream().flatMap(t -> t.sweeps().stream()).filter(counted);
  }

  /**
   * The first step from which on all three truths fall until the end; the number of steps if none.
   */
  static int falls(SweepTrial.Sweep sweep) {
    List<SweepTrial.Step> steps = sweep.steps();
    int from = steps.size() - 1;
    while (from > 0 && worse(steps.get(from).truth(), steps.get(from - 1).truth())) {
      from--;
    }
    return from;
  }

  private static boolean worse(Truth a, Truth b) {
    return a.siSdr() < b.siSdr() && a.stoi() < b.stoi() && a.fwSegSnr() < b.fwSegSnr();
  }

  private static String rising(List<SweepTrial> trials, Predicate<SweepTrial.Sweep> counted) {
    int rises = 0;
    int of = 0;
    for (SweepTrial.Sweep sweep : sweeps(trials, counted).toList()) {
      List<SweepTrial.Step> steps = sweep.steps();
      for (int i = 1; i < steps.size(); i++) {
        if (worse(steps.get(i).truth(), steps.get(i - 1).truth())) {
          of++;
          rises += steps.get(i).said().overall() >= steps.get(i - 1).said().overall() + 1 ? 1 : 0;
        }
      }
    }
    return Tables.percent(rises, of);
  }

  private static String ending(List<SweepTrial> trials, Predicate<SweepTrial.Sweep> counted) {
    int above = 0;
    int of = 0;
    for (SweepTrial.Sweep sweep : sweeps(trials, counted).toList()) {
      List<SweepTrial.Step> steps = sweep.steps();
      int from = falls(sweep);
      if (from < steps.size() - 1) {
        of++;
        above +=
            steps.get(steps.size() - 1).said().overall() >= steps.get(from).said().overall() + 1
                ? 1
                : 0;
      }
    }
    return Tables.percent(above, of);
  }
}
