package kettlesieve.app.frame;

import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import org.kordamp.ikonli.feather.Feather;

/** A card over the step's view that is opened and closed; filled anew whenever it is opened. */
abstract class FloatingCard extends StackPane {
  private final String title;
  private final double width;

  FloatingCard(String id, String title, double width) {
    this.title = title;
    this.width = width;
    setId(id);
    setAlignment(Pos.TOP_CENTER);
    setStyle("-fx-padding: 52 0 0 0;");
    setVisible(false);
    setPickOnBounds(false);
  }

  /** What stands under the title. */
  abstract void fill(VBox card);

  final void toggle() {
    setVisible(!isVisible());
    refill();
  }

  final void hide() {
    setVisible(false);
  }

  /** Fills it anew if it is open. */
  final void refill() {
    if (!isVisible()) {
      return;
    }
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Label name = Texts.of(title, "section");
    HBox head = new HBox(8, name, gap, Icons.button(Feather.X, "Close: " + title, this::hide));
    head.setAlignment(Pos.CENTER_LEFT);
    VBox card = new VBox(6, head);
    card.getStyleClass().addAll("card", "floating");
    card.setMaxSize(width, Region.USE_PREF_SIZE);
    fill(card);
    getChildren().setAll(card);
  }
}
