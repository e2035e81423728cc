package kettlesieve.app.shared;

import javafx.scene.input.KeyEvent;

/**
 * Something that has keys of its own while it has the focus: they come before those of the window.
 */
public interface OwnKeys {
  /**
   * Does what a key asks for.
   *
   * @return whether it asked for anything here
   */
  boolean takes(KeyEvent key);
}
