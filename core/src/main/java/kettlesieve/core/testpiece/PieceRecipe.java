package kettlesieve.core.testpiece;

import io.soabase.recordbuilder.core.RecordBuilder;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Job;

/**
 * What is to be made.
 *
 * @param job what tools will be tried on
 * @param clean the clean recording; null for a mix of stems
 * @param noise {@code white}, {@code pink}, {@code hum}, {@code clicks}, {@code pause:FILE} or a
 *     file; null for none
 * @param snr power of the clean recording over power of the noise, dB
 * @param clip level at which it is clipped, dB of its peak, 0 or less; null for not
 * @param soft whether the clipping bends before it holds
 * @param upperOnly whether only the upper half of the wave is clipped
 * @param room file of an impulse response; null for none
 * @param decay decay time of a made room, s; null for none
 * @param level dB by which the whole is moved; null for none
 * @param rate sampling frequency of the source, Hz; null for that of the clean recording
 * @param coding kbit/s of an MP3 that the source goes through; null for none
 * @param stems true stems, by role; empty for a clean recording
 * @param seed of whatever is drawn
 */
@RecordBuilder
public record PieceRecipe(
    Job job,
    Path clean,
    String noise,
    Double snr,
    Double clip,
    boolean soft,
    boolean upperOnly,
    Path room,
    Double decay,
    Double level,
    Integer rate,
    Integer coding,
    Map<String, StemShare> stems,
    long seed)
    implements PieceRecipeBuilder.With {
  /** Noises made by code. */
  public static final List<String> MADE_NOISES = List.of("white", "pink", "hum", "clicks");

  /** Before the file whose pauses give the noise. */
  public static final String PAUSE = "pause:";

  /**
   * A stem in a mix.
   *
   * @param file its recording
   * @param db its level
   * @param pan −1 for left to 1 for right; null to leave its channels as they are
   */
  public record StemShare(Path file, double db, Double pan) {}

  public PieceRecipe {
    stems = new LinkedHashMap<>(stems == null ? Map.of() : stems);
  }

  /** Of a job, from a clean recording. */
  public static PieceRecipe of(Job job, Path clean) {
    return PieceRecipeBuilder.builder().job(job).clean(clean).seed(1).build();
  }

  /**
   * The same at one step of a sweep: its signal-to-noise ratio, clip level or decay time.
   *
   * @throws PieceException in a job that has no such number
   */
  public PieceRecipe at(double difficulty) throws PieceException {
    return switch (job) {
      case DENOISE -> withSnr(difficulty);
      case DECLIP -> withClip(difficulty);
      case DEREVERB -> withDecay(difficulty).withRoom(null);
      case STEMS, STRETCH, PITCH ->
          throw new PieceException("a sweep is of noise, clipping or decay time");
    };
  }

  /**
   * Whether it says what it must.
   *
   * @throws PieceException with what is missing or wrong
   */
  public void check() throws PieceException {
    if (job.inStems()) {
      need(stems.size() > 1, "a mix is of two stems or more: --stem ROLE=FILE");
    } else {
      need(clean != null, "name the clean recording: --clean FILE");
    }
    switch (job) {
      case DENOISE -> {
        need(noise != null, "say which noise: a file, white, pink, hum, clicks or pause:FILE");
        need(
            !noise.isBlank() && !noise.equals(PAUSE),
            "name the recording whose noise is taken: FILE or pause:FILE");
        need(snr != null, "say how loud: the signal-to-noise ratio in dB");
        need(Math.abs(snr) <= 120, "the signal-to-noise ratio lies between −120 and 120 dB");
      }
      case DECLIP -> {
        need(clip != null, "say where it is clipped: dB of its peak, such as −6");
        need(clip <= 0 && clip >= -60, "the clip level lies between −60 and 0 dB");
      }
      case DEREVERB -> {
        need(room != null || decay != null, "say which room: a file, or a decay time in seconds");
        need(decay == null || decay >= 0.05 && decay <= 20, "a decay time is 0.05 to 20 s");
      }
      case STEMS, STRETCH, PITCH -> {
        // Nothing is drawn or set beyond what stands above.
      }
    }
    need(level == null || Math.abs(level) <= 60, "the level moves by 60 dB at most");
    need(rate == null || rate >= 8000 && rate <= 192_000, "a rate is 8,000 to 192,000 Hz");
    need(coding == null || coding >= 8 && coding <= 320, "an MP3 has 8 to 320 kbit/s");
    for (var stem : stems.entrySet()) {
      Double pan = stem.getValue().pan();
      need(
          pan == null || Math.abs(pan) <= 1,
          "the pan of " + stem.getKey() + " lies between −1 (left) and 1 (right)");
      need(
          Math.abs(stem.getValue().db()) <= 60,
          "the level of " + stem.getKey() + " lies between −60 and 60 dB");
    }
  }

  private static void need(boolean there, String otherwise) throws PieceException {
    if (!there) {
      throw new PieceException(otherwise);
    }
  }
}
