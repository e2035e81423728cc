package kettlesieve.app.shared;

import javafx.scene.control.Button;
import org.kordamp.ikonli.feather.Feather;
import org.kordamp.ikonli.javafx.FontIcon;

/** Icons and small buttons made of them. */
public final class Icons {
  private Icons() {}

  public static FontIcon of(Feather icon) {
    return new FontIcon(icon);
  }

  /** A button that is only an icon, with a name for screen readers and a tooltip. */
  public static Button button(Feather icon, String name, Runnable action) {
    Button button = new Button(null, of(icon));
    button.getStyleClass().setAll("button", "icon-button");
    button.setAccessibleText(name);
    Hint.set(button, name);
    button.setOnAction(e -> action.run());
    return button;
  }
}
