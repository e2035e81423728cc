package kettlesieve.app.shared;

import javafx.scene.control.Label;

/** Labels in the styles of the application. */
public final class Texts {
  private Texts() {}

  /** A label with style classes. */
  public static Label of(String text, String... styles) {
    Label label = new Label(text);
    label.getStyleClass().addAll(styles);
    return label;
  }

  /** A label that breaks its lines. */
  public static Label wrapped(String text, String... styles) {
    Label label = of(text, styles);
    label.setWrapText(true);
    return label;
  }

  /** A long text with both its ends: versions differ at the end as often as at the start. */
  public static String shortened(String text, int most) {
    if (text.length() <= most) {
      return text;
    }
    int tail = (most - 1) / 2;
    return text.substring(0, most - 1 - tail) + "…" + text.substring(text.length() - tail);
  }
}
