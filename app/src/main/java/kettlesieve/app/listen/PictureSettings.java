package kettlesieve.app.listen;

import java.util.List;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuButton;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.ToggleGroup;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import org.kordamp.ikonli.feather.Feather;

/** How the lanes are drawn: window and range of the spectrogram, height of a lane. */
final class PictureSettings extends MenuButton {
  private static final List<Integer> WINDOWS = List.of(0, 256, 512, 1024, 2048, 4096, 8192);
  private static final List<Integer> RANGES = List.of(40, 50, 60, 70, 80, 90, 110);
  private static final List<Integer> HEIGHTS = List.of(0, 60, 90, 130, 200, 300);

  PictureSettings(LaneStyle style, Runnable changed) {
    setGraphic(Icons.of(Feather.SETTINGS));
    setId("picture-settings");
    getStyleClass().add("how-menu");
    setAccessibleText("How the lanes are drawn");
    Hint.set(this, "Window and range of the spectrogram, height of the lanes");
    setMinWidth(USE_PREF_SIZE);
    getItems()
        .addAll(
            menu(
                "Window",
                WINDOWS,
                style.window(),
                w -> w == 0 ? "as the rate asks (30 ms)" : w + " samples",
                w -> {
                  style.setWindow(w);
                  changed.run();
                }),
            menu(
                "Range",
                RANGES,
                style.rangeDb(),
                r -> r + " dB",
                r -> {
                  style.setRangeDb(r);
                  changed.run();
                }),
            menu(
                "Height of a lane",
                HEIGHTS,
                (int) style.laneHeight(),
                h -> h == 0 ? "all in view" : h + " pixels or more",
                h -> {
                  style.setLaneHeight(h);
                  changed.run();
                }));
  }

  private static Menu menu(
      String title,
      List<Integer> values,
      int now,
      Function<Integer, String> words,
      Consumer<Integer> chosen) {
    Menu menu = new Menu(title);
    ToggleGroup group = new ToggleGroup();
    for (int value : values) {
      RadioMenuItem item = new RadioMenuItem(words.apply(value));
      item.setId("picture-" + title.toLowerCase(java.util.Locale.ROOT).charAt(0) + value);
      item.setToggleGroup(group);
      item.setSelected(value == now);
      item.setOnAction(e -> chosen.accept(value));
      menu.getItems().add(item);
    }
    return menu;
  }
}
