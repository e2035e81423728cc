package kettlesieve.core.media;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/** Where the program keeps its own files for the person who runs it. */
public final class UserFolders {
  private UserFolders() {}

  /**
   * For what can be made again: {@code KETTLE_CACHE}, else the place that the person chose before
   * this start, else the system's usual cache folder.
   */
  public static Path cache() {
    String own = System.getenv("KETTLE_CACHE");
    if (own != null && !own.isBlank()) {
      return Path.of(own);
    }
    return Chosen.CACHE.orElseGet(UserFolders::usualCache);
  }

  /** Read once: what is open keeps to where it began. */
  private static final class Chosen {
    private static final Optional<Path> CACHE = CachePlace.chosen(state());
  }

  private static Path usualCache() {
    return base("XDG_CACHE_HOME", "LOCALAPPDATA", ".cache").resolve("kettle-sieve");
  }

  /** For what should last: {@code KETTLE_STATE}, else the system's usual folder for such files. */
  public static Path state() {
    String own = System.getProperty("kettle.state", System.getenv("KETTLE_STATE"));
    if (own != null && !own.isBlank()) {
      return Path.of(own);
    }
    return base("XDG_STATE_HOME", "APPDATA", ".local/state").resolve("kettle-sieve");
  }

  private static Path base(String xdg, String windows, String underHome) {
    for (String name : new String[] {xdg, windows}) {
      String value = System.getenv(name);
      if (value != null && !value.isBlank()) {
        return Path.of(value);
      }
    }
    // Java asks the system's list of users; whoever set HOME wants that instead.
    String own = System.getenv("HOME");
    String home = own != null && !own.isBlank() ? own : System.getProperty("user.home", "");
    if (home.isBlank() || !Files.isDirectory(Path.of(home))) {
      // A service or a container may have none.
      String user = System.getProperty("user.name", "").replaceAll("[^\\p{L}\\p{N}]+", "-");
      return Path.of(System.getProperty("java.io.tmpdir"), "kettle-sieve-of-" + user);
    }
    return Path.of(home, underHome);
  }
}
