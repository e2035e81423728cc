package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiPredicate;
import java.util.function.Predicate;
import java.util.function.ToDoubleFunction;
import kettlesieve.calibrate.makers.Dereverbers;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.RoomTrial;

/** How far the figures of dereverberated versions agree with the truth, in Markdown. */
public final class DereverbTables {
  private static final double APART_DB = 2;

  /** As near to the same as figures of rooms get: less is no order. */
  private static final double SILENT_DB = -25;

  private final PrintWriter out;
  private final Tables<RoomTrial> tables;

  /**
   * @param out receives the tables
   * @param trials of both halves
   */
  public DereverbTables(PrintWriter out, List<RoomTrial> trials) {
    this.out = out;
    this.tables = new Tables<>(out, trials, t -> t.scene().half());
  }

  /** All tables. */
  public void print() {
    missed();
    overall();
    neutral();
    flaws();
    out.flush();
  }

  private void missed() {
    tables.head("Missed: order right where what is left is over 2 dB apart", "pairs");
    missed("all", (a, b) -> true);
    missed("as good as can be", (a, b) -> exact(a) && exact(b));
    missed("processors, and the source", (a, b) -> real(a) && real(b));
    tables.row(
        "room-tail minus what is true, as good as can be, dB",
        all ->
            spread(
                all,
                v -> exact(v) && v.kind() == Maker.Kind.IDEAL && v.lateLeft() > -13,
                v -> v.said().reading("room-tail") - v.lateLeft()));
  }

  private void missed(String what, BiPredicate<RoomTrial.Judged, RoomTrial.Judged> counted) {
    tables.row(
        what,
        all ->
            Tables.right(
                all.stream().map(RoomTrial::versions).toList(),
                v -> v.said().axis("missed"),
                v -> -Math.max(SILENT_DB, v.lateLeft()),
                APART_DB,
                counted));
  }

  private static boolean exact(RoomTrial.Judged v) {
    return v.kind() == Maker.Kind.IDEAL && !v.maker().equals("early-free")
        || v.kind() == Maker.Kind.UNTOUCHED
        || v.maker().equals("more-room");
  }

  private static boolean real(RoomTrial.Judged v) {
    return v.kind() == Maker.Kind.REAL || v.kind() == Maker.Kind.UNTOUCHED;
  }

  private static boolean onTruth(RoomTrial.Judged v) {
    return !Dereverbers.OFF_THE_TRUTH.contains(v.maker());
  }

  private void overall() {
    tables.head("Overall: order right where SI-SDR is over 2 dB apart", "pairs");
    overall("all", t -> true, (a, b) -> true);
    overall("processors, and the source", t -> true, (a, b) -> real(a) && real(b));
    overall("decay under 0.6 s", t -> t.scene().decaySeconds() < 0.6, (a, b) -> true);
    overall(
        "decay from 0.6 to 1 s",
        t -> t.scene().decaySeconds() >= 0.6 && t.scene().decaySeconds() < 1.0,
        (a, b) -> true);
    overall("decay of 1 s or more", t -> t.scene().decaySeconds() >= 1.0, (a, b) -> true);
    overall("noise less than 40 dB down", t -> t.scene().noiseDb() < 40, (a, b) -> true);
    Set<String> makers = new TreeSet<>();
    tables.row(
        "sources with a score",
        all -> {
          all.forEach(t -> t.versions().forEach(v -> makers.add(v.maker())));
          return Tables.share(all, t -> Double.isFinite(t.versions().get(0).said().overall()));
        });
    for (String maker : makers) {
      overall(
          "with " + maker, t -> true, (a, b) -> a.maker().equals(maker) || b.maker().equals(maker));
    }
  }

  private void overall(
      String what,
      Predicate<RoomTrial> trials,
      BiPredicate<RoomTrial.Judged, RoomTrial.Judged> counted) {
    tables.row(
        what,
        all ->
            Tables.right(
                all.stream().filter(trials).map(RoomTrial::versions).toList(),
                v -> v.said().overall(),
                RoomTrial.Judged::siSdr,
                APART_DB,
                counted.and((a, b) -> onTruth(a) && onTruth(b))));
  }

  private static String spread(
      List<RoomTrial> all,
      Predicate<RoomTrial.Judged> versions,
      ToDoubleFunction<RoomTrial.Judged> figure) {
    double[] values =
        all.stream()
            .flatMap(t -> t.versions().stream())
            .filter(versions)
            .mapToDouble(figure)
            .filter(Double::isFinite)
            .toArray();
    double mean = java.util.Arrays.stream(values).average().orElse(Double.NaN);
    double squares =
        java.util.Arrays.stream(values).map(x -> (x - mean) * (x - mean)).average().orElse(0);
    return String.format(
        Locale.ROOT, "%.2f, deviation %.2f, of %d", mean, Math.sqrt(squares), values.length);
  }

  private void neutral() {
    tables.head("Neutral cases", "case");
    for (String maker : List.of("untouched", "late-6", "late-12", "late-none")) {
      for (String axis : List.of("added", "lost")) {
        tables.row(
            maker + ": 99 or more on " + axis,
            all -> Tables.share(all, t -> version(t, maker).said().axis(axis) >= 99));
      }
    }
    tables.row(
        "more room ranks under the source",
        all ->
            Tables.share(
                all,
                t ->
                    version(t, "more-room").said().overall()
                        < version(t, "untouched").said().overall()));
  }

  private void flaws() {
    tables.head("Flaws put in by hand cost their question more than 10 points", "case");
    flaw("dull", "lost", "late-12");
    flaw("wavering", "added", "untouched");
    flaw("chopped", "lost", "untouched");
    flaw("gate", "lost", "untouched");
    flaw("twice", "added", "untouched");
  }

  private void flaw(String maker, String axis, String from) {
    tables.row(
        maker + ", " + axis,
        all ->
            Tables.share(
                all,
                t ->
                    version(t, maker).said().axis(axis) < version(t, from).said().axis(axis) - 10));
  }

  private static RoomTrial.Judged version(RoomTrial t, String maker) {
    return t.version(maker).orElseThrow();
  }
}
