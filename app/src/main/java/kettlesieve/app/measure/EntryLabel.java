package kettlesieve.app.measure;

import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.VersionName;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.score.Entry;

/** A version's sign and label, shortened in the middle, whole on hovering. */
final class EntryLabel extends HBox {
  private static final double SIGN = 18;

  EntryLabel(Workspace workspace, Entry entry, double width) {
    super(8);
    int index =
        workspace.comparison().versions().stream()
            .map(Version::id)
            .toList()
            .indexOf(entry.version().id());
    Label label = VersionName.plain(workspace, entry.version().label());
    label.setMaxWidth(width);
    getChildren().addAll(VersionSign.of(Math.max(0, index), SIGN), label);
    setAlignment(Pos.CENTER_LEFT);
  }
}
