package kettlesieve.app.shared;

import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import kettlesieve.app.model.Workspace;
import kettlesieve.core.comparison.Version;

/**
 * A version's label in as much room as it is given: shortened by what tells the versions of the
 * comparison apart, whole on hovering and for screen readers.
 */
public final class VersionName extends Label {
  private static final double LEAST = 44;

  private final List<String> all;
  private final int index;
  private final String whole;
  private final String font;
  private final double size;

  private VersionName(Workspace workspace, String label, String style, String font, double size) {
    this.all = workspace.comparison().versions().stream().map(Version::label).toList();
    this.index = all.indexOf(label);
    this.whole = label;
    this.font = font;
    this.size = size;
    getStyleClass().add(style);
    setText(label);
    setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
    setAccessibleText(label);
    setMinWidth(LEAST);
    Hint.set(this, label);
    widthProperty().addListener((o, was, is) -> fit());
  }

  /** In the ordinary weight. */
  public static VersionName plain(Workspace workspace, String label) {
    return new VersionName(workspace, label, "label", "Source Sans 3", 14);
  }

  /** Small. */
  public static VersionName small(Workspace workspace, String label) {
    return new VersionName(workspace, label, "small", "Source Sans 3", 12.5);
  }

  /** In the heavier weight. */
  public static VersionName strong(Workspace workspace, String label) {
    return new VersionName(workspace, label, "strong", "Source Sans 3 SemiBold", 14);
  }

  private void fit() {
    double room = getWidth() - snappedLeftInset() - snappedRightInset();
    if (index >= 0 && room > 0) {
      setText(ShortNames.of(all, room, font, size).get(index));
    }
  }

  /**
   * As the longest label of the comparison asks for: all are cut alike, and what is shown now is
   * only what there was room for.
   */
  @Override
  protected double computePrefWidth(double height) {
    double widest = ShortNames.width(whole, font, size);
    for (String label : all) {
      widest = Math.max(widest, ShortNames.width(label, font, size));
    }
    return Math.ceil(widest) + 1 + snappedLeftInset() + snappedRightInset();
  }
}
