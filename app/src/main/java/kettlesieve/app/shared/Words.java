package kettlesieve.app.shared;

import java.util.function.Function;
import javafx.util.StringConverter;

/** Shows values in lists by their words. */
public final class Words {
  private Words() {}

  /** A converter for lists that are chosen from, not typed into. */
  public static <T> StringConverter<T> of(Function<T, String> words) {
    return new StringConverter<>() {
      @Override
      public String toString(T value) {
        return value == null ? "" : words.apply(value);
      }

      @Override
      public T fromString(String text) {
        throw new UnsupportedOperationException("nothing is typed here");
      }
    };
  }
}
