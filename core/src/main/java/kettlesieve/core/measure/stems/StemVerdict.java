package kettlesieve.core.measure.stems;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Evidence;
import kettlesieve.core.measure.Figure;
import kettlesieve.core.measure.Limit;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.StemsTogether;
import kettlesieve.core.measure.pass.StemSums;
import kettlesieve.core.measure.reference.StemTruth;
import kettlesieve.core.signal.Db;

/**
 * How far a stem is off, and what of that is leakage, what is lacking and what is artifacts: by the
 * true stem where it is known, by what the other tools give where it is not.
 *
 * <p><b>How the three questions share it.</b> The whole error alone puts tools into the right
 * order; its parts tell why. So the points that it costs, from 0 at {@link #FULL_DB} or, by true
 * stems, {@link #FULL_BY_TRUTH_DB} to 58 where error and role are equally loud, are shared among
 * Missed, Added and Lost by what part of the error's energy each has, such that their joint score
 * is that of the whole; what is of one kind alone costs its question 100 where error and role are
 * equally loud.
 */
final class StemVerdict {
  /** What the others tell goes so far: better stems cannot be told from perfect ones. */
  static final double FULL_DB = 15;

  /** By true stems nobody hears what is further down. */
  static final double FULL_BY_TRUTH_DB = 30;

  /** Two that are nearer than that are not told apart: of four tools or more. */
  private static final double APART_DB = 1;

  /** Of three, where no other can be left out to see what then is said; of three with kin. */
  private static final double THREE_APART_DB = 2.5;

  private static final double KIN_APART_DB = 4;

  /** Two of one sort alone, or one beside kin: at any distance as often wrong as right. */
  private static final double NOT_TOLD_DB = 40;

  private static final double FEWEST_INDEPENDENT = 2.5;
  private static final double OTHER_SORT = 0.5;
  private static final double LEAST_SHARE_OF_MIX = 0.01;
  private static final double LEAST_PART = 0.02;
  private static final double SILENT_DB = -100;
  private static final double NOTHING_DB = -60;

  /** Energies of the parts of the error. */
  enum Kind {
    LEAKED,
    ADDED,
    LACKING
  }

  /** Of each true stem over the excerpt, in samples. */
  private static final StemsTogether.OfAll<Map<String, Double>> TRUE_ENERGIES =
      all -> {
        Map<String, Double> energies = new LinkedHashMap<>();
        all.truth().forEach((role, stem) -> energies.put(role, energy(all.excerpt(stem))));
        return energies;
      };

  private static final StemSet.OfSet<Map<String, StemVerdict>> KEPT = set -> new LinkedHashMap<>();

  private final boolean byTruth;
  private final Estimate sdr;
  private final double[] parts = new double[3];
  private final Map<String, Double> gains = new LinkedHashMap<>();
  private final Map<String, Double> leaked = new LinkedHashMap<>();
  private final List<String> notes = new ArrayList<>();
  private final Map<Kind, Estimate> ratios = new LinkedHashMap<>();
  private double mask = Double.NaN;
  private double independent = Double.NaN;

  /**
   * Of a tool's stem.
   *
   * @throws NotMeasurableException if nothing tells
   */
  static StemVerdict of(StemSet set, String role) throws NotMeasurableException {
    if (role.isEmpty()) {
      throw new NotMeasurableException("it is measured role by role");
    }
    Map<String, StemVerdict> kept = set.shared(KEPT);
    StemVerdict known = kept.get(role);
    if (known == null && silent(set, role)) {
      known = new StemVerdict();
      kept.put(role, known);
    } else if (known == null) {
      known = known(set, role) ? truth(set, role) : byOthers(set, role);
      kept.put(role, known);
    }
    return known;
  }

