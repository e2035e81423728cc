package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * How the source of a test piece was made, so that its truth is known; null for what was not done.
 *
 * @param from the clean recording it was made from; empty for a mix of stems
 * @param noise the noise that was added, by its word or its file
 * @param snr power of the clean recording over power of the noise, over the whole length, dB
 * @param clip level at which it was clipped, dB under the clean recording's peak
 * @param soft whether it was clipped softly
 * @param sides which halves of the wave were clipped, {@code both} or {@code upper}
 * @param room the room's impulse response: its file, or {@code made}
 * @param decay the made room's decay time over 60 dB, s
 * @param level dB by which the whole was moved
 * @param coding kbit/s of the MP3 it went through
 * @param mix levels and pans of the stems, by role
 * @param seed of whatever was drawn
 */
@RecordBuilder
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Made(
    String from,
    String noise,
    Double snr,
    Double clip,
    Boolean soft,
    String sides,
    String room,
    Double decay,
    Double level,
    Integer coding,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) Map<String, String> mix,
    Long seed)
    implements MadeBuilder.With {
  public Made {
    from = from == null ? "" : from;
    Map<String, String> all = new LinkedHashMap<>(mix == null ? Map.of() : mix);
    mix = Collections.unmodifiableMap(all);
  }

  /** Made from a recording, nothing done yet. */
  public static Made from(String file) {
    return MadeBuilder.builder().from(file).build();
  }

  /**
   * How hard a piece is.
   *
   * @param value in its unit
   * @param title what it is, for people
   * @param unit of the value
   * @param harderWhenLess whether less of it is harder
   */
  public record Difficulty(double value, String title, String unit, boolean harderWhenLess) {}

  /** How hard it is; empty where no one number says. */
  @JsonIgnore
  public Optional<Difficulty> difficulty() {
    if (snr != null) {
      return Optional.of(new Difficulty(snr, "Signal-to-noise ratio", "dB", true));
    }
    if (clip != null) {
      return Optional.of(new Difficulty(clip, "Clip level", "dB", true));
    }
    return decay == null
        ? Optional.empty()
        : Optional.of(new Difficulty(decay, "Decay time", "s", false));
  }

  /** In words, such as "pink noise at 10 dB". */
  @JsonIgnore
  public String words() {
    StringBuilder words = new StringBuilder();
    if (noise != null) {
      words.append("noise: ").append(noise).append(" at ").append(figure(snr)).append(" dB");
    }
    if (clip != null) {
      words
          .append(Boolean.TRUE.equals(soft) ? "clipped softly at " : "clipped at ")
          .append(figure(clip))
          .append(" dB of its peak");
      words.append("upper".equals(sides) ? ", upper half only" : "");
    }
    if (room != null) {
      words.append(
          decay == null ? "in the room of " + room : "in a made room of " + figure(decay) + " s");
    }
    if (!mix.isEmpty()) {
      words.append("mixed from ").append(String.join(", ", mix.keySet()));
    }
    if (coding != null) {
      words.append(words.isEmpty() ? "" : ", then ").append("MP3 at ").append(coding);
      words.append(" kbit/s");
    }
    if (level != null && level != 0) {
      words.append(words.isEmpty() ? "" : ", ").append("moved by ").append(figure(level));
      words.append(" dB");
    }
    return words.toString();
  }

  private static String figure(double value) {
    return StretchTarget.figure(value).replace('-', '−');
  }
}
