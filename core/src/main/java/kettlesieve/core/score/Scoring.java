package kettlesieve.core.score;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;

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
