package kettlesieve.app.frame;

import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.scene.Parent;
import javafx.scene.layout.Pane;
import javafx.scene.transform.Scale;
import kettlesieve.app.shared.CanvasPane;

/**
 * Draws the whole window larger: what is in it is laid out in a smaller room, words, signs and
 * pictures alike, so that nothing is cut off. Never so large that less than the smallest room the
 * window is made for would be left.
 */
public final class Magnified extends Pane {
  /** The smallest window that everything has its place in. */
  public static final double LEAST_WIDTH = 1100;

  public static final double LEAST_HEIGHT = 700;

  private final Parent content;
  private final ReadOnlyIntegerProperty percent;
  private final Scale scale = new Scale(1, 1);

  /**
   * @param content what is drawn
   * @param percent 100 for its own size
   */
  public Magnified(Parent content, ReadOnlyIntegerProperty percent) {
    this.content = content;
    this.percent = percent;
    content.setManaged(false);
    content.getTransforms().add(scale);
    getChildren().add(content);
    percent.addListener((o, was, is) -> requestLayout());
  }

  /** How much larger than its own size everything is drawn now. */
  public double factor() {
    double room = Math.min(getWidth() / LEAST_WIDTH, getHeight() / LEAST_HEIGHT);
    return Math.max(1, Math.min(percent.get() / 100.0, room));
  }

  @Override
  protected void layoutChildren() {
    double factor = factor();
    scale.setX(factor);
    scale.setY(factor);
    CanvasPane.setFineness(factor);
    content.resizeRelocate(0, 0, getWidth() / factor, getHeight() / factor);
  }
}
