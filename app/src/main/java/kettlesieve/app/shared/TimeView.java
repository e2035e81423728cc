package kettlesieve.app.shared;

import javafx.beans.property.DoubleProperty;
import javafx.beans.property.SimpleDoubleProperty;

/** The stretch of time that is in view, shared by all lanes. */
public final class TimeView {
  private static final double SHORTEST = 0.002;

  private final DoubleProperty from = new SimpleDoubleProperty(0);
  private final DoubleProperty to = new SimpleDoubleProperty(1);
  private double total = 1;

  public double from() {
    return from.get();
  }

  public double to() {
    return to.get();
  }

  public double seconds() {
    return to.get() - from.get();
  }

  public double total() {
    return total;
  }

  public DoubleProperty fromProperty() {
    return from;
  }

  public DoubleProperty toProperty() {
    return to;
  }

  /** Takes another length of the whole, and shows it whole. */
  public void setTotal(double seconds) {
    total = Math.max(SHORTEST, seconds);
    show(0, total);
  }

  /** Shows a stretch, kept inside the whole. */
  public void show(double newFrom, double newTo) {
    double length = Math.max(SHORTEST, Math.min(total, newTo - newFrom));
    double start = Math.max(0, Math.min(total - length, newFrom));
    from.set(start);
    to.set(start + length);
  }

  /** Shows more or less around a time; a factor under 1 zooms in. */
  public void zoom(double factor, double around) {
    double length = Math.max(SHORTEST, Math.min(total, seconds() * factor));
    double share = (around - from()) / seconds();
    show(around - share * length, around - share * length + length);
  }

  /** Moves by a share of what is in view. */
  public void scroll(double share) {
    double by = share * seconds();
    show(from() + by, to() + by);
  }

  /** Position of a time on a width. */
  public double x(double seconds, double width) {
    return (seconds - from()) / seconds() * width;
  }

  /** The time at a position. */
  public double time(double x, double width) {
    return from() + x / width * seconds();
  }
}
