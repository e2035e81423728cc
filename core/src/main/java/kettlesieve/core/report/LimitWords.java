package kettlesieve.core.report;

import java.util.Locale;
import java.util.Optional;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.Requirement;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Requirements;

/** Limits of a delivery and what became of them, in the words of the sheet. */
public final class LimitWords {
  private LimitWords() {}

  /** What a limit is of, such as "Noise in pauses, dBFS". */
  public static String what(Requirement r) {
    Declaration d = Measures.declaration(r.reading());
    String title = d == null ? r.reading() : d.title();
    return r.detail().isEmpty() ? title : title + ", " + r.detail();
  }

  /** The same beside its unit: a detail that is called like it is not said twice. */
  private static String what(Requirement r, String unit) {
    return r.detail().equals(unit) && !unit.isEmpty()
        ? what(new Requirement(r.reading(), "", r.comparison(), r.limit()))
        : what(r);
  }

  private static String asTyped(double limit) {
    return limit == Math.rint(limit)
        ? String.format(Locale.ROOT, "%.0f", limit).replace('-', '−')
        : Answer.number(limit);
  }

  /** Unit of a limit as far as the sheet tells it; empty for none. */
  public static String unit(Requirement r, Optional<Reading> reading) {
    Declaration d = Measures.declaration(r.reading());
    if (r.detail().isEmpty()) {
      return d == null ? "" : d.unit();
    }
    return reading.stream()
        .flatMap(x -> x.details().stream())
        .filter(x -> x.key().equals(r.detail()))
        .map(x -> x.unit())
        .findFirst()
        .orElse("");
  }

  /** A limit, such as "Bandwidth at least 12000 Hz". */
  public static String asked(Requirement r, Optional<Reading> reading) {
    String unit = unit(r, reading);
    return what(r, unit)
        + (r.comparison().equals("<=") ? " at most " : " at least ")
        + asTyped(r.limit())
        + (unit.isEmpty() ? "" : " " + unit);
  }

  /** What became of a limit, and by how much and where it is broken. */
  public static String outcome(Requirements.Outcome o, Entry entry, Clock clock) {
    Requirement r = o.requirement();
    Optional<Reading> reading = entry.reading(r.reading());
    if (o.meets().isEmpty()) {
      return asked(r, reading) + ": cannot be told";
    }
    String value = o.bound().sign() + with(o.value().orElseThrow(), unit(r, reading));
    if (o.meets().get()) {
      return asked(r, reading) + ": kept, " + value;
    }
    return asked(r, reading)
        + ": not kept, "
        + value
        + ", off by "
        + Answer.number(o.by())
        + worst(o, entry).map(s -> ", worst at " + clock.text(s.at())).orElse("");
  }

  /** A broken limit in short, such as "Bandwidth 8000 Hz, 4000 short of the limit". */
  public static String broken(Requirements.Outcome o, Entry entry) {
    Requirement r = o.requirement();
    return what(r, unit(r, entry.reading(r.reading())))
        + " "
        + with(o.value().orElseThrow(), unit(r, entry.reading(r.reading())))
        + ", "
        + Answer.number(o.by())
        + (r.comparison().equals("<=") ? " over the limit" : " short of the limit");
  }

  /** By how much a limit is broken, where there is little room: "Bandwidth 4000 Hz short". */
  public static String off(Requirements.Outcome o, Entry entry) {
    Requirement r = o.requirement();
    String unit = unit(r, entry.reading(r.reading()));
    return what(r, unit)
        + " "
        + with(o.by(), unit.startsWith("dB") ? "dB" : unit)
        + (r.comparison().equals("<=") ? " over" : " short");
  }

  /** Where a broken limit is heard. */
  public static Optional<Spot> worst(Requirements.Outcome o, Entry entry) {
    return entry
        .reading(o.requirement().reading())
        .filter(x -> !o.meets().orElse(true))
        .flatMap(x -> x.spots().stream().findFirst());
  }

  private static String with(double value, String unit) {
    return Answer.number(value) + (unit.isEmpty() ? "" : " " + unit);
  }
}
