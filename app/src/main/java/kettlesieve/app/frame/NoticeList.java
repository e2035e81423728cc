package kettlesieve.app.frame;

import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Notice;

/** All warnings of the comparison, over the step's view. */
final class NoticeList extends StackPane {
  private final Workspace workspace;

  NoticeList(Workspace workspace) {
    this.workspace = workspace;
    setAlignment(Pos.TOP_RIGHT);
    setStyle("-fx-padding: 52 14 0 0;");
    setId("notices");
    setVisible(false);
    setPickOnBounds(false);
    workspace.sheetProperty().addListener((o, was, is) -> fill());
  }

  private void fill() {
    VBox card = new VBox(Texts.of("Warnings", "section"));
    card.getStyleClass().add("card");
    card.setMaxSize(560, Region.USE_PREF_SIZE);
    card.getStyleClass().add("floating");
    var sheet = workspace.sheetProperty().get();
    if (sheet != null) {
      for (Failure f : sheet.failed()) {
        card.getChildren().add(Texts.wrapped(f.label() + ": " + f.reason(), "warning-text"));
      }
      for (Notice warning : sheet.allNotices()) {
        card.getChildren().add(Texts.wrapped(warning.line()));
      }
    }
    getChildren().setAll(card);
    setOnMouseClicked(e -> setVisible(false));
  }

  void toggle() {
    fill();
    setVisible(!isVisible());
  }

  void hide() {
    setVisible(false);
  }

  /** A press anywhere else closes it; the press itself does what it always does. */
  void hideOnPress(Scene scene) {
    scene.addEventFilter(
        MouseEvent.MOUSE_PRESSED,
        e -> {
          boolean opener = e.getTarget() instanceof Node n && within(n, "warnings");
          if (isVisible() && !opener) {
            hide();
          }
        });
  }

  private static boolean within(Node node, String id) {
    for (Node n = node; n != null; n = n.getParent()) {
      if (id.equals(n.getId())) {
        return true;
      }
    }
    return false;
  }
}
