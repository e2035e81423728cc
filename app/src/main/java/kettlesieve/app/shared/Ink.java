package kettlesieve.app.shared;

import javafx.scene.paint.Color;
import kettlesieve.core.measure.Axis;

/** The colours that drawings use; the same as in the style sheet. */
public final class Ink {
  public static final Color PAPER = Color.web("#F7F4EE");
  public static final Color PANEL = Color.web("#FFFFFF");
  public static final Color RULE = Color.web("#D9D3C7");
  public static final Color INK = Color.web("#1E2A32");
  public static final Color QUIET = Color.web("#5C6665");
  public static final Color ACTION = Color.web("#0E6B6B");
  public static final Color WARNING = Color.web("#A8321E");

  private Ink() {}

  /** The colour of an axis; always shown with its word or sign. */
  public static Color of(Axis axis) {
    return switch (axis) {
      case MISSED -> Color.web("#8A5A00");
      case ADDED -> Color.web("#7A3E9D");
      case LOST -> Color.web("#1F5FA8");
      case INFO -> QUIET;
    };
  }

  /**
   * Ink on paper for a spectrogram, as 0xAARRGGBB: 0 is paper, 1 deep ink; lightness falls strictly
   * with the level.
   */
  public static int shade(double share) {
    double s = Math.max(0, Math.min(1, share));
    double curve = Math.pow(s, 1.35);
    int r = (int) Math.round(0xF7 + curve * (0x0E - 0xF7));
    int g = (int) Math.round(0xF4 + curve * (0x1C - 0xF4));
    int b = (int) Math.round(0xEE + curve * (0x2A - 0xEE));
    return 0xff000000 | r << 16 | g << 8 | b;
  }

  /**
   * A gain in the change map, as 0xAARRGGBB: paper where nothing changed, blue where something was
   * taken out, violet where something was put in; deep from 30 dB on.
   */
  public static int change(double gainDb) {
    double s = Math.min(1, Math.max(0, Math.abs(gainDb) - 1.5) / 28);
    double curve = Math.pow(s, 0.8);
    int[] deep = gainDb < 0 ? new int[] {0x12, 0x48, 0x8C} : new int[] {0x6B, 0x22, 0x90};
    int r = (int) Math.round(0xF7 + curve * (deep[0] - 0xF7));
    int g = (int) Math.round(0xF4 + curve * (deep[1] - 0xF4));
    int b = (int) Math.round(0xEE + curve * (deep[2] - 0xEE));
    return 0xff000000 | r << 16 | g << 8 | b;
  }
}