  private static double energy(Audio audio) {
    double sum = 1e-30;
    float[] block = new float[1 << 15];
    for (int c = 0; c < audio.channels(); c++) {
      for (long at = 0; at < audio.frames(); at += block.length) {
        int n = (int) Math.min(block.length, audio.frames() - at);
        audio.read(c, at, block, 0, n);
        for (int i = 0; i < n; i++) {
          sum += (double) block[i] * block[i];
        }
      }
    }
    return sum;
  }

  private static boolean silent(StemSet set, String role) throws NotMeasurableException {
    int tool = set.together().tools().indexOf(set.stems());
    return set.together().shared(StemErrors.OF).silent(tool, role);
  }

  /** Of a stem in which there is nothing: it answers no question, and is below all that sound. */
  private StemVerdict() {
    this.byTruth = false;
    this.sdr = Estimate.sure(SILENT_DB);
    java.util.Arrays.fill(parts, 1);
    ratios.put(Kind.LEAKED, Estimate.sure(NOTHING_DB));
    ratios.put(Kind.ADDED, Estimate.sure(NOTHING_DB));
    ratios.put(Kind.LACKING, Estimate.sure(0));
    notes.add("the stem is silent: that is no stem");
  }

  private static StemVerdict truth(StemSet set, String role) throws NotMeasurableException {
    if (StemTruth.knows(set, role)) {
      try {
        return new StemVerdict(set, StemTruth.of(set, role));
      } catch (NotMeasurableException e) {
        // Too many channels, or too much alike: gains by bands still tell.
        StemVerdict bySums = new StemVerdict(set, trueSums(set, role));
        bySums.notes.add("by gains in bands: " + e.getMessage());
        return bySums;
      }
    }
    return new StemVerdict(set, trueSums(set, role));
  }

  private static boolean known(StemSet set, String role) throws NotMeasurableException {
    StemSums sums = set.together().shared(StemErrors.SUMS);
    int truth = set.together().tools().size();
    return sums.tools() > truth && sums.roles(truth).contains(role);
  }

  private static TrueSums trueSums(StemSet set, String role) throws NotMeasurableException {
    int tool = set.together().tools().indexOf(set.stems());
    return new TrueSums(set.together().shared(StemErrors.SUMS), tool, role);
  }

  /**
   * By the other tools alone, whether the true stem is known or not.
   *
   * @throws NotMeasurableException if there is no other, or the role is too soft
   */
  static StemVerdict byOthers(StemSet set, String role) throws NotMeasurableException {
    StemErrors errors = set.together().shared(StemErrors.OF);
    RoleErrors own = errors.role(role);
    int tool = set.together().tools().indexOf(set.stems());
    if (own == null) {
      throw new NotMeasurableException(
          known(set, role)
              ? "no other tool gives this stem to compare with"
              : "no other tool gives this stem and the true one is not known: a tool is no judge of"
                  + " its own. Add another tool, or true stems");
    }
    if (own.shareOfMix < LEAST_SHARE_OF_MIX) {
      throw new NotMeasurableException("the role is under 1 % of the mix: too soft to be told");
    }
    int place = own.place(tool);
    if (place < 0) {
      throw new NotMeasurableException("the stem is silent");
    }
    return new StemVerdict(set, own, place);
  }

  private StemVerdict(StemSet set, StemTruth truth) throws NotMeasurableException {
    this.byTruth = true;
    this.sdr = truth.sdr();
    parts[Kind.LEAKED.ordinal()] = truth.interference();
    parts[Kind.ADDED.ordinal()] = truth.artifacts();
    parts[Kind.LACKING.ordinal()] = truth.filtering();
    ratios.put(Kind.LEAKED, truth.sir().map(x -> -x));
    ratios.put(Kind.ADDED, truth.sar().map(x -> -x));
    ratios.put(Kind.LACKING, truth.isr().map(x -> -x));
    Map<String, Double> of = set.together().shared(TRUE_ENERGIES);
    leaked.putAll(truth.leaked());
    leaked.forEach((offender, energy) -> gains.put(offender, energy / of.get(offender)));
    notes.add("by the true stems");
  }

