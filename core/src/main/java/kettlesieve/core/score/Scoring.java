package kettlesieve.core.score;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.score.odds.SweepOdds;
import kettlesieve.core.score.odds.Validity;

/**
 * The order of the sheet, the scales of all measures and the delivery profiles, from the one data
 * file {@code scores.json}.
 *
 * @param order ids of the measures in the order in which they are shown; others follow
 * @param scales by measure id; a measure without a scale is not scored
 * @param profiles the first is the default
 * @param validity how far scores miss the truth, by the job's word; of stems that were judged by
 *     true ones, by {@link #BY_TRUTH}
 * @param sweeps how far the scores of several amounts of one tool miss it together
 */
public record Scoring(
    List<String> order,
    Map<String, ScaleByJob> scales,
    List<Profile> profiles,
    Map<String, Validity> validity,
    SweepOdds.Smooth sweeps) {
  /** Stems beside true stems. */
  public static final String BY_TRUTH = "stems-by-truth";

  private static final Scoring SHIPPED = read();

  /** Asked for at every turn of a view, and the same for all profiles. */
  private static final Map<Ordered, List<Measure>> ORDERED = new ConcurrentHashMap<>();

  private record Ordered(List<String> order, Job job) {
    List<Measure> measures() {
      return Measures.of(job).stream()
          .sorted(
              Comparator.comparingInt((Measure m) -> place(m.declaration().id()))
                  .thenComparing(m -> m.declaration().id()))
          .toList();
    }

    private int place(String measure) {
      int at = order.indexOf(measure);
      return at < 0 ? order.size() : at;
    }
  }

  public Scoring {
    order = List.copyOf(order);
    scales = Map.copyOf(scales);
    profiles = List.copyOf(profiles);
    validity = Map.copyOf(validity);
  }

  /**
   * The scale of a measure, and where a job has another.
   *
   * @param full as in {@link Scale}, for jobs that have no scale of their own
   * @param zero as in {@link Scale}
   * @param weight as in {@link Scale}
   * @param needed as in {@link Scale}
   * @param in scales of single jobs by the job's word; null for none
   */
  public record ScaleByJob(
      double full, double zero, double weight, boolean needed, Map<String, Scale> in) {
    /** The usual scale. */
    public Scale usual() {
      return new Scale(full, zero, weight, needed);
    }

    Scale of(Job job) {
      return in != null && in.containsKey(job.id()) ? in.get(job.id()) : usual();
    }
  }

  /** What ships with the program. */
  public static Scoring shipped() {
    return SHIPPED;
  }

  private static Scoring read() {
    try (InputStream in = Scoring.class.getResourceAsStream("scores.json")) {
      return new ObjectMapper().readValue(in, Scoring.class);
    } catch (IOException e) {
      throw new UncheckedIOException("the file of scales is damaged", e);
    }
  }

  /** What ships with the program, and the profiles of a comparison, which come first. */
  public static Scoring of(Comparison comparison) {
    return SHIPPED.withProfiles(comparison.profiles());
  }

  /** With a person's own profiles; one with the name of a shipped one takes its place. */
  public Scoring withProfiles(List<Profile> own) {
    if (own.isEmpty()) {
      return this;
    }
    List<Profile> all = new ArrayList<>(profiles);
    for (Profile profile : own) {
      all.replaceAll(p -> p.name().equals(profile.name()) ? profile : p);
      if (!all.contains(profile)) {
        all.add(profile);
      }
    }
    return new Scoring(order, scales, all, validity, sweeps);
  }

  /** The measures of a job, in the order in which they are taken and shown. */
  public List<Measure> measures(Job job) {
    return ORDERED.computeIfAbsent(new Ordered(order, job), Ordered::measures);
  }

  /** What the measures of a job declare, in the order in which they are shown. */
  public List<Declaration> declarations(Job job) {
    return measures(job).stream().map(Measure::declaration).toList();
  }

  /** The scale of a measure in a job; empty where it only informs. */
  public Optional<Scale> scale(Declaration measure, Job job) {
    return measure.axis(job) == Axis.INFO
        ? Optional.empty()
        : Optional.ofNullable(scales.get(measure.id())).map(s -> s.of(job));
  }

  /** The usual scale of a measure; empty if it is never scored. */
  public Optional<Scale> scale(String measure) {
    return Optional.ofNullable(scales.get(measure)).map(ScaleByJob::usual);
  }

  /**
   * How far the scores of a job miss the truth.
   *
   * @param byTruth whether stems were judged by true ones
   */
  public Validity validity(Job job, boolean byTruth) {
    return validity.get(byTruth ? BY_TRUTH : job.id());
  }

  /** A profile by its name. */
  public Optional<Profile> profile(String name) {
    return profiles.stream().filter(p -> p.name().equals(name)).findFirst();
  }

  /** The named profile, or the default for null or a name not known here. */
  public Profile profileOrDefault(String name) {
    return profile(name).orElse(profiles.get(0));
  }
}
