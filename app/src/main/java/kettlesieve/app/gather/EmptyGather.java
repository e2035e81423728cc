package kettlesieve.app.gather;

import javafx.scene.control.Button;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import org.kordamp.ikonli.feather.Feather;

/** What an empty comparison says: what to bring in, and what follows. */
final class EmptyGather extends VBox {
  /**
   * @param chooseFiles asks for files
   * @param openDemo opens the demo comparison
   */
  EmptyGather(Runnable chooseFiles, Runnable openDemo) {
    super(16);
    Button choose = new Button("Choose audio files …", Icons.of(Feather.PLUS));
    choose.getStyleClass().add("primary");
    choose.setId("choose-files");
    choose.setOnAction(e -> chooseFiles.run());
    Button demo = new Button("Open the demo");
    demo.setId("open-demo");
    demo.setOnAction(e -> openDemo.run());
    HBox buttons = new HBox(10, choose, demo);
    buttons.setStyle("-fx-alignment: center;");
    VBox zone =
        new VBox(
            Texts.of("Drop the unprocessed recording here", "title"),
            Texts.wrapped(
                "The first file becomes the source. Then drop what the tools made of it:"
                    + " one file a version.",
                "quiet"),
            buttons);
    zone.getStyleClass().add("drop-zone");
    zone.setMinHeight(330);
    HBox steps = new HBox(12);
    String[][] words = {
      {"1  Gather", "Source and versions: WAV, AIFF, FLAC, Ogg, MP3; any rate, 1 to 8 channels."},
      {"2  Match", "Delay, polarity, level, rate: what was unfair is found and put right."},
      {"3  Listen", "Switch in the middle of a word; loop; hear what was taken out."},
      {"4  Measure", "What was missed, added, lost – in units, with its place in time."},
      {"5  Decide", "Rank for the delivery at hand; export the figures."}
    };
    for (String[] word : words) {
      VBox card = new VBox(Texts.of(word[0], "section"), Texts.wrapped(word[1], "quiet", "small"));
      card.getStyleClass().add("card");
      card.setPrefWidth(220);
      HBox.setHgrow(card, Priority.ALWAYS);
      steps.getChildren().add(card);
    }
    getChildren().addAll(zone, steps);
  }
}