  private StemVerdict(StemSet set, TrueSums truth) throws NotMeasurableException {
    this.byTruth = true;
    double[][] blocks = truth.energies();
    double[] all = new double[4];
    for (double[] block : blocks) {
      for (int i = 0; i < all.length; i++) {
        all[i] += block[i];
      }
    }
    if (!(all[0] + all[1] > 0)) {
      throw new NotMeasurableException("the true stem is silent, or this has nothing of it");
    }
    this.sdr = ratio(set, blocks, 0, 1, 2, 3);
    parts[Kind.LEAKED.ordinal()] = all[2];
    parts[Kind.ADDED.ordinal()] = all[3];
    parts[Kind.LACKING.ordinal()] = all[1];
    ratios.put(Kind.LEAKED, ratio(set, blocks, 0, 2).map(x -> -x));
    ratios.put(Kind.ADDED, ratio(set, blocks, 0, 3).map(x -> -x));
    ratios.put(Kind.LACKING, ratio(set, blocks, 0, 1).map(x -> -x));
    gains.putAll(truth.gains());
    leaked.putAll(truth.leaked());
    notes.add("by the true stems");
  }

  private static Estimate ratio(StemSet set, double[][] blocks, int of, int... to) {
    return set.source()
        .bootstrap()
        .estimate(
            w -> {
              double top = 0;
              double bottom = 0;
              for (int b = 0; b < blocks.length; b++) {
                top += w[b] * blocks[b][of];
                for (int i : to) {
                  bottom += w[b] * blocks[b][i];
                }
              }
              return Db.ofPower(Math.max(1e-10, top) / Math.max(bottom, 1e-10 * top + 1e-30));
            });
  }

  private StemVerdict(StemSet set, RoleErrors own, int place) {
    this.byTruth = false;
    double signal = own.found.signal();
    this.mask = own.found.mask()[place];
    this.independent = own.found.independent();
    // Each by itself: between two such tools it is as much as they must lie apart. Drawn by what a
    // stem holds, so that two that are the same are moved alike.
    this.sdr =
        own.sdr(place, set.source().bootstrap())
            .varied(apartDb(own) / Math.sqrt(2), own.role + own.energy(place));
    double error = own.found.error()[place];
    double leaked = own.leaked[place];
    double lacking = own.missing[place];
    double least = LEAST_PART * error;
    double rest = Math.max(least, error - leaked - lacking);
    parts[Kind.LEAKED.ordinal()] = Math.max(least, leaked);
    parts[Kind.ADDED.ordinal()] = rest;
    parts[Kind.LACKING.ordinal()] = Math.max(least, lacking);
    Estimate moved = sdr.map(x -> sdr.value() - x);
    for (Kind kind : Kind.values()) {
      double db = Db.ofPower(Math.max(1e-6, parts[kind.ordinal()] / signal));
      ratios.put(kind, moved.map(x -> db + x));
    }
    own.leaks
        .get(place)
        .forEach(
            (offender, leak) -> {
              gains.put(offender, leak.gain());
              this.leaked.put(offender, leak.energy());
            });
    notes.add("by what the other tools give");
    if (own.found.apart()[place]) {
      notes.add("it has too little to do with what the others give for this role");
    }
    notes.addAll(kin(own, place));
  }

  private static double apartDb(RoleErrors own) {
    boolean few = own.found.independent() < FEWEST_INDEPENDENT;
    return switch (own.tools.length) {
      case 2 -> otherSort(own) ? APART_DB : NOT_TOLD_DB;
      case 3 -> few ? KIN_APART_DB : THREE_APART_DB;
      default -> few ? NOT_TOLD_DB : APART_DB;
    };
  }

  /** Whether one of two is a mask of the mix and the other is none. */
  private static boolean otherSort(RoleErrors own) {
    return Math.abs(own.found.mask()[0] - own.found.mask()[1]) >= OTHER_SORT;
  }

