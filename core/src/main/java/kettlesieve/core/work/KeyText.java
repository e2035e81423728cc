package kettlesieve.core.work;

import java.util.Collection;
import java.util.function.BiConsumer;

/**
 * A text of named parts of which no two different sets make the same: every value stands behind its
 * length, every list behind its count, and what is missing is told from what is empty. Written by
 * hand, for it is made before anything else at every start.
 */
final class KeyText {
  private final StringBuilder text = new StringBuilder();

  /** A part; null is another value than the empty text. */
  KeyText part(String name, Object value) {
    text.append(name);
    if (value == null) {
      text.append('-');
    } else {
      String words = value.toString();
      text.append(words.length()).append(':').append(words);
    }
    return this;
  }

  /** A part of many; null is another value than none. */
  <T> KeyText parts(String name, Collection<T> values, BiConsumer<KeyText, T> each) {
    text.append(name);
    if (values == null) {
      text.append('-');
    } else {
      text.append(values.size()).append('[');
      values.forEach(v -> each.accept(this, v));
    }
    return this;
  }

  @Override
  public String toString() {
    return text.toString();
  }
}
