package kettlesieve.core.score;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;

/**
 * The scales of all measures and the delivery profiles, from the one data file {@code scores.json}.
 *
 * @param scales by measure id; a measure without a scale is not scored
 * @param profiles the first is the default
 */
public record Scoring(Map<String, Scale> scales, List<Profile> profiles) {
  private static final Scoring SHIPPED = read();

  public Scoring {
    scales = Map.copyOf(scales);
    profiles = List.copyOf(profiles);
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
    return new Scoring(scales, all);
  }

  /** The scale of a measure in a job; empty where it only informs. */
  public Optional<Scale> scale(Declaration measure, Job job) {
    return measure.axis(job) == Axis.INFO ? Optional.empty() : scale(measure.id());
  }

  public Optional<Scale> scale(String measure) {
    return Optional.ofNullable(scales.get(measure));
  }

  public Optional<Profile> profile(String name) {
    return profiles.stream().filter(p -> p.name().equals(name)).findFirst();
  }

  /** The named profile, or the default for null or a name not known here. */
  public Profile profileOrDefault(String name) {
    return profile(name).orElse(profiles.get(0));
  }
}
