package kettlesieve.app.listen;

import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.ShortNames;
import kettlesieve.app.shared.Tiles;
import kettlesieve.app.shared.TimeView;

/** One recording: its sign and label on the left, its picture on the right. */
final class Lane extends HBox {
  static final double LABEL_WIDTH = 182;

  /** Room on the right for the figures of the frequency axis. */
  static final double GUTTER = 50;

  private final Workspace workspace;
  private final LaneStyle style;
  private final String versionId;
  private final ToggleButton label;
  private final LanePicture picture;
  private final boolean source;

  Lane(
      Workspace workspace,
      TimeView view,
      LaneStyle style,
      Tiles<LaneTile.Key, LaneTile> tiles,
      String versionId,
      String text,
      Node sign,
      Consumer<String> readOut) {
    this.workspace = workspace;
    this.style = style;
    this.versionId = versionId;
    this.source = versionId.equals(Listening.SOURCE);
    this.picture =
        new LanePicture(workspace, view, style, tiles, versionId, this::sourceTime, readOut);
    label = new ToggleButton(text, sign);
    label.setMnemonicParsing(false);
    label.getStyleClass().setAll("toggle-button", "pick-row");
    label.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
    Hint.set(label, text);
    label.setMinWidth(LABEL_WIDTH);
    label.setMaxWidth(LABEL_WIDTH);
    label.setMaxHeight(Double.MAX_VALUE);
    label.setAlignment(Pos.CENTER_LEFT);
    ShortNames.follow(label, workspace, text, 42);
    label.setAccessibleText("Listen to " + text);
    label.setOnAction(
        e -> {
          label.setSelected(true);
          workspace.listening().choose(versionId);
        });
    HBox.setHgrow(picture, Priority.ALWAYS);
    getStyleClass().add("row-line");
    getChildren().addAll(label, picture);
  }

  String versionId() {
    return versionId;
  }

  void setChosen(boolean chosen) {
    label.setSelected(chosen);
    label.setStyle(chosen ? "-fx-font-family: 'Source Sans 3 SemiBold';" : "");
  }

  void show(LaneSource now) {
    picture.show(now != null && style.ownTime() ? now.inOwnTime() : now);
  }

  /** Says why there is nothing to draw. */
  void showMissing(String why) {
    picture.showMissing(why);
  }

  void renew() {
    picture.repaint();
  }

  void follow(double position) {
    picture.follow(style.ownTime() ? ownTime(position) : position);
  }

  private double ownTime(double position) {
    var prepared = workspace.state(versionId).prepared();
    return source || prepared == null ? position : prepared.map().at(position);
  }

  /** A moment of the lane's axis in the source's time. */
  private double sourceTime(double axis) {
    var prepared = workspace.state(versionId).prepared();
    return !style.ownTime() || source || prepared == null ? axis : prepared.map().inverse(axis);
  }
}
