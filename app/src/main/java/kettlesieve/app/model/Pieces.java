package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.concurrent.Executor;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.task.Stop;
import kettlesieve.core.testpiece.PieceException;
import kettlesieve.core.testpiece.PieceFiles;
import kettlesieve.core.testpiece.PieceRecipe;
import kettlesieve.core.testpiece.TestPiece;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Makes test pieces. Interface thread, but for the thread of its own that makes them; what that
 * tells comes back on the interface thread.
 */
public final class Pieces implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Pieces.class);

  private final Executor ui;
  private final MediaReader reader;
  private final ReadOnlyBooleanWrapper running = new ReadOnlyBooleanWrapper();
  private final ReadOnlyStringWrapper words = new ReadOnlyStringWrapper("");
  private AtomicBoolean over = new AtomicBoolean();

  Pieces(Executor ui, MediaReader reader) {
    this.ui = ui;
    this.reader = reader;
  }

  /** Whether some are being made. */
  public ReadOnlyBooleanProperty runningProperty() {
    return running.getReadOnlyProperty();
  }

  /** What is being done, or what went wrong. */
  public ReadOnlyStringProperty wordsProperty() {
    return words.getReadOnlyProperty();
  }

  /**
   * Makes pieces, one a step of a sweep.
   *
   * @param out the comparison; of a sweep the first part of its name
   * @param further what is set in each comparison beyond that
   * @param done told the comparisons that were made
   */
  public void make(
      List<PieceRecipe> steps,
      Path out,
      List<String> tags,
      UnaryOperator<Comparison> further,
      Consumer<List<Path>> done) {
    running.set(true);
    // What was stopped stays stopped: each run has a word of its own.
    AtomicBoolean own = new AtomicBoolean();
    over = own;
    words.set("Making " + (steps.size() == 1 ? "the test piece" : steps.size() + " test pieces"));
    Stop stop =
        () -> {
          if (own.get()) {
            throw new CancellationException();
          }
        };
    Thread thread =
        new Thread(
            () -> {
              List<Path> made = new ArrayList<>();
              String problem = "";
              try {
                for (int i = 0; i < steps.size(); i++) {
                  PieceRecipe recipe = steps.get(i);
                  TestPiece piece = TestPiece.of(recipe, reader, (what, share) -> {}, stop);
                  Path file = steps.size() == 1 ? out : PieceFiles.step(out, i + 1);
                  PieceFiles.write(piece, recipe, file, tags, (what, share) -> {});
                  ComparisonFile.update(file, further);
                  made.add(file);
                  int n = i + 1;
                  ui.execute(() -> words.set(n + " of " + steps.size() + " made"));
                }
              } catch (CancellationException e) {
                problem = "Stopped.";
              } catch (MediaException | PieceException | ComparisonFileException e) {
                problem = e.getMessage();
              } catch (IOException e) {
                problem =
                    out + ": it could not be written. Check the folder and the room on the disk.";
              } catch (RuntimeException | OutOfMemoryError e) {
                LOG.error("a test piece broke down", e);
                problem = kettlesieve.core.media.Surroundings.words(e);
              }
              String said = problem;
              ui.execute(
                  () -> {
                    running.set(false);
                    words.set(said);
                    if (!made.isEmpty()) {
                      done.accept(made);
                    }
                  });
            },
            "test piece");
    thread.setDaemon(true);
    thread.start();
  }

  /** Stops making; what was made stays. */
  public void stop() {
    over.set(true);
  }

  @Override
  public void close() {
    stop();
  }
}
