package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Heard;
import kettlesieve.core.media.Surroundings;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.LeadersAudio;
import kettlesieve.core.report.PassageWords;
import kettlesieve.core.report.Reel;
import kettlesieve.core.report.Report;
import kettlesieve.core.report.ReportMaker;
import kettlesieve.core.report.ReportPage;
import kettlesieve.core.score.Passages;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Progress;
import kettlesieve.core.work.CodeVersion;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What leaves the program to be read or heard elsewhere: written on a thread of its own. */
public final class Handover implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Handover.class);

  private final Workspace workspace;
  private final Executor ui;
  private final BooleanProperty busy = new SimpleBooleanProperty();
  private final ExecutorService writer =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread thread = new Thread(task, "handover");
            thread.setDaemon(true);
            return thread;
          });

  Handover(Workspace workspace, Executor ui) {
    this.workspace = workspace;
    this.ui = ui;
  }

  /** Whether something is being written. */
  public BooleanProperty busyProperty() {
    return busy;
  }

  private interface Job {
    String write() throws IOException;
  }

  /** Writes the report: as PDF where the name ends so, else as a page with sounds. */
  public void report(Path file) {
    Comparison comparison = workspace.comparison();
    ScoreSheet sheet = workspace.sheetProperty().get();
    Audio source = workspace.sourceProperty().get().audio();
    Map<String, Heard> heard = heard();
    boolean pdf = file.toString().toLowerCase(Locale.ROOT).endsWith(".pdf");
    go(
        file,
        () -> {
          Report report =
              new ReportMaker(comparison, sheet, source, heard)
                  .make(
                      LocalDate.now(),
                      pdf ? 0 : ReportMaker.MOST_SOUND_BYTES,
                      "Kettle Sieve, state " + CodeVersion.OWN.substring(0, 12));
          if (pdf) {
            WholeFile.write(file, out -> ReportPage.pdf(report, out));
          } else {
            WholeFile.write(file, ReportPage.html(report));
          }
          return "The report stands in " + file.getFileName() + ".";
        });
  }

  /**
   * Writes a reel of all excerpts, and the lists of its pieces beside it.
   *
   * @param role of the stems that are played; empty for versions in one file
   */
  public void reel(Path file, String role) {
    Comparison comparison = workspace.comparison();
    Audio source = workspace.sourceProperty().get().audio();
    Map<String, Heard> heard = heard();
    go(
        file,
        () -> {
          List<Reel.Passage> passages = Reel.passages(comparison, source, List.of());
          Reel reel =
              Reel.of(
                  comparison,
                  source,
                  heard,
                  new Reel.Plan(passages, role, false, Reel.GAP_SECONDS));
          WavWriter.write(
              reel.audio(), reel.cues(), file, WavWriter.Format.PCM_24, Progress.SILENT);
          String base = withoutEnding(file);
          WholeFile.write(Path.of(base + ".csv"), reel.csv());
          WholeFile.write(Path.of(base + ".txt"), reel.text());
          String lowered =
              reel.loweredDb() > 0
                  ? String.format(
                      Locale.ROOT,
                      " All was lowered by %.1f dB, or it would clip.",
                      reel.loweredDb())
                  : "";
          return "The reel of "
              + reel.pieces().size()
              + " pieces stands in "
              + file.getFileName()
              + "."
              + lowered;
        });
  }

  /** Writes each passage from its leader, with cues, and the list of passages beside it. */
  public void leaders(Path file, Passages passages) {
    ScoreSheet sheet = workspace.sheetProperty().get();
    Audio source = workspace.sourceProperty().get().audio();
    Map<String, Heard> heard = heard();
    go(
        file,
        () -> {
          Audio leaders = new LeadersAudio(passages, heard, source.sampleRate(), source.frames());
          WavWriter.write(
              leaders,
              PassageWords.cues(sheet, passages, source.sampleRate()),
              file,
              WavWriter.Format.FLOAT,
              Progress.SILENT);
          WholeFile.write(Path.of(withoutEnding(file) + ".csv"), PassageWords.csv(sheet, passages));
          return "The leaders stand in " + file.getFileName() + ".";
        });
  }

  private static String withoutEnding(Path file) {
    return file.toString().replaceFirst("\\.[^./\\\\]*$", "");
  }

  private Map<String, Heard> heard() {
    Map<String, Heard> heard = new LinkedHashMap<>();
    for (Version v : workspace.comparison().versions()) {
      Prepared prepared = workspace.state(v.id()).prepared();
      if (prepared != null) {
        heard.put(v.id(), prepared.heard());
      }
    }
    return heard;
  }

  private void go(Path file, Job job) {
    if (workspace.comparison().files().stream().anyMatch(ref -> ref.file().equals(file))) {
      workspace
          .messageProperty()
          .set(file.getFileName() + " is one of the recordings compared. Choose another name.");
      return;
    }
    busy.set(true);
    workspace.messageProperty().set("Writing " + file.getFileName() + " …");
    writer.execute(
        () -> {
          String said;
          try {
            said = job.write();
          } catch (IOException e) {
            said = file + " could not be written. Check the folder and the room on the disk.";
          } catch (RuntimeException | Error e) {
            LOG.error("what was to be handed over could not be made", e);
            said = file.getFileName() + " could not be made: " + Surroundings.words(e);
          }
          String words = said;
          ui.execute(
              () -> {
                busy.set(false);
                workspace.messageProperty().set(words);
              });
        });
  }

  @Override
  public void close() {
    writer.shutdown();
  }
}
