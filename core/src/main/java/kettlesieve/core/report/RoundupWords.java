package kettlesieve.core.report;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import kettlesieve.core.comparison.StretchTarget;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.roundup.Agreement;
import kettlesieve.core.roundup.Difficulties;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.roundup.RoundupAnswer;
import kettlesieve.core.roundup.RoundupCost;
import kettlesieve.core.roundup.RoundupTests;
import kettlesieve.core.score.odds.OddsWords;
import kettlesieve.core.score.odds.Validity;

/** A round-up in sentences. */
public final class RoundupWords {
  private static final int MOST_PAIRS = 8;
  private static final double MORE = 0.005;

  private RoundupWords() {}

  /** What the answer is, first sentence first. */
  public static List<String> answer(Roundup roundup, Roundup.Table table) {
    List<String> lines = new ArrayList<>();
    Optional<RoundupAnswer> answer = RoundupAnswer.of(roundup, table);
    if (answer.isEmpty()) {
      lines.add(
          table.entries().isEmpty()
              ? "Nothing was measured here."
              : roundup.aspect().title() + " only informs: more of it is neither good nor bad.");
      empty(roundup, table).ifPresent(lines::add);
      return lines;
    }
    RoundupAnswer a = answer.get();
    lines.add(leads(roundup, a));
    if (Double.isFinite(a.odds())) {
      lines.add(oneMore(a));
    }
    if (!a.fails().isEmpty()) {
      RoundupAnswer.Fails f = a.fails().get(0);
      lines.add(
          "Best on average, but "
              + a.leader().name()
              + " fails on “"
              + roundup.comparisons().get(f.recording()).title()
              + "”: "
              + score(f.value())
              + ", where "
              + f.by()
              + " reaches "
              + score(f.best())
              + (a.fails().size() > 1 ? ". So it does on " + more(a.fails().size() - 1) : "")
              + ".");
    }
    missing(table).ifPresent(lines::add);
    empty(roundup, table).ifPresent(lines::add);
    return lines;
  }

  private static String more(int others) {
    return others == 1 ? "one other" : others + " others";
  }

  private static String leads(Roundup roundup, RoundupAnswer a) {
    String over = recordings(a.leader().measured());
    String words =
        a.leader().name()
            + " has the best mean, "
            + value(roundup, a.leader().mean())
            + " over "
            + over;
    if (a.second() == null) {
      return words + "; nothing else was tried as often.";
    }
    String far = value(roundup, Math.abs(a.lead()));
    boolean level = roundup.aspect().score() && far.equals("0");
    String lead =
        level
            ? ", level with " + a.second().name()
            : ", "
                + far
                + (!roundup.aspect().score() ? "" : far.equals("1") ? " point" : " points")
                + " ahead of "
                + a.second().name();
    if (!Double.isFinite(a.odds())) {
      return words + lead + ".";
    }
    boolean sure = a.odds() >= Validity.SURE;
    return words
        + lead
        + (sure
            ? ", surely."
            : a.odds() >= Validity.PROBABLE
                ? ", probably (" + OddsWords.tenths(a.odds()) + ")."
                : "; which of the two is better is open (" + OddsWords.tenths(a.odds()) + ").");
  }

  /** What one more recording would add. */
  private static String oneMore(RoundupAnswer a) {
    if (a.odds() >= Validity.SURE) {
      return "More recordings would only confirm it.";
    }
    String most = OddsWords.tenths(a.atMost());
    if (a.atMost() - a.odds() < MORE || most.equals(OddsWords.tenths(a.odds()))) {
      return "More recordings like these would not make it surer: what is left is the scores' own"
          + " error. Blind rounds would tell.";
    }
    String next = OddsWords.tenths(a.oneMore());
    return (next.equals(OddsWords.tenths(a.odds()))
            ? "One more recording like these would change little"
            : "One more recording like these would make it " + next)
        + "; any number of them at most "
        + most
        + ".";
  }

  private static Optional<String> missing(Roundup.Table table) {
    List<String> names =
        table.entries().stream()
            .filter(e -> e.measured() < table.recordings())
            .map(e -> e.name() + " (" + e.measured() + ")")
            .toList();
    if (names.isEmpty()) {
      return Optional.empty();
    }
    boolean many = names.size() > 4;
    return Optional.of(
        "Not tried on all of "
            + recordings(table.recordings())
            + ": "
            + String.join(", ", many ? names.subList(0, 4) : names)
            + (many ? " and " + (names.size() - 4) + " more" : "")
            + ". Their means are over those they have; odds and tests are over what is shared.");
  }

