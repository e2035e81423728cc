package kettlesieve.app.shared;

import java.util.List;
import javafx.application.Platform;
import javafx.beans.InvalidationListener;
import javafx.beans.WeakInvalidationListener;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuItem;
import javafx.scene.layout.Region;
import javafx.scene.transform.Scale;

/** A region that draws itself, at most once a pulse. */
public abstract class CanvasPane extends Region {
  private static final DoubleProperty FINENESS = new SimpleDoubleProperty(1);

  private final Canvas canvas = new Canvas();
  private final Scale smaller = new Scale(1, 1);
  private double drawn = 1;
  private boolean due;

  /** Kept here, as the look knows it weakly: a drawing that is no longer shown is let go. */
  private final InvalidationListener worn = o -> lookChanged();

  private final InvalidationListener finer = o -> requestLayout();

  protected CanvasPane() {
    getChildren().add(canvas);
    canvas.getTransforms().add(smaller);
    Ink.lookProperty().addListener(new WeakInvalidationListener(worn));
    FINENESS.addListener(new WeakInvalidationListener(finer));
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
    MenuItem copy = new MenuItem("Copy as a picture");
    copy.setOnAction(e -> PictureFile.copy(this));
    MenuItem vector = new MenuItem("Copy as a drawing (SVG)");
    vector.setOnAction(e -> PictureFile.copySvg(svg()));
    return List.of(save, copy, vector);
  }

  /** The drawing as it is now, as SVG. */
  public final String svg() {
    double width = Math.floor(getWidth());
    double height = Math.floor(getHeight());
    SvgPen pen = new SvgPen();
    paint(pen, width, height);
    return pen.picture(width, height, Ink.panel());
  }

  /** Another look is on: what was kept in the colours of the other is to be made again. */
  protected void lookChanged() {
    repaint();
  }

  /** Draws on a cleared canvas. */
  protected abstract void paint(Pen g, double width, double height);

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
    double width = Math.floor(getWidth());
    double height = Math.floor(getHeight());
    if (width > 0 && height > 0) {
      GraphicsContext g = canvas.getGraphicsContext2D();
      g.clearRect(0, 0, canvas.getWidth(), canvas.getHeight());
      g.save();
      g.scale(drawn, drawn);
      paint(new CanvasPen(g), width, height);
      g.restore();
    }
  }

  /** Drawings have so many dots for each of their own, because everything is drawn larger. */
  public static void setFineness(double dots) {
    FINENESS.set(dots);
  }

  @Override
  protected void layoutChildren() {
    double width = Math.floor(getWidth());
    double height = Math.floor(getHeight());
    double fine = FINENESS.get();
    if (width * fine != canvas.getWidth() || height * fine != canvas.getHeight()) {
      drawn = fine;
      smaller.setX(1 / fine);
      smaller.setY(1 / fine);
      canvas.setWidth(width * fine);
      canvas.setHeight(height * fine);
      draw();
    }
  }
}
