package kettlesieve.app.shared;

import java.util.Optional;
import javafx.beans.binding.Bindings;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.value.ObservableBooleanValue;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.control.ButtonType;
import javafx.scene.control.Dialog;
import javafx.scene.control.DialogPane;
import javafx.scene.control.Label;
import javafx.scene.control.TextInputDialog;
import javafx.stage.Stage;
import javafx.stage.Window;

/** Questions over the window, in the middle of it and in its look. */
public final class Dialogs {
  private Dialogs() {}

  /**
   * Asks and waits.
   *
   * @param answers the first is the one that Enter gives
   * @return what was chosen; the cancelling answer, or null without one, if the question was closed
   */
  public static ButtonType ask(Window owner, String question, String words, ButtonType... answers) {
    Dialog<ButtonType> dialog = new Dialog<>();
    prepare(dialog, owner, question);
    Label text = Texts.wrapped(words);
    text.setMaxWidth(460);
    dialog.getDialogPane().setContent(text);
    dialog.getDialogPane().getButtonTypes().setAll(answers);
    return shown(dialog, owner).orElse(null);
  }

  /**
   * Shows something to look at and to set before it is done.
   *
   * @param answers the first is the one that Enter gives
   * @return what was chosen; the cancelling answer, or null without one, if it was closed
   */
  public static ButtonType panel(Window owner, String title, Node content, ButtonType... answers) {
    return panel(owner, title, content, new SimpleBooleanProperty(true), answers);
  }

  /**
   * The same.
   *
   * @param ready while it is false the first answer cannot be given
   */
  public static ButtonType panel(
      Window owner,
      String title,
      Node content,
      ObservableBooleanValue ready,
      ButtonType... answers) {
    Dialog<ButtonType> dialog = new Dialog<>();
    prepare(dialog, owner, title);
    dialog.getDialogPane().setContent(content);
    dialog.getDialogPane().getButtonTypes().setAll(answers);
    dialog.getDialogPane().lookupButton(answers[0]).disableProperty().bind(Bindings.not(ready));
    return shown(dialog, owner).orElse(null);
  }

  /** Asks for a few words; empty if none were given. */
  public static Optional<String> words(Window owner, String question) {
    TextInputDialog dialog = new TextInputDialog();
    prepare(dialog, owner, question);
    return shown(dialog, owner).map(String::trim).filter(t -> !t.isEmpty());
  }

  /** Shows it and waits. Some window managers make the window behind smaller; that is undone. */
  private static <T> Optional<T> shown(Dialog<T> dialog, Window owner) {
    Stage stage = owner instanceof Stage s ? s : null;
    boolean whole = stage != null && stage.isMaximized();
    Optional<T> answer = dialog.showAndWait();
    if (whole && !stage.isMaximized()) {
      stage.setMaximized(true);
    }
    return answer;
  }

  private static void prepare(Dialog<?> dialog, Window owner, String question) {
    dialog.setTitle(question + " – Kettle Sieve");
    DialogPane pane = dialog.getDialogPane();
    pane.getStyleClass().add("question");
    pane.setGraphic(null);
    pane.setHeader(head(question));
    if (owner == null) {
      return;
    }
    dialog.initOwner(owner);
    if (owner.getScene() != null) {
      pane.getStylesheets().setAll(owner.getScene().getStylesheets());
    }
    // Where nobody places windows, they would stand in the corner of the screen.
    dialog.setOnShown(
        e -> {
          Window own = pane.getScene().getWindow();
          own.setX(owner.getX() + (owner.getWidth() - own.getWidth()) / 2);
          own.setY(owner.getY() + (owner.getHeight() - own.getHeight()) / 2.4);
        });
  }

  private static Label head(String question) {
    Label head = Texts.wrapped(question, "section");
    head.setPadding(new Insets(16, 18, 4, 18));
    head.setMaxWidth(480);
    return head;
  }
}
