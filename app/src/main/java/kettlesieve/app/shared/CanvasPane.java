package kettlesieve.app.shared;

import javafx.application.Platform;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuItem;
import javafx.scene.layout.Region;

/** A region that draws itself, at most once a pulse. */
public abstract class CanvasPane extends Region {
  private final Canvas canvas = new Canvas();
  private boolean due;

  protected CanvasPane() {
    getChildren().add(canvas);
    setOnContextMenuRequested(
        e -> {
          MenuItem save = new MenuItem("Save as a picture …");
          save.setOnAction(x -> PictureFile.choose(this));
          ContextMenu menu = new ContextMenu(save);
          menu.show(this, e.getScreenX(), e.getScreenY());
          e.consume();
        });
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
