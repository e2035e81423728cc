package kettlesieve.app.shared;

import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.TextField;
import javafx.scene.layout.StackPane;

/**
 * A text field that shows both ends of a long text as long as nobody types: versions differ at the
 * end of their labels as often as at the start. The whole text stands in its tool tip.
 */
public final class LongField extends StackPane {
  public LongField(TextField field) {
    Label shown = new Label();
    shown.textProperty().bind(field.textProperty());
    shown.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
    shown.setMouseTransparent(true);
    shown.setPadding(new Insets(0, 8, 0, 7));
    shown.setMaxWidth(Double.MAX_VALUE);
    shown.visibleProperty().bind(field.focusedProperty().not());
    field.focusedProperty().addListener((o, was, is) -> hide(field, !is));
    hide(field, !field.isFocused());
    if (!field.getText().isEmpty()) {
      Hint.set(field, field::getText);
    }
    setAlignment(Pos.CENTER_LEFT);
    setMinWidth(0);
    field.setMinWidth(0);
    getChildren().addAll(field, shown);
  }

  private static void hide(TextField field, boolean hidden) {
    field.getStyleClass().removeAll("text-hidden");
    if (hidden) {
      field.getStyleClass().add("text-hidden");
    }
  }
}
