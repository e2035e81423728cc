package kettlesieve.core.report;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Heard;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Scale;
import kettlesieve.core.score.ScoreSheet;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/**
 * Source and versions back to back at matched level, with silence between: one recording to hand
 * over. Pieces begin with the first sample at their cue; fades lie inside them. If it would clip,
 * all pieces are lowered by one amount.
 *
 * @param audio the whole reel
 * @param cues where the pieces begin
 * @param pieces what they are, in the same order
 * @param loweredDb by how much everything was lowered, not below 0
 */
public record Reel(Audio audio, List<WavWriter.Cue> cues, List<Piece> pieces, double loweredDb) {
  /** Silence between pieces, seconds. */
  public static final double GAP_SECONDS = 0.5;

  private static final double SPOT_SECONDS = 3;
  static final String SOURCE = "Source";

  /** The largest value that 24 bits hold. */
  static final double FULL = 1 - Math.pow(2, -23);

  /**
   * A piece.
   *
   * @param excerpt name of the passage; empty for the whole source
   * @param label {@code Source}, or that of the version
   * @param audio the sound, at its matched level
   */
  public record Piece(String excerpt, String label, Audio audio) {}

  /**
   * A passage of the source.
   *
   * @param name of it; may be empty
   * @param from seconds of the source
   * @param to seconds of the source
   */
  public record Passage(String name, double from, double to) {}

  /**
   * What goes into a reel.
   *
   * @param passages which passages, in order
   * @param role of the stems that are played; empty for versions in one file
   * @param sourceBeforeEach whether the source comes before every version, not once a passage
   * @param gapSeconds silence between pieces
   */
  public record Plan(
      List<Passage> passages, String role, boolean sourceBeforeEach, double gapSeconds) {}

  /** The passages of a comparison: its excerpts, or those that are named; else the whole. */
  public static List<Passage> passages(Comparison comparison, Audio source, List<String> names) {
    List<Passage> passages = new ArrayList<>();
    for (Excerpt e : comparison.excerpts()) {
      if (names.isEmpty() || names.contains(e.name())) {
        passages.add(
            new Passage(
                e.name(), Math.max(0, e.span().from()), Math.min(source.seconds(), e.span().to())));
      }
    }
    return passages.isEmpty() ? List.of(new Passage("", 0, source.seconds())) : passages;
  }

  /**
   * The places that cost most, over all versions: three seconds around each, not closer together
   * than that.
   *
   * @param most how many
   */
  public static List<Passage> worst(ScoreSheet sheet, Audio source, int most) {
    record Cost(double score, double middle, String words) {}
    List<Cost> costs = new ArrayList<>();
    for (Entry entry : sheet.entries()) {
      for (Reading r : entry.taken().readings()) {
        Optional<Scale> scale =
            sheet.scoring().scale(Measures.declaration(r.measure()), sheet.job());
        if (scale.isPresent() && !r.spots().isEmpty()) {
          Spot spot = r.spots().get(0);
          costs.add(
              new Cost(
                  scale.get().score(r.scored().value()),
                  (spot.from() + spot.to()) / 2,
                  Measures.declaration(r.measure()).title()));
        }
      }
    }
    costs.sort(Comparator.comparingDouble(Cost::score));
    List<Passage> passages = new ArrayList<>();
    List<Double> taken = new ArrayList<>();
    for (Cost c : costs) {
      boolean apart = taken.stream().allMatch(t -> Math.abs(t - c.middle()) >= SPOT_SECONDS);
      if (apart && passages.size() < most) {
        double from = Math.max(0, c.middle() - SPOT_SECONDS / 2);
        double to = Math.min(source.seconds(), from + SPOT_SECONDS);
        taken.add(c.middle());
        passages.add(
            new Passage(
                String.format(
                    Locale.ROOT,
                    "%s at %d:%02d",
                    c.words(),
                    (int) c.middle() / 60,
                    (int) c.middle() % 60),
                from,
                to));
      }
    }
    return passages;
  }