  /** Recordings that gave nothing to count: not silently left out. */
  private static Optional<String> empty(Roundup roundup, Roundup.Table table) {
    if (table != roundup.all()) {
      return Optional.empty();
    }
    List<String> bare = new ArrayList<>();
    List<String> names = new ArrayList<>();
    for (int i = 0; i < roundup.comparisons().size(); i++) {
      int c = i;
      if (table.entries().stream().noneMatch(e -> e.cells().containsKey(c))) {
        boolean none = roundup.comparisons().get(i).versions().isEmpty();
        (none ? bare : names).add(roundup.comparisons().get(i).title());
      }
    }
    List<String> lines = new ArrayList<>();
    if (!names.isEmpty()) {
      lines.add(
          "Not counted, for want of "
              + (roundup.aspect().overall() ? "an overall score" : "this figure")
              + ": "
              + some(names)
              + ". Open one to see why; often its pauses are to be marked.");
    }
    if (!bare.isEmpty()) {
      lines.add("No versions yet: " + some(bare) + ".");
    }
    return lines.isEmpty() ? Optional.empty() : Optional.of(String.join(" ", lines));
  }

  private static String some(List<String> names) {
    boolean many = names.size() > 4;
    return String.join("; ", many ? names.subList(0, 4) : names)
        + (many ? " and " + (names.size() - 4) + " more" : "");
  }

  /** What the tests say: of all, then of the pairs that differ. */
  public static List<String> tests(Roundup.Table table) {
    List<String> lines = new ArrayList<>();
    if (table.tests().isEmpty()) {
      return lines;
    }
    RoundupTests t = table.tests().get();
    if (Double.isFinite(t.p())) {
      lines.add(
          (t.p() < RoundupTests.SIGNIFICANT
                  ? "They differ by more than chance"
                  : "By rank they do not differ by more than chance")
              + " over "
              + recordings(t.recordings())
              + " (Friedman, "
              + p(t.p())
              + ").");
    } else {
      lines.add(
          "Friedman's test over all takes three tools on two recordings; it could not be made.");
    }
    List<RoundupTests.Pair> differ =
        t.pairs().stream()
            .filter(RoundupTests.Pair::differ)
            .sorted(java.util.Comparator.comparingDouble(RoundupTests.Pair::corrected))
            .toList();
    differ.stream().limit(MOST_PAIRS).map(RoundupWords::pair).forEach(lines::add);
    if (differ.size() > MOST_PAIRS) {
      lines.add("So do " + (differ.size() - MOST_PAIRS) + " more pairs.");
    }
    if (differ.isEmpty() && !t.pairs().isEmpty()) {
      lines.add(
          "No two of them differ beyond chance (Wilcoxon with Holm's correction over "
              + t.pairs().size()
              + (t.pairs().size() == 1 ? " pair" : " pairs")
              + ").");
    }
    return lines;
  }

  /** "A is better than B on 9 of 11 recordings (p = 0.01)". */
  public static String pair(RoundupTests.Pair pair) {
    boolean first = pair.better() >= pair.worse();
    return (first ? pair.a() : pair.b())
        + " is better than "
        + (first ? pair.b() : pair.a())
        + " on "
        + Math.max(pair.better(), pair.worse())
        + " of "
        + recordings(pair.both())
        + " ("
        + p(pair.corrected())
        + ").";
  }

  /** Which leads for which tag. */
  public static List<String> tags(Roundup roundup) {
    List<String> lines = new ArrayList<>();
    roundup
        .byTag()
        .forEach(
            (tag, table) ->
                RoundupAnswer.of(roundup, table)
                    .ifPresent(
                        a ->
                            lines.add(
                                tag
                                    + ": "
                                    + a.leader().name()
                                    + ", "
                                    + value(roundup, a.leader().mean())
                                    + " over "
                                    + recordings(a.leader().measured())
                                    + (Double.isFinite(a.odds())
                                        ? ", "
                                            + OddsWords.tenths(a.odds())
                                            + " over "
                                            + a.second().name()
                                        : "")
                                    + ".")));
    return lines;
  }

  /** At which difficulty each falls apart. */
  public static List<String> difficulties(Difficulties all) {
    List<String> lines = new ArrayList<>();
    for (String name : all.lines().keySet()) {
      Optional<Integer> at = all.fallsApart(name);
      List<Double> line = all.lines().get(name);
      lines.add(
          at.isEmpty()
              ? name + " holds over all of them."
              : at.get() == 0
                  ? name + " is of little use from " + step(all, 0) + " on."
                  : name
                      + " falls apart at "
                      + step(all, at.get())
                      + " ("
                      + score(line.get(at.get() - 1))
                      + " before, "
                      + score(line.get(at.get()))
                      + " there).");
    }
    return lines;
  }