  private static List<String> kin(RoleErrors own, int place) {
    List<String> notes = new ArrayList<>();
    int tools = own.tools.length;
    double independent = own.found.independent();
    if (tools > 2 && independent < FEWEST_INDEPENDENT) {
      notes.add(
          String.format(
              Locale.ROOT,
              "of %d tools so many are nearly alike that they count as %.1f: whether those or the"
                  + " others are right cannot be told without true stems; a test piece would tell",
              tools,
              independent));
    } else if (own.found.alone()[place] > 1.5) {
      notes.add("nearly like another tool's stem: together they count as one");
    } else if (tools == 2 && !otherSort(own)) {
      notes.add(
          "two tools alone, of one sort: which of them is nearer cannot be told. Add another tool,"
              + " or true stems");
    }
    return notes;
  }

  /**
   * A part of the error as a reading: how far it lies under the role, and the points it costs.
   * Where the whole is less than can be told, so are its parts: at most that.
   */
  Reading reading(String measure, Kind kind) {
    Estimate ratio = ratio(kind);
    Estimate shown = atTop() ? ratio.map(x -> Math.max(x, -FULL_DB)) : ratio;
    Limit limit = atTop() ? Limit.AT_OR_BELOW : Limit.NONE;
    Figure figure = new Figure(shown, points(kind), limit);
    return new Reading(measure, figure, List.of(), Evidence.NONE, List.of(), notes);
  }

  /** Whether true stems told it. */
  boolean byTruth() {
    return byTruth;
  }

  /** Signal-to-distortion ratio, dB. */
  Estimate sdr() {
    return sdr;
  }

  /** Whether it is better than what can be told. */
  boolean atTop() {
    return !byTruth && sdr.value() >= FULL_DB;
  }

  /** A part of the error under the role, dB. */
  Estimate ratio(Kind kind) {
    return ratios.get(kind);
  }

  /** By offender, how far that role is down in the stem, as a power. */
  Map<String, Double> gains() {
    return gains;
  }

  /** How far the stem is a mask of the mix, 0 to 1; NaN by true stems. */
  double mask() {
    return mask;
  }

  /** How many tools there are where those alike count as one; NaN by true stems. */
  double independent() {
    return independent;
  }

  /** What to know, in plain words. */
  List<String> notes() {
    return notes;
  }

  /** Points that one offender makes Missed lose: their squares add up to those of all. */
  Estimate points(String offender) {
    double all = leaked.values().stream().mapToDouble(x -> x).sum();
    double share = all > 0 ? Math.sqrt(leaked.getOrDefault(offender, 0.0) / all) : 0;
    return points(Kind.LEAKED).map(x -> share * x);
  }

  /** Points that a question loses, 0 to 100. */
  Estimate points(Kind kind) {
    double full = byTruth ? FULL_BY_TRUTH_DB : FULL_DB;
    double all = parts[0] + parts[1] + parts[2];
    return sdr.map(x -> points(Math.max(0, (full - x) / full), all, kind.ordinal()));
  }

  /**
   * @param whole 0 for nothing, 1 where error and role are equally loud
   */
  private double points(double whole, double all, int kind) {
    double[] points = new double[parts.length];
    double squares = 1e4 * Math.min(3, whole * whole);
    for (int round = 0; round < parts.length; round++) {
      // What a question cannot hold falls to the others.
      double left = squares;
      double open = 0;
      for (int k = 0; k < parts.length; k++) {
        left -= points[k] >= 100 ? 1e4 : 0;
        open += points[k] >= 100 ? 0 : parts[k];
      }
      for (int k = 0; k < parts.length; k++) {
        if (points[k] < 100) {
          double own = open > 0 ? Math.sqrt(Math.max(0, left) * parts[k] / open) : 0;
          points[k] = Math.min(100, own);
        }
      }
    }
    return all > 0 ? points[kind] : 0;
  }
}
