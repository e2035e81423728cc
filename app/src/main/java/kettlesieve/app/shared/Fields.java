package kettlesieve.app.shared;

import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Control;
import javafx.scene.control.TextField;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;

/** Text fields that hand over what was typed when it is finished; Escape takes it back. */
public final class Fields {
  private Fields() {}

  /**
   * Escape restores what stood in a field and leaves it.
   *
   * @param before what stood there
   */
  public static void takesBack(TextInputControl field, Supplier<String> before) {
    field.addEventFilter(
        KeyEvent.KEY_PRESSED,
        e -> {
          if (e.getCode() == KeyCode.ESCAPE) {
            field.setText(before.get());
            leave(field.getScene());
            e.consume();
          }
        });
  }

  /** Ends typing: the keys belong to the window again. */
  public static void leave(Scene scene) {
    if (scene != null) {
      scene.getRoot().requestFocus();
    }
  }

  /** A press of the mouse anywhere but in the field that is typed in ends typing. */
  public static void leaveOnPress(Scene scene) {
    scene.addEventFilter(
        MouseEvent.MOUSE_PRESSED,
        e -> {
          if (scene.getFocusOwner() instanceof TextInputControl field && !within(e, field)) {
            leave(scene);
          }
        });
  }

  private static boolean within(MouseEvent event, Node field) {
    for (Node n = event.getTarget() instanceof Node t ? t : null; n != null; n = n.getParent()) {
      // The field of an editable list or a spinner belongs to it.
      if (n == field || n == field.getParent() && n instanceof Control) {
        return true;
      }
    }
    return false;
  }

  /** Calls back on Enter and when the field is left, if the text has changed. */
  public static void whenDone(TextField field, Consumer<String> taken) {
    String before = field.getText();
    whenDone(field, () -> before, taken);
  }

  /**
   * The same for a field that stays while what stands in it changes.
   *
   * @param before what stood there
   */
  public static void whenDone(TextField field, Supplier<String> before, Consumer<String> taken) {
    Runnable take =
        () -> {
          String now = field.getText().trim();
          if (!now.equals(before.get())) {
            taken.accept(now);
          }
        };
    field.setOnAction(e -> take.run());
    takesBack(field, before);
    field
        .focusedProperty()
        .addListener(
            (o, was, is) -> {
              if (!is) {
                take.run();
              }
            });
  }
}