  private static String step(Difficulties all, int i) {
    return StretchTarget.figure(all.steps().get(i)).replace('-', '−') + " " + all.unit();
  }

  /** How far the scores' order is that of the clean recording: all, then by kind. */
  public static List<String> agreement(Agreement agreement) {
    List<String> lines = new ArrayList<>();
    lines.add(
        "Order by score against "
            + Measures.declaration(agreement.measure()).title()
            + ": "
            + share(agreement, agreement.all()));
    if (agreement.byKind().size() > 1) {
      agreement.byKind().forEach((kind, s) -> lines.add(kind + ": " + share(agreement, s)));
    }
    return lines;
  }

  private static String share(Agreement agreement, Agreement.Share share) {
    String all = share.agree() + " of " + share.pairs() + " pairs agree";
    return share.clear() == 0
        ? all + "; none lie over " + score(agreement.clearFrom()) + " dB apart."
        : all
            + " ("
            + Math.round(100.0 * share.agree() / share.pairs())
            + " %); of those over "
            + score(agreement.clearFrom())
            + " dB apart "
            + share.clearAgree()
            + " of "
            + share.clear()
            + " ("
            + Math.round(100.0 * share.clearAgree() / share.clear())
            + " %).";
  }

  /**
   * What a tool takes; empty if nothing is known.
   *
   * @param cores processors that "at once in real time" is told for; 0 to leave that out
   */
  public static String cost(RoundupCost cost, int cores) {
    List<String> words = new ArrayList<>();
    if (Double.isFinite(cost.timeRatio())) {
      words.add(ratio(cost.timeRatio()) + " × the audio's length");
    }
    if (Double.isFinite(cost.processorRatio())) {
      words.add("processor " + ratio(cost.processorRatio()) + " ×");
      double atOnce = cost.atOnce(cores);
      String here =
          atOnce >= 1
              ? (atOnce >= 100 ? "over 99" : String.valueOf((int) atOnce))
                  + " at once in real time here"
              : "too slow for real time here";
      if (cores > 0) {
        words.add(here);
      }
    }
    if (cost.memoryBytes() > 0) {
      words.add(Math.max(1, Math.round(cost.memoryBytes() / 1048576.0)) + " MiB");
    }
    if (!cost.price().isEmpty()) {
      words.add(cost.price());
    }
    if (cost.realTime() != null) {
      words.add(cost.realTime() ? "real time" : "offline");
    }
    return String.join(", ", words);
  }

  /** The same for a column. */
  static String shortCost(RoundupCost cost, int cores) {
    List<String> words = new ArrayList<>();
    if (Double.isFinite(cost.timeRatio())) {
      words.add(ratio(cost.timeRatio()) + " × length");
    }
    double atOnce = cost.atOnce(cores);
    if (Double.isFinite(atOnce)) {
      words.add((atOnce >= 100 ? "> 99" : String.valueOf((int) atOnce)) + " at once");
    }
    if (!cost.price().isEmpty()) {
      words.add(cost.price());
    }
    return String.join(", ", words);
  }

  private static String ratio(double value) {
    return StretchTarget.figure(
        new java.math.BigDecimal(value).round(new java.math.MathContext(2)).doubleValue());
  }

  /** "12 recordings". */
  static String recordings(int n) {
    return n == 1 ? "1 recording" : n + " recordings";
  }

  /** A value of what is looked at, with its unit. */
  public static String value(Roundup roundup, double value) {
    String unit = roundup.aspect().unit();
    return roundup.aspect().score()
        ? score(value)
        : number(value) + (unit.isEmpty() ? "" : " " + unit);
  }

  /** The same without its unit, for narrow places. */
  public static String bare(Roundup roundup, double value) {
    return roundup.aspect().score() ? score(value) : number(value);
  }

  private static String number(double value) {
    return String.format(Locale.ROOT, Math.abs(value) < 10 ? "%.2f" : "%.1f", value)
        .replace('-', '−');
  }

  private static String score(double value) {
    return String.format(Locale.ROOT, "%.0f", value).replace('-', '−');
  }

  private static String p(double p) {
    return p < 0.001 ? "p < 0.001" : String.format(Locale.ROOT, "p = %.3f", p);
  }
}
