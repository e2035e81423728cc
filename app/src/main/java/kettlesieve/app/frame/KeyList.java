package kettlesieve.app.frame;

import javafx.geometry.Pos;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import kettlesieve.app.shared.Texts;

/** The list of keys, over everything else. */
final class KeyList extends StackPane {
  private static final String[][] KEYS = {
    {"Space", "play, stop"},
    {"0", "hear the source"},
    {"1 … 9", "hear a version, in the same place"},
    {"L", "loop the excerpt"},
    {"M", "matched level, or as delivered"},
    {"R", "hear only what was removed"},
    {", .", "one second back, on"},
    {"Home", "to the start"},
    {"N  P", "next, previous spot of the reading"},
    {"X", "this version against the source"},
    {"D", "the first two where they differ most, in turn"},
    {"C", "hear the clean recording"},
    {"Y", "a version that was rendered again: before, now"},
    {"T", "each pass: the same, the next version, source and version in turn"},
    {"B", "hear one range of frequencies, then the next"},
    {"V", "stereo, left, right, mid, side"},
    {"H", "half speed"},
    {"S", "stems: one part alone, then the next, then all"},
    {"E", "the list of excerpts"},
    {"I  O", "the excerpt begins, ends at the playhead"},
    {"Shift+I  O", "a loop begins, ends at the playhead"},
    {"A", "go to a typed time"},
    {"U", "the overview: closer, and whole again"},
    {"K", "mark this place"},
    {"J  G", "next, previous mark"},
    {"+ −", "zoom in, out (Listen)"},
    {"← →", "scroll (Listen)"},
    {"F", "show all (Listen)"},
    {"W", "waveform, spectrogram, change map (Listen)"},
    {"Ctrl+1 … 5", "Gather, Match, Listen, Measure, Decide"},
    {"Ctrl+Z  Y", "undo, redo"},
    {"Ctrl+C", "copy the selected reading; with Shift the version's row"},
    {"Ctrl+V", "bring in files that were copied elsewhere"},
    {"Arrows", "in the sheet: move; Enter hears the worst spot, Q decides"},
    {"F6", "from area to area of the window"},
    {"Ctrl+N  O  S", "new, open, save"},
    {"Ctrl+,", "preferences"},
    {"Drag", "over the overview: choose the excerpt"},
    {"Shift+drag", "over the overview: mark a pause"},
    {"F1", "this list"}
  };

  KeyList() {
    GridPane grid = new GridPane();
    grid.setHgap(18);
    grid.setVgap(5);
    int row = 0;
    for (String[] key : KEYS) {
      int column = row < (KEYS.length + 1) / 2 ? 0 : 2;
      int line = row % ((KEYS.length + 1) / 2);
      grid.add(Texts.of(key[0], "strong"), column, line);
      grid.add(Texts.of(key[1]), column + 1, line);
      row++;
    }
    VBox card = new VBox(Texts.of("Keys", "section"), grid);
    card.getStyleClass().add("card");
    card.getStyleClass().add("floating");
    card.setMaxSize(Region.USE_PREF_SIZE, Region.USE_PREF_SIZE);
    getChildren().add(card);
    setAlignment(Pos.CENTER);
    setId("keys");
    setOnMouseClicked(e -> hide());
    hide();
  }

  void toggle() {
    setVisible(!isVisible());
  }

  void hide() {
    setVisible(false);
  }
}
