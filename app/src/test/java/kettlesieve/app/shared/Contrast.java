package kettlesieve.app.shared;

import javafx.scene.paint.Color;

/** How far two colours stand apart: contrast ratio and relative luminance, WCAG 2.1. */
public final class Contrast {
  private Contrast() {}

  /** From 1 for the same to 21 for black and white. */
  public static double of(Color a, Color b) {
    double high = Math.max(luminance(a), luminance(b));
    double low = Math.min(luminance(a), luminance(b));
    return (high + 0.05) / (low + 0.05);
  }

  static double luminance(Color c) {
    return 0.2126 * linear(c.getRed())
        + 0.7152 * linear(c.getGreen())
        + 0.0722 * linear(c.getBlue());
  }

  private static double linear(double v) {
    return v <= 0.03928 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
  }
}
