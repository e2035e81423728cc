package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;
import kettlesieve.core.media.WholeFile;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Where the last file was chosen: the next one is likely to be near. */
public final class LastFolder {
  private static final Logger LOG = LoggerFactory.getLogger(LastFolder.class);

  private final Path memory;
  private Path folder;

  LastFolder(Path stateFolder) {
    this.memory = stateFolder.resolve("last-folder.txt");
    try {
      if (Files.isRegularFile(memory)) {
        folder = Path.of(Files.readString(memory).strip());
      }
    } catch (IOException | InvalidPathException e) {
      LOG.warn("the last folder is not remembered", e);
    }
  }

  /** The folder, if it is still there. */
  public Optional<Path> get() {
    return Optional.ofNullable(folder).filter(Files::isDirectory);
  }

  /** Remembers where a file was chosen. */
  public void used(Path file) {
    folder = file.toAbsolutePath().getParent();
    try {
      Files.createDirectories(memory.getParent());
      WholeFile.write(memory, folder.toString());
    } catch (IOException e) {
      LOG.warn("the last folder cannot be remembered", e);
    }
  }
}
