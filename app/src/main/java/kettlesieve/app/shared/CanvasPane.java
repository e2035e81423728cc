package kettlesieve.app.shared;

import java.util.List;
import javafx.application.Platform;
import javafx.beans.InvalidationListener;
import javafx.beans.WeakInvalidationListener;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuItem;
import javafx.scene.layout.Region;

/** A region that draws itself, at most once a pulse. */
public abstract class CanvasPane extends Region {
  private final Canvas canvas = new Canvas();
  private boolean due;

  /** Kept here, as the look knows it weakly: a drawing that is no longer shown is let go. */
  private final InvalidationListener worn = o -> lookChanged();

  protected CanvasPane() {
    getChildren().add(canvas);
    Ink.lookProperty().addListener(new WeakInvalidationListener(worn));
    setOnContextMenuRequested(
        e -> {
          ContextMenu menu = new ContextMenu(menuItems().toArray(MenuItem[]::new));
          menu.show(this, e.getScreenX(), e.getScreenY());
          e.consume();
        });
  }

  /** What the context menu offers. */
  protected List<MenuItem> menuItems() {
    MenuItem save = new MenuItem("Save as a picture …");
    save.setOnAction(e -> PictureFile.choose(this));
    return List.of(save);
  }

  /** Another look is on: what was kept in the colours of the other is to be made again. */
  protected void lookChanged() {
    repaint();
  }

  /** Draws on a cleared canvas. */
  protected abstract void paint(GraphicsContext g, double width, double height);

  /** Asks for a new drawing soon. */
  public final void repaint() {
    if (!due) {
      due = true;
      Platform.runLater(
          () -> {
            due = false;
            draw();
          });
    }
  }

  private void draw() {
    double width = canvas.getWidth();
    double height = canvas.getHeight();
    if (width > 0 && height > 0) {
      GraphicsContext g = canvas.getGraphicsContext2D();
      g.clearRect(0, 0, width, height);
      paint(g, width, height);
    }
  }

  @Override
  protected void layoutChildren() {
    double width = Math.floor(getWidth());
    double height = Math.floor(getHeight());
    if (width != canvas.getWidth() || height != canvas.getHeight()) {
      canvas.setWidth(width);
      canvas.setHeight(height);
      draw();
    }
  }
}
