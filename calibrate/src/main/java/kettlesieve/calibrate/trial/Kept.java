package kettlesieve.calibrate.trial;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Consumer;
import java.util.function.Function;
import kettlesieve.calibrate.CalibrationException;

/**
 * Trials side by side, each kept as a file of its own as soon as it is done.
 *
 * @param <S> a scene
 * @param <T> what its trial gives
 */
final class Kept<S, T> {
  private static final ObjectMapper JSON = new ObjectMapper();

  /** Judges a scene. */
  interface Judge<S, T> {
    T of(S scene) throws CalibrationException;
  }

  private final Path folder;
  private final Class<T> type;
  private final Function<S, String> id;
  private final Judge<S, T> judge;

  Kept(Path folder, Class<T> type, Function<S, String> id, Judge<S, T> judge) {
    this.folder = folder;
    this.type = type;
    this.id = id;
    this.judge = judge;
  }

  /** Some scenes, as many at a time as there are processors. */
  List<T> run(List<S> all, Choice choice, Consumer<String> said) throws CalibrationException {
    List<S> scenes = new ArrayList<>();
    for (int i = 0; i < all.size(); i += choice.every()) {
      if (id.apply(all.get(i)).contains(choice.only())) {
        scenes.add(all.get(i));
      }
    }
    ExecutorService pool = Executors.newFixedThreadPool(Runtime.getRuntime().availableProcessors());
    try {
      List<Future<T>> going = new ArrayList<>();
      for (S scene : scenes) {
        going.add(pool.submit(() -> one(scene)));
      }
      List<T> trials = new ArrayList<>();
      for (Future<T> future : going) {
        trials.add(future.get());
        said.accept(trials.size() + " of " + scenes.size() + " sources");
      }
      return trials;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new CalibrationException("interrupted", e);
    } catch (ExecutionException e) {
      if (e.getCause() instanceof CalibrationException own) {
        throw own;
      }
      throw new IllegalStateException(e.getCause());
    } finally {
      pool.shutdownNow();
    }
  }

  private T one(S scene) throws CalibrationException {
    Path kept = folder.resolve(id.apply(scene) + ".json");
    try {
      if (Files.exists(kept)) {
        return JSON.readValue(kept.toFile(), type);
      }
      T trial = judge.of(scene);
      Files.createDirectories(folder);
      Path unfinished = kept.resolveSibling(kept.getFileName() + ".part");
      JSON.writeValue(unfinished.toFile(), trial);
      Files.move(unfinished, kept);
      return trial;
    } catch (IOException e) {
      throw new CalibrationException(kept + " cannot be kept: " + e.getMessage(), e);
    }
  }
}
