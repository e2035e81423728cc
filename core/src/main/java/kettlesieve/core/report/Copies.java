package kettlesieve.core.report;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Heard;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.task.Progress;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/**
 * Source and versions one by one, whole and at matched level: to be laid under each other in
 * another program. Stretched versions keep their own time; of stems every role is a copy of its
 * own, at the level it was delivered with. Kept excerpts are cues. If one would clip, all are
 * lowered by the same amount.
 *
 * @param copies what there is, the source first
 * @param loweredDb by how much everything was lowered, not below 0
 */
public record Copies(List<Copy> copies, double loweredDb) {
  /** Of the lists beside the copies. */
  private static final String LIST = "list";

  private static final int LONGEST_NAME = 60;

  /**
   * A copy.
   *
   * @param file its name
   * @param label {@code Source}, or that of the version
   * @param role of the stem; empty without stems
   * @param audio the sound
   * @param cues its excerpts, in its own time
   */
  public record Copy(
      String file, String label, String role, Audio audio, List<WavWriter.Cue> cues) {}

  /**
   * All copies of a comparison.
   *
   * @param source the whole of it
   * @param matched versions by id; those that are missing are left out
   */
  public static Copies of(Comparison comparison, Audio source, Map<String, Heard> matched) {
    List<Copy> copies = new ArrayList<>();
    Set<String> names = new HashSet<>();
    Heard own = new Heard(source, TimeMap.IDENTITY, Map.of());
    copies.add(copy(comparison, own, names, "00", Reel.SOURCE, "", source));
    int number = 0;
    for (Version version : comparison.versions()) {
      number++;
      Heard heard = matched.get(version.id());
      if (heard == null) {
        continue;
      }
      String digits = String.format(Locale.ROOT, "%02d", number);
      if (heard.stems().isEmpty()) {
        copies.add(copy(comparison, heard, names, digits, version.label(), "", heard.audio()));
      }
      for (Map.Entry<String, Audio> stem : heard.stems().entrySet()) {
        copies.add(
            copy(
                comparison, heard, names, digits, version.label(), stem.getKey(), stem.getValue()));
      }
    }
    double peak = copies.stream().mapToDouble(c -> Reel.peak(c.audio())).max().orElse(0);
    if (peak <= Reel.FULL) {
      return new Copies(List.copyOf(copies), 0);
    }
    double gain = Reel.FULL / peak;
    copies.replaceAll(
        c -> new Copy(c.file(), c.label(), c.role(), c.audio().times(gain), c.cues()));
    return new Copies(List.copyOf(copies), -20 * Math.log10(gain));
  }

  private static Copy copy(
      Comparison comparison,
      Heard heard,
      Set<String> names,
      String number,
      String label,
      String role,
      Audio audio) {
    List<WavWriter.Cue> cues = new ArrayList<>();
    for (Excerpt e : comparison.excerpts()) {
      long frame = Math.round(heard.map().at(e.span().from()) * audio.sampleRate());
      cues.add(new WavWriter.Cue(Math.max(0, Math.min(frame, audio.frames() - 1)), e.name()));
    }
    return new Copy(name(names, number, label, role), label, role, audio, cues);
  }

  /** A name that every system takes, and no other copy has. */
  private static String name(Set<String> names, String number, String label, String role) {
    String words = label + (role.isEmpty() ? "" : " " + role);
    String plain = words.replaceAll("[^\\p{L}\\p{N} _-]+", "-").strip();
    String base = number + " " + plain.substring(0, Math.min(LONGEST_NAME, plain.length()));
    String name = base.strip();
    for (int n = 2; !names.add(name.toLowerCase(Locale.ROOT)); n++) {
      name = base.strip() + " " + n;
    }
    return name + ".wav";
  }

  /** All files that would be written to a folder. */
  public List<Path> files(Path folder) {
    List<Path> files = new ArrayList<>(copies.stream().map(c -> folder.resolve(c.file())).toList());
    files.add(folder.resolve(LIST + ".csv"));
    files.add(folder.resolve(LIST + ".txt"));
    return files;
  }

  /**
   * Writes all copies and their lists to a folder, which is made if it is not there.
   *
   * @throws IOException if a file cannot be written; those before it stay
   */
  public void write(Path folder) throws IOException {
    Files.createDirectories(folder);
    for (Copy c : copies) {
      WavWriter.write(
          c.audio(), c.cues(), folder.resolve(c.file()), WavWriter.Format.PCM_24, Progress.SILENT);
    }
    WholeFile.write(folder.resolve(LIST + ".csv"), csv());
    WholeFile.write(folder.resolve(LIST + ".txt"), text());
  }

  /** The copies as CSV with the columns file, label, role and seconds. */
  public String csv() {
    StringBuilder text = new StringBuilder();
    try (CSVPrinter csv = new CSVPrinter(text, CSVFormat.RFC4180)) {
      csv.printRecord("file", "label", "role", "seconds");
      for (Copy c : copies) {
        csv.printRecord(
            ScoresCsv.cell(c.file()),
            ScoresCsv.cell(c.label()),
            ScoresCsv.cell(c.role()),
            String.format(Locale.ROOT, "%.6f", c.audio().seconds()));
      }
    } catch (IOException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
    return text.toString();
  }

  /** The copies for people, a line each. */
  public String text() {
    StringBuilder text = new StringBuilder();
    for (Copy c : copies) {
      text.append(c.file()).append("  ").append(c.label());
      text.append(c.role().isEmpty() ? "" : ", " + c.role()).append('\n');
    }
    return text.toString();
  }
}
