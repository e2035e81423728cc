package kettlesieve.core.media;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** What the program needs of the system around it, made ready before anything else is touched. */
public final class Surroundings {
  private Surroundings() {}

  /**
   * Says where libraries unpack and where the log goes: into the person's own folders, unless it is
   * said otherwise. To be called before the first log line and the first recording.
   */
  public static void prepare() {
    // First of all: whoever logs from here on begins the log, and it stays where it began.
    usually("kettle.log", log().toString());
    Path libraries = UserFolders.cache().resolve("libraries");
    // A folder each: both lock what they unpack into.
    usually("org.bytedeco.javacpp.cachedir", libraries.resolve("decoding").toString());
    usually("javafx.cachedir", libraries.resolve("window").toString());
  }

  /** Where the log is written. */
  public static Path log() {
    Path folder = UserFolders.state().resolve("log");
    try {
      Files.createDirectories(folder);
    } catch (IOException e) {
      // Then there is no log; the program does its work without.
    }
    return folder.resolve("kettle.log");
  }

  private static void usually(String property, String value) {
    if (System.getProperty(property) == null) {
      System.setProperty(property, value);
    }
  }

  /** What to tell a person of an error that nobody expected. */
  public static String words(Throwable e) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof OutOfMemoryError) {
        return "there is not enough memory. Close other programs, or choose a shorter excerpt.";
      }
      if (cause instanceof StackOverflowError) {
        return "an input is nested deeper than it can be. Choose another file.";
      }
      if (cause instanceof LinkageError) {
        return "a library of the program could not be started. Check that there is room in "
            + UserFolders.cache()
            + " and that programs may be run from there, or set KETTLE_CACHE to another folder.";
      }
      if (cause instanceof UnsupportedOperationException
          && String.valueOf(cause.getMessage()).contains("DISPLAY")) {
        return "no display can be opened. Start it on a desktop, or say in DISPLAY which to use;"
            + " commands such as score need none.";
      }
      if (cause instanceof IOException && String.valueOf(cause.getMessage()).contains("No space")) {
        return "there is no room left on a disk. Free some, and start again.";
      }
    }
    return "the program made an error of its own; its log says more ("
        + System.getProperty("kettle.log", "no log")
        + ").";
  }
}
