package kettlesieve.calibrate.trial;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.WorkFolder;
import kettlesieve.calibrate.corpus.Catalogue;
import kettlesieve.calibrate.corpus.Material;
import kettlesieve.calibrate.corpus.Packages;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.corpus.SceneMaker;
import kettlesieve.calibrate.makers.Denoisers;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.truth.Truth;
import kettlesieve.calibrate.truth.Truths;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;

/** Scenes, their versions and what is true of them, made once and kept. */
final class Corpus {
  /** Changes whenever scenes or makers do. */
  private static final String EDITION = "1";

  private static final ObjectMapper JSON = new ObjectMapper();

  private final Path folder;
  private final SceneMaker scenes;
  private final List<Maker<Material>> makers;

  Corpus(Path cache) {
    this.folder = cache.resolve("denoise-" + EDITION);
    Packages packages = new Packages(cache.resolve("packages"));
    this.scenes = new SceneMaker(Catalogue.shipped(), packages, cache.resolve("decoded"));
    this.makers = Denoisers.all(cache);
  }

  List<Maker<Material>> makers() {
    return makers;
  }

  /** The folder of a scene, made whole if it was not. */
  Path made(Scene scene) throws CalibrationException {
    Path own = folder.resolve(scene.id());
    Path done = own.resolve("made");
    if (Files.exists(done)) {
      return own;
    }
    try {
      Files.createDirectories(own);
      Material material = scenes.make(scene);
      write(material.source(), own.resolve("source.wav"));
      Truths truths = new Truths(material);
      for (Maker<Material> maker : makers) {
        Path truth = own.resolve(maker.id() + ".json");
        if (Files.exists(truth)) {
          continue;
        }
        try (WorkFolder work = WorkFolder.in(own)) {
          Audio version = maker.way().make(material, work.path());
          write(version, own.resolve(maker.id() + ".wav"));
          JSON.writeValue(truth.toFile(), truths.of(version));
        }
      }
      Files.createFile(done);
      return own;
    } catch (IOException e) {
      throw new CalibrationException(own + " cannot be written: " + e.getMessage(), e);
    }
  }

  private static void write(Audio audio, Path file) throws IOException {
    WavWriter.write(audio, file, WavWriter.Format.PCM_24, Progress.SILENT);
  }

  /** A recording of a scene, in memory. */
  Audio audio(Path own, String name) throws CalibrationException {
    Path decoded = own.resolve("decoded");
    try {
      Audio read =
          new MediaReader(decoded).read(own.resolve(name + ".wav"), Progress.SILENT).audio();
      Audio kept = Audio.of(read.sampleRate(), read.wholeChannel(0));
      WorkFolder.delete(decoded);
      return kept;
    } catch (MediaException | IOException e) {
      throw new CalibrationException(e.getMessage(), e);
    }
  }

  Truth truth(Path own, Maker<Material> maker) throws CalibrationException {
    try {
      return JSON.readValue(own.resolve(maker.id() + ".json").toFile(), Truth.class);
    } catch (IOException e) {
      throw new CalibrationException(e.getMessage(), e);
    }
  }
}
