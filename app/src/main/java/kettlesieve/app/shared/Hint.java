package kettlesieve.app.shared;

import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.control.Tooltip;
import javafx.scene.input.MouseEvent;

/**
 * What is said of something on which the mouse rests. A tooltip is a window with a scene and styles
 * of its own, and making those of a whole view took a sixth of the time to show it: each is made
 * when the mouse first comes there.
 */
public final class Hint {
  private static final double WIDEST = 420;

  private final Node node;
  private Supplier<String> text;
  private Tooltip tooltip;

  private Hint(Node node) {
    this.node = node;
    node.addEventHandler(MouseEvent.MOUSE_ENTERED, e -> ready());
  }

  /** Sets it, or changes it. */
  public static void set(Node node, String text) {
    node.setAccessibleHelp(text);
    set(node, () -> text);
  }

  /**
   * Sets what changes.
   *
   * @param text asked when the mouse comes
   */
  public static void set(Node node, Supplier<String> text) {
    Hint hint = (Hint) node.getProperties().computeIfAbsent(Hint.class, x -> new Hint(node));
    hint.text = text;
    if (hint.tooltip != null) {
      hint.tooltip.setText(text.get());
    }
  }

  /** What is said of a node; null if nothing is. */
  public static String of(Node node) {
    Hint hint = node.hasProperties() ? (Hint) node.getProperties().get(Hint.class) : null;
    return hint == null ? null : hint.text.get();
  }

  private void ready() {
    if (tooltip == null) {
      tooltip = new Tooltip();
      tooltip.setWrapText(true);
      tooltip.setMaxWidth(WIDEST);
      Tooltip.install(node, tooltip);
    }
    tooltip.setText(text.get());
  }
}
