package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import java.util.stream.Stream;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Heard;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.media.Surroundings;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.AnswerFile;
import kettlesieve.core.report.BlindCopies;
import kettlesieve.core.report.Copies;
import kettlesieve.core.report.LeadersAudio;
import kettlesieve.core.report.PassageWords;
import kettlesieve.core.report.Reel;
import kettlesieve.core.report.Report;
import kettlesieve.core.report.ReportMaker;
import kettlesieve.core.report.ReportPage;
import kettlesieve.core.report.Section;
import kettlesieve.core.score.Passages;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.ProgramVersion;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What leaves the program to be read or heard elsewhere: written on a thread of its own. */
public final class Handover implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Handover.class);

  private static final int ID_BYTES = 6;

  private static final int MOST_WRITTEN = 6;

  private final ObservableList<Path> written = FXCollections.observableArrayList();
  private final ObservableList<Path> shown = FXCollections.unmodifiableObservableList(written);
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

  private final ReportTicks ticks;
  private final AtomicInteger previews = new AtomicInteger();

  Handover(Workspace workspace, Executor ui, Path stateFolder) {
    this.workspace = workspace;
    this.ui = ui;
    this.ticks = new ReportTicks(stateFolder);
  }

  /** What goes into a report. */
  public ReportTicks ticks() {
    return ticks;
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
    boolean pdf = file.toString().toLowerCase(Locale.ROOT).endsWith(".pdf");
    Draft draft = draft(pdf ? 0 : ReportMaker.MOST_SOUND_BYTES);
    go(
        file,
        () -> {
          Report report = draft.make();
          if (pdf) {
            WholeFile.write(file, out -> ReportPage.pdf(report, out));
          } else {
            WholeFile.write(file, ReportPage.html(report));
          }
          return "The report stands in " + file.getFileName() + ".";
        });
  }

  /**
   * Makes a picture of the report's first page, as it would be printed now.
   *
   * @param width pixels
   * @param shown gets the picture as PNG, or null if it could not be made
   */
  public void preview(int width, Consumer<byte[]> shown) {
    Draft draft = draft(0);
    int own = previews.incrementAndGet();
    writer.execute(
        () -> {
          // Whoever ticks five boxes wants one picture.
          if (own != previews.get()) {
            return;
          }
          byte[] picture = null;
          try {
            picture = ReportPage.picture(draft.make(), width);
          } catch (IOException | RuntimeException | Error e) {
            LOG.error("the report could not be drawn", e);
          }
          byte[] done = picture;
          ui.execute(() -> shown.accept(done));
        });
  }

  private interface Draft {
    Report make() throws IOException;
  }

  /** Everything is taken now: what is edited meanwhile does not mix into it. */
  private Draft draft(long soundBytes) {
    Comparison comparison = workspace.comparison();
    ScoreSheet sheet = workspace.sheetProperty().get();
    Audio source = workspace.sourceProperty().get().audio();
    Map<String, Heard> heard = heard();
    Set<Section> sections = ticks.ticked();
    Map<String, MediaFacts> beside = workspace.factsBeside();
    return () ->
        new ReportMaker(comparison, sheet, source, heard, beside)
            .make(LocalDate.now(), soundBytes, ProgramVersion.words(), sections);
  }

  /**
   * What goes into a reel.
   *
   * @param spots in place of the excerpts, so many of the worst places; 0 for the excerpts
   * @param role of the stems that are played; empty for versions in one file
   * @param sourceBeforeEach whether the source comes before every version
   * @param gapSeconds silence between pieces
   */
  public record ReelWish(int spots, String role, boolean sourceBeforeEach, double gapSeconds) {}

  /** Writes a reel, and the lists of its pieces beside it. */
  public void reel(Path file, ReelWish wish) {
    Comparison comparison = workspace.comparison();
    ScoreSheet sheet = workspace.sheetProperty().get();
    Audio source = workspace.sourceProperty().get().audio();
    Map<String, Heard> heard = heard();
    go(
        file,
        () -> {
          List<Reel.Passage> passages =
              wish.spots() == 0
                  ? Reel.passages(comparison, source, List.of())
                  : Reel.worst(sheet, source, wish.spots());
          if (passages.isEmpty()) {
            return "No reading names a place: there was nothing to put into a reel.";
          }
          Reel reel =
              Reel.of(
                  comparison,
                  source,
                  heard,
                  new Reel.Plan(passages, wish.role(), wish.sourceBeforeEach(), wish.gapSeconds()));
          WavWriter.write(
              reel.audio(), reel.cues(), file, WavWriter.Format.PCM_24, Progress.SILENT);
          String base = withoutEnding(file);
          WholeFile.write(Path.of(base + ".csv"), reel.csv());
          WholeFile.write(Path.of(base + ".txt"), reel.text());
          String lowered = lowered(reel.loweredDb());
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
    Clock clock = workspace.clock();
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
          WholeFile.write(
              Path.of(withoutEnding(file) + ".csv"), PassageWords.csv(sheet, passages, clock));
          return "The leaders stand in " + file.getFileName() + ".";
        });
  }

  /** Writes source and versions one by one into a folder, whole and at matched level. */
  public void copies(Path folder) {
    Comparison comparison = workspace.comparison();
    Audio source = workspace.sourceProperty().get().audio();
    Map<String, Heard> heard = heard();
    go(
        folder,
        () -> {
          Copies copies = Copies.of(comparison, source, heard);
          for (Path file : copies.files(folder)) {
            if (Files.exists(file)) {
              return file.getFileName()
                  + " is in "
                  + folder.getFileName()
                  + " already. Choose another folder; nothing was written.";
            }
          }
          copies.write(folder);
          return copies.copies().size()
              + " matched copies stand in "
              + folder.getFileName()
              + "."
              + lowered(copies.loweredDb());
        });
  }

  /**
   * What a listening sheet asks.
   *
   * @param kind rating or pairs
   * @param question what is to be listened for
   * @param withSource whether the untouched source takes part in pairs
   */
  public record SheetWish(Round.Kind kind, Round.Question question, boolean withSource) {}

  /** Writes a listening sheet for others into a folder; its key goes into the comparison. */
  public void sheet(Path folder, SheetWish wish) {
    Comparison comparison = workspace.comparison();
    Audio source = workspace.sourceProperty().get().audio();
    Prepared clean = workspace.preparedReference();
    Map<String, Heard> heard = heard();
    Set<String> roles = workspace.listening().rolesProperty().get();
    SecureRandom random = new SecureRandom();
    byte[] id = new byte[ID_BYTES];
    random.nextBytes(id);
    go(
        folder,
        () -> {
          try (Stream<Path> inside = Files.exists(folder) ? Files.list(folder) : Stream.empty()) {
            if (inside.findAny().isPresent()) {
              return folder.getFileName() + " is not empty. Choose or make an empty folder.";
            }
          }
          BlindCopies copies =
              BlindCopies.of(
                  comparison,
                  source,
                  clean == null ? null : clean.heard(),
                  heard,
                  new BlindCopies.Wish(
                      HexFormat.of().formatHex(id),
                      wish.kind(),
                      wish.question(),
                      Instant.now().truncatedTo(ChronoUnit.SECONDS).toString(),
                      wish.withSource(),
                      roles.size() == 1 ? roles.iterator().next() : "",
                      random.nextLong()));
          copies.write(folder);
          ui.execute(() -> workspace.edit(c -> c.withSheet(copies.key())));
          return copies.copies().size()
              + " letters stand in "
              + folder.getFileName()
              + ". Save the comparison, which holds the key, and hand the folder out.";
        });
  }

  /** Takes answers to listening sheets in; what is refused is said with its reason. */
  public void answers(List<Path> files) {
    Comparison taken = workspace.comparison();
    List<String> said = new ArrayList<>();
    int count = 0;
    for (Path file : files) {
      try {
        Comparison with = AnswerFile.take(taken, file);
        count += with.equals(taken) ? 0 : 1;
        taken = with;
      } catch (AnswerFile.RefusedException e) {
        said.add(e.getMessage() + ".");
      }
    }
    Comparison now = taken;
    if (count > 0) {
      workspace.edit(c -> now);
    }
    said.add(0, count == 1 ? "1 answer was taken in." : count + " answers were taken in.");
    if (said.size() == 1) {
      workspace.news().done(said.get(0));
    } else {
      workspace.messageProperty().set(String.join(" ", said));
    }
  }

  private static String lowered(double db) {
    return db > 0
        ? String.format(Locale.ROOT, " All was lowered by %.1f dB, or it would clip.", db)
        : "";
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

  /** Files and folders that were written while the window was open, the newest first. */
  public ObservableList<Path> written() {
    return shown;
  }

  private void go(Path file, Job job) {
    if (workspace.comparison().files().stream().anyMatch(ref -> ref.file().equals(file))) {
      workspace
          .messageProperty()
          .set(file.getFileName() + " is one of the recordings compared. Choose another name.");
      return;
    }
    busy.set(true);
    workspace.news().underWay("Writing " + file.getFileName() + " …");
    writer.execute(
        () -> {
          String said;
          boolean done = false;
          try {
            said = job.write();
            done = true;
          } catch (IOException e) {
            said = file + " could not be written. Check the folder and the room on the disk.";
          } catch (IllegalArgumentException e) {
            said = file.getFileName() + " could not be made: " + e.getMessage() + ".";
          } catch (RuntimeException | Error e) {
            LOG.error("what was to be handed over could not be made", e);
            said = file.getFileName() + " could not be made: " + Surroundings.words(e);
          }
          String words = said;
          boolean finished = done;
          ui.execute(
              () -> {
                busy.set(false);
                if (finished) {
                  workspace.news().done(words);
                  written.remove(file);
                  written.add(0, file);
                  while (written.size() > MOST_WRITTEN) {
                    written.remove(written.size() - 1);
                  }
                } else {
                  workspace.messageProperty().set(words);
                }
              });
        });
  }

  @Override
  public void close() {
    writer.shutdown();
  }
}
