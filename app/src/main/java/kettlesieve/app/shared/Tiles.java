package kettlesieve.app.shared;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.ToIntFunction;
import javafx.application.Platform;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Pieces of pictures that are worked out off the interface thread and kept. What was asked for last
 * is worked out first; what scrolled out of view long ago is dropped before it is begun.
 *
 * @param <K> what a piece shows, by value
 * @param <T> the piece
 */
public final class Tiles<K, T> {
  private static final Logger LOG = LoggerFactory.getLogger(Tiles.class);
  private static final int MOST_WAITING = 160;
  private static final int THREADS = 2;
  private static final int MOST_TRIES = 3;

  private final int capacity;
  private final Function<K, T> maker;
  private final ToIntFunction<T> weigher;
  private final Runnable arrived;
  private final Map<K, T> kept = new LinkedHashMap<>(64, 0.75f, true);
  private final Deque<K> waiting = new ArrayDeque<>();
  private final Set<K> inWork = new HashSet<>();
  private final Map<K, Integer> tries = new HashMap<>();
  private int weight;
  private int working;
  private boolean announced;

  /**
   * @param capacity how much the pieces that are kept may weigh together
   * @param maker works a piece out, on a background thread
   * @param weigher what a piece weighs
   * @param arrived called on the interface thread when there is something new to draw
   */
  public Tiles(int capacity, Function<K, T> maker, ToIntFunction<T> weigher, Runnable arrived) {
    this.capacity = capacity;
    this.maker = maker;
    this.weigher = weigher;
    this.arrived = arrived;
  }

  /** A piece if it is there; otherwise null, and it is worked out. */
  public synchronized T get(K key) {
    T tile = kept.get(key);
    if (tile == null && !inWork.contains(key) && tries.getOrDefault(key, 0) < MOST_TRIES) {
      waiting.remove(key);
      waiting.addFirst(key);
      if (waiting.size() > MOST_WAITING) {
        waiting.removeLast();
      }
      if (working < THREADS) {
        working++;
        Drawing.background(this::work);
      }
    }
    return tile;
  }

  /** A piece if it is there; nothing is begun. */
  public synchronized T peek(K key) {
    return kept.get(key);
  }

  /** Forgets everything that a condition holds for. */
  public synchronized void forget(java.util.function.Predicate<K> condition) {
    kept.entrySet()
        .removeIf(
            e -> {
              boolean go = condition.test(e.getKey());
              weight -= go ? weigher.applyAsInt(e.getValue()) : 0;
              return go;
            });
    waiting.removeIf(condition);
    tries.keySet().removeIf(condition);
  }

  private synchronized void makeRoom() {
    kept.clear();
    weight = 0;
  }

  private void work() {
    while (true) {
      K key;
      synchronized (this) {
        key = waiting.pollFirst();
        if (key == null) {
          working--;
          return;
        }
        inWork.add(key);
      }
      T made = null;
      try {
        made = maker.apply(key);
      } catch (OutOfMemoryError e) {
        // Old pieces are what can be spared; this one gets another try.
        LOG.error("not enough memory for a piece of a picture", e);
        makeRoom();
      } catch (RuntimeException | Error e) {
        LOG.error("a piece of a picture could not be drawn", e);
      }
      boolean announce;
      synchronized (this) {
        inWork.remove(key);
        if (made == null) {
          tries.merge(key, 1, Integer::sum);
        } else {
          tries.remove(key);
          T former = kept.put(key, made);
          weight += weigher.applyAsInt(made) - (former == null ? 0 : weigher.applyAsInt(former));
          var oldest = kept.entrySet().iterator();
          while (weight > capacity && oldest.hasNext()) {
            weight -= weigher.applyAsInt(oldest.next().getValue());
            oldest.remove();
          }
        }
        announce = made != null && !announced;
        announced |= announce;
      }
      if (announce) {
        Platform.runLater(
            () -> {
              synchronized (this) {
                announced = false;
              }
              arrived.run();
            });
      }
    }
  }
}
