package kettlesieve.app.shared;

import java.util.function.Consumer;
import javafx.scene.control.TextField;

/** Text fields that hand over what was typed when it is finished. */
public final class Fields {
  private Fields() {}

  /** Calls back on Enter and when the field is left, if the text has changed. */
  public static void whenDone(TextField field, Consumer<String> taken) {
    String before = field.getText();
    Runnable take =
        () -> {
          String now = field.getText().trim();
          if (!now.equals(before)) {
            taken.accept(now);
          }
        };
    field.setOnAction(e -> take.run());
    field
        .focusedProperty()
        .addListener(
            (o, was, is) -> {
              if (!is) {
                take.run();
              }
            });
  }
}
