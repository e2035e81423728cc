package kettlesieve.app.decide;

import java.util.Optional;
import javafx.scene.control.Button;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Icons;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Spot;
import org.kordamp.ikonli.feather.Feather;

/** Hears at once where a version loses most. */
final class SpotButton extends Button {
  private static final double AROUND = 0.3;

  private SpotButton(Workspace workspace, String version, String measure, Spot spot) {
    super(words(workspace, version, measure, spot), Icons.of(Feather.PLAY));
    getStyleClass().add("spot-button");
    setMnemonicParsing(false);
    TimeSpan span = new TimeSpan(Math.max(0, spot.from() - AROUND), spot.to() + AROUND);
    setOnAction(e -> workspace.listening().playSpot(version, span));
  }

  private static String words(Workspace workspace, String version, String measure, Spot spot) {
    String label = workspace.comparison().version(version).map(Version::label).orElse("");
    return "Hear "
        + Measures.declaration(measure).title()
        + " in "
        + label
        + " at "
        + workspace.clock().text(spot.at());
  }

  /**
   * A button, if there is a place to hear.
   *
   * @param version its id
   * @param measure id of the reading
   */
  static Optional<SpotButton> of(
      Workspace workspace, String version, String measure, Optional<Spot> spot) {
    return spot.map(s -> new SpotButton(workspace, version, measure, s));
  }
}
