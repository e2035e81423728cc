package kettlesieve.app.decide;

import java.io.ByteArrayInputStream;
import java.util.Set;
import javafx.geometry.Insets;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Handover;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.report.Section;

/** What goes into a report, and how its first page will look. */
final class ReportPanel extends HBox {
  private static final int WIDTH = 340;

  /** A4: as high as it is wide, times the root of two. */
  private static final int HEIGHT = 481;

  private final Handover handover;
  private final ImageView page = new ImageView();
  private final Label state = Texts.of("Drawing the first page …", "quiet");
  private int asked;

  ReportPanel(Handover handover) {
    super(24);
    this.handover = handover;
    setId("report-panel");
    setPadding(new Insets(4, 18, 10, 18));
    VBox ticks = new VBox(9, Texts.of("What goes into it", "strong"));
    ticks.setMinWidth(240);
    ticks.getChildren().add(Texts.of("The answer and the ranking always do.", "quiet", "small"));
    Set<Section> ticked = handover.ticks().ticked();
    for (Section section : Section.values()) {
      CheckBox box = new CheckBox(section.title());
      box.setId("report-" + section.name().toLowerCase(java.util.Locale.ROOT));
      box.setSelected(ticked.contains(section));
      box.selectedProperty()
          .addListener(
              (o, was, is) -> {
                handover.ticks().tick(section, is);
                draw();
              });
      ticks.getChildren().add(box);
    }
    Label sounds = Texts.wrapped("A PDF has no sounds in it.", "quiet", "small");
    ticks.getChildren().add(sounds);
    page.setId("report-page");
    page.setFitWidth(WIDTH);
    page.setFitHeight(HEIGHT);
    page.setPreserveRatio(true);
    StackPane sheet = new StackPane(page, state);
    sheet.getStyleClass().add("sheet-of-paper");
    sheet.setMinSize(WIDTH + 2, HEIGHT + 2);
    sheet.setMaxSize(WIDTH + 2, HEIGHT + 2);
    getChildren().addAll(ticks, sheet);
    draw();
  }

  private void draw() {
    int own = ++asked;
    state.setText("Drawing the first page …");
    state.setVisible(true);
    handover.preview(
        2 * WIDTH,
        picture -> {
          // Ticks that were set meanwhile have asked for another.
          if (own != asked) {
            return;
          }
          page.setImage(picture == null ? null : new Image(new ByteArrayInputStream(picture)));
          page.setAccessibleText("The first page of the report");
          state.setText("The page cannot be drawn here; it can be saved all the same.");
          state.setVisible(picture == null);
        });
  }
}
