package kettlesieve.core.measure;

import java.util.concurrent.ConcurrentHashMap;

/**
 * What families of measures share about one subject: each worked out once, when first asked for.
 *
 * <p>May be called from any thread. Two that ask for the same thing wait for each other, two that
 * ask for different things do not; what one thing needs of another must lead in no circle. What
 * cannot be worked out is not kept: who asks again is told again.
 */
final class Memo {
  /** How something is worked out. */
  interface Work<T> {
    T of() throws NotMeasurableException;
  }

  private static final class Slot {
    private Object known;
  }

  private final ConcurrentHashMap<Object, Slot> slots = new ConcurrentHashMap<>();

  /**
   * What belongs to a key.
   *
   * @param key which also stands for the type: one key is always asked for one type
   * @throws NotMeasurableException if it cannot be worked out
   */
  @SuppressWarnings("unchecked")
  <T> T get(Object key, Work<T> work) throws NotMeasurableException {
    Slot slot = slots.computeIfAbsent(key, k -> new Slot());
    synchronized (slot) {
      if (slot.known == null) {
        slot.known = work.of();
      }
      return (T) slot.known;
    }
  }

  /** Puts in what is known already. */
  void put(Object key, Object known) {
    Slot slot = slots.computeIfAbsent(key, k -> new Slot());
    synchronized (slot) {
      slot.known = known;
    }
  }
}