  /**
   * Puts a reel together.
   *
   * @param source the whole of it
   * @param matched versions by id; those that are missing are left out
   */
  public static Reel of(
      Comparison comparison, Audio source, Map<String, Heard> matched, Plan plan) {
    Heard own = new Heard(source, TimeMap.IDENTITY, Map.of());
    List<Piece> pieces = new ArrayList<>();
    for (Passage passage : plan.passages()) {
      Piece before = new Piece(passage.name(), SOURCE, own.between(passage.from(), passage.to()));
      boolean first = true;
      for (Version version : comparison.versions()) {
        Heard found = matched.get(version.id());
        Audio sound = found == null ? null : sound(found, plan.role(), passage);
        if (sound == null) {
          continue;
        }
        if (first || plan.sourceBeforeEach()) {
          pieces.add(before);
        }
        first = false;
        pieces.add(new Piece(passage.name(), version.label(), sound));
      }
    }
    return joined(pieces, source.sampleRate(), plan.gapSeconds());
  }

  private static Audio sound(Heard version, String role, Passage passage) {
    return role.isEmpty()
        ? version.between(passage.from(), passage.to())
        : version.between(role, passage.from(), passage.to());
  }

  private static Reel joined(List<Piece> pieces, int rate, double gapSeconds) {
    int channels = pieces.stream().mapToInt(p -> p.audio().channels()).max().orElse(1);
    List<Audio> sounds = pieces.stream().map(p -> p.audio().asChannels(channels)).toList();
    double peak = sounds.stream().mapToDouble(Reel::peak).max().orElse(0);
    double gain = peak > FULL ? FULL / peak : 1;
    List<WavWriter.Cue> cues = new ArrayList<>();
    long gap = Math.round(gapSeconds * rate);
    long at = 0;
    for (Piece piece : pieces) {
      cues.add(new WavWriter.Cue(at, piece.label()));
      at += piece.audio().frames() + gap;
    }
    Audio whole = new JoinedAudio(sounds, rate, channels, gap, gain);
    return new Reel(whole, cues, List.copyOf(pieces), gain < 1 ? -20 * Math.log10(gain) : 0);
  }

  /** The largest sample, not below 0. */
  static double peak(Audio audio) {
    float[] block = new float[1 << 14];
    double peak = 0;
    for (int c = 0; c < audio.channels(); c++) {
      for (long at = 0; at < audio.frames(); at += block.length) {
        int n = (int) Math.min(block.length, audio.frames() - at);
        audio.read(c, at, block, 0, n);
        for (int i = 0; i < n; i++) {
          peak = Math.max(peak, Math.abs(block[i]));
        }
      }
    }
    return peak;
  }

  /** The pieces as CSV with the columns seconds, frame, excerpt and label. */
  public String csv() {
    StringBuilder text = new StringBuilder();
    try (CSVPrinter csv = new CSVPrinter(text, CSVFormat.RFC4180)) {
      csv.printRecord("seconds", "frame", "excerpt", "label");
      for (int i = 0; i < pieces.size(); i++) {
        long frame = cues.get(i).frame();
        csv.printRecord(
            String.format(Locale.ROOT, "%.6f", (double) frame / audio.sampleRate()),
            frame,
            ScoresCsv.cell(pieces.get(i).excerpt()),
            ScoresCsv.cell(pieces.get(i).label()));
      }
    } catch (IOException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
    return text.toString();
  }

  /** The pieces for a description, such as "0:12 Plain subtraction 60". */
  public String text() {
    StringBuilder text = new StringBuilder();
    String excerpt = "";
    for (int i = 0; i < pieces.size(); i++) {
      if (!pieces.get(i).excerpt().equals(excerpt)) {
        excerpt = pieces.get(i).excerpt();
        text.append(excerpt).append('\n');
      }
      long seconds = cues.get(i).frame() / audio.sampleRate();
      text.append(
          String.format(
              Locale.ROOT, "%d:%02d %s\n", seconds / 60, seconds % 60, pieces.get(i).label()));
    }
    return text.toString();
  }
}
