package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import kettlesieve.calibrate.trial.StretchBench;
import kettlesieve.calibrate.trial.StretchTrial;
import kettlesieve.core.comparison.Job;

/** How far the figures of stretched and shifted versions agree with what is known of them. */
public final class StretchTables {
  private final PrintWriter out;
  private final Job job;
  private final Tables<StretchTrial> tables;

  /**
   * @param out receives the tables
   * @param job stretch or pitch
   * @param trials of both halves
   */
  public StretchTables(PrintWriter out, Job job, List<StretchTrial> trials) {
    this.out = out;
    this.job = job;
    this.tables = new Tables<>(out, trials, t -> t.scene().half());
  }

  /** All tables. */
  public void print() {
    if (job == Job.STRETCH) {
      stretched();
      windows();
    } else {
      shifted();
    }
    material();
    out.flush();
  }

  private static Stream<StretchTrial.Judged> all(List<StretchTrial> trials) {
    return trials.stream().flatMap(t -> t.versions().stream());
  }

  private static boolean neutral(StretchTrial.Judged v) {
    return v.way().equals("untouched") || v.way().equals("late-at-half-level");
  }

  private static boolean free(StretchTrial.Judged v) {
    return v.way().startsWith("free-phases");
  }

  private void stretched() {
    tables.head("Known of stretched versions", "what");
    neutralRows();
    tables.row(
        "ratio within 0.1 %, stand-ins",
        t -> within(t, v -> !free(v) && !neutral(v), "length-error", 0, 0.1));
    tables.row(
        "pitch kept within 10 cents, stand-ins",
        t -> within(t, v -> !free(v) && !neutral(v) && !speed(v), "pitch-drift", 0, 10));
    tables.row(
        "change of speed within 5 cents of what it is",
        t ->
            share(
                t,
                StretchTables::speed,
                v -> Math.abs(v.said().reading("pitch-drift") + 1200 * log2(v.amount())) <= 5,
                "pitch-drift"));
    tables.row(
        "phasiness of overlap in time under 1 dB, voices",
        t ->
            within(
                t,
                v -> v.way().equals("waveform-overlap") && v.material().equals("vocals"),
                "phasiness",
                0,
                1));
    tables.row(
        "phasiness less with locked phases than with free ones, voices",
        t -> less(t, "vocals", "locked-phase-stretch", "plain-phase-stretch"));
  }

  private static boolean speed(StretchTrial.Judged v) {
    return v.way().equals("speed-change");
  }

  private static double log2(double x) {
    return Math.log(x) / Math.log(2);
  }

  private void neutralRows() {
    for (String axis : List.of("added", "lost")) {
      tables.row(
          "untouched, or late at half level: 99 or more on " + axis,
          t ->
              Tables.share(
                  all(t).filter(StretchTables::neutral).toList(),
                  v -> !(v.said().axis(axis) < 99)));
    }
  }

  private static String within(
      List<StretchTrial> trials,
      Predicate<StretchTrial.Judged> of,
      String measure,
      double right,
      double off) {
    return share(trials, of, v -> Math.abs(v.said().reading(measure) - right) <= off, measure);
  }

  /** Of those that have the reading. */
  private static String share(
      List<StretchTrial> trials,
      Predicate<StretchTrial.Judged> of,
      Predicate<StretchTrial.Judged> right,
      String measure) {
    return Tables.share(
        all(trials).filter(of).filter(v -> !Double.isNaN(v.said().reading(measure))).toList(),
        right);
  }

  private static String less(List<StretchTrial> trials, String material, String one, String other) {
    int right = 0;
    int asked = 0;
    for (StretchTrial t : trials) {
      for (StretchTrial.Judged v : t.versions()) {
        if (!v.material().equals(material) || !v.way().equals(one)) {
          continue;
        }
        for (StretchTrial.Judged w : t.versions()) {
          if (w.material().equals(material)
              && w.way().equals(other)
              && w.amount() == v.amount()
              && !Double.isNaN(v.said().reading("phasiness"))) {
            asked++;
            right += v.said().reading("phasiness") < w.said().reading("phasiness") ? 1 : 0;
          }
        }
      }
    }
    return right + " of " + asked;
  }

  private void windows() {
    tables.head("A vocoder whose phases run free: rises with its window", "reading");
    for (String id : List.of("attack-loss", "pre-echo")) {
      for (int to : List.of(4096, 8192)) {
        tables.row(id + ", 1,024 to " + to, t -> rises(t, id, to));
      }
    }
  }

  private static String rises(List<StretchTrial> trials, String id, int to) {
    int right = 0;
    int asked = 0;
    for (StretchTrial t : trials) {
      for (StretchTrial.Judged v : t.versions()) {
        if (!v.way().equals(StretchBench.free(1024)) || Double.isNaN(v.said().reading(id))) {
          continue;
        }
        double before = v.said().reading(id);
        boolean rising = true;
        for (int window : StretchBench.WINDOWS) {
          double now = reading(t, v, StretchBench.free(window), id);
          if (window > 1024 && window <= to) {
            rising &= now > before;
            before = now;
          }
        }
        asked++;
        right += rising ? 1 : 0;
      }
    }
    return right + " of " + asked + " series";
  }

  private static double reading(
      StretchTrial trial, StretchTrial.Judged like, String way, String id) {
    return trial.versions().stream()
        .filter(v -> v.way().equals(way))
        .filter(v -> v.material().equals(like.material()) && v.amount() == like.amount())
        .mapToDouble(v -> v.said().reading(id))
        .findFirst()
        .orElse(Double.NaN);
  }

  private void shifted() {
    tables.head("Known of shifted versions", "what");
    neutralRows();
    for (String material : StretchBench.materials(job)) {
      tables.row(
          "pitch within 10 cents, " + material,
          t -> within(t, v -> !neutral(v) && v.material().equals(material), "pitch-error", 0, 10));
    }
    tables.row(
        "formants that moved: within 0.5 semitones of the shift, voices",
        t ->
            share(
                t,
                v -> v.way().equals("resampling-shift") && v.material().equals("vocals"),
                v -> Math.abs(v.said().reading("formant-shift") - v.amount()) <= 0.5,
                "formant-shift"));
    tables.row(
        "formants that were kept: within 0.5 semitones of none, voices",
        t ->
            within(
                t,
                v -> v.way().equals("formant-keeping-shift") && v.material().equals("vocals"),
                "formant-shift",
                0,
                0.5));
    tables.row(
        "slips under 2 %, voices",
        t -> within(t, v -> v.material().equals("vocals"), "pitch-slips", 0, 2));
  }

  /** Mean overall score of each way, by material. */
  private void material() {
    for (String material : StretchBench.materials(job)) {
      tables.head("Mean overall score, " + material, "way");
      List<String> ways =
          Stream.concat(all(tables.setting()), all(tables.reporting()))
              .filter(v -> !neutral(v))
              .map(StretchTrial.Judged::way)
              .distinct()
              .toList();
      for (String way : ways) {
        tables.row(way, mean(v -> v.way().equals(way) && v.material().equals(material)));
      }
    }
  }

  private static Function<List<StretchTrial>, String> mean(Predicate<StretchTrial.Judged> of) {
    return trials -> {
      double[] scores =
          all(trials)
              .filter(of)
              .mapToDouble(v -> v.said().overall())
              .filter(s -> !Double.isNaN(s))
              .toArray();
      return scores.length == 0
          ? "–"
          : String.format(
              Locale.ROOT,
              "%.1f over %d",
              java.util.Arrays.stream(scores).average().orElse(Double.NaN),
              scores.length);
    };
  }
}
