package kettlesieve.app.gather;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.ComboBox;
import javafx.scene.layout.HBox;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.media.MediaFacts;

/**
 * Of a file that holds more than one sound: which of its streams, and all or one of its channels.
 */
final class PartChooser extends HBox {
  private static final String ALL = "all channels";

  /** Stereo is compared as it is; from here on a person may mean one of them. */
  private static final int MANY = 3;

  private PartChooser(String name, MediaRef ref, MediaFacts facts, Consumer<MediaRef> chosen) {
    super(6);
    setAlignment(Pos.CENTER_LEFT);
    if (facts.streams() != null) {
      getChildren().add(streams(name, ref, facts.streams(), chosen));
    }
    if (facts.channels() >= MANY) {
      getChildren().add(channels(name, ref, facts.channels(), chosen));
    }
  }

  /** Whether there is anything to choose in a file. */
  static boolean wanted(MediaFacts facts) {
    return facts.streams() != null || facts.channels() >= MANY;
  }

  /**
   * The choices of one file.
   *
   * @param name of what the file is, for ids and screen readers
   * @param chosen told the file with another part
   */
  static PartChooser of(String name, MediaRef ref, MediaFacts facts, Consumer<MediaRef> chosen) {
    return new PartChooser(name, ref, facts, chosen);
  }

  private static ComboBox<Integer> streams(
      String name, MediaRef ref, List<String> words, Consumer<MediaRef> chosen) {
    ComboBox<Integer> box = box(name, "stream", words.size());
    box.setConverter(Words.of(n -> n == 0 ? "the stream it marks" : n + ": " + words.get(n - 1)));
    box.setValue(ref.stream() == null ? 0 : ref.stream());
    box.setOnAction(
        e -> chosen.accept(ref.withStream(box.getValue() == 0 ? null : box.getValue())));
    return box;
  }

  private static ComboBox<Integer> channels(
      String name, MediaRef ref, int channels, Consumer<MediaRef> chosen) {
    ComboBox<Integer> box = box(name, "channel", channels);
    box.setConverter(Words.of(n -> n == 0 ? ALL : "channel " + n + " alone"));
    box.setValue(ref.channel() == null ? 0 : ref.channel());
    box.setOnAction(
        e -> chosen.accept(ref.withChannel(box.getValue() == 0 ? null : box.getValue())));
    return box;
  }

  private static ComboBox<Integer> box(String name, String what, int count) {
    ComboBox<Integer> box = new ComboBox<>();
    box.setId(what + "-of-" + name);
    box.setAccessibleText("Which " + what + " of " + name);
    Hint.set(box, "Which " + what + " of the file is heard and measured");
    List<Integer> values = new ArrayList<>();
    for (int i = 0; i <= count; i++) {
      values.add(i);
    }
    box.getItems().setAll(values);
    box.setMaxWidth(190);
    return box;
  }
}
