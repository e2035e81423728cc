package kettlesieve.app;

import javafx.application.Application;

/**
 * Starts the window; no JavaFX class itself, so that the program starts from a plain class path.
 */
public final class Launcher {
  private Launcher() {}

  /**
   * @param arguments a comparison file; or {@code --demo} for the demo comparisons; or {@code
   *     --shots FOLDER} to draw the pictures of the documentation and end
   */
  public static void main(String[] arguments) {
    Application.launch(KettleApp.class, arguments);
  }
}
