package kettlesieve.app;

import javafx.application.Application;
import kettlesieve.core.media.Surroundings;
import org.slf4j.LoggerFactory;

/**
 * Starts the window; no JavaFX class itself, so that the program starts from a plain class path.
 */
public final class Launcher {
  private Launcher() {}

  /**
   * @param arguments a comparison file; or {@code --demo} for the demo comparisons; or {@code
   *     --shots FOLDER [NAMES]} to draw the pictures of the documentation, or some, and end
   */
  public static void main(String[] arguments) {
    Surroundings.prepare();
    try {
      Application.launch(KettleApp.class, arguments);
    } catch (Throwable e) {
      LoggerFactory.getLogger(Launcher.class).error("the window broke down", e);
      System.err.println("kettle: " + Surroundings.words(e));
      System.exit(1);
    }
  }
}
