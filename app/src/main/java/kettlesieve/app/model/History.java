package kettlesieve.app.model;

import java.util.ArrayDeque;
import java.util.Deque;

/** Undo and redo over immutable states. */
final class History<T> {
  private static final int MOST = 200;

  private final Deque<T> past = new ArrayDeque<>();
  private final Deque<T> future = new ArrayDeque<>();

  /** Remembers the state before a change. */
  void remember(T before) {
    past.push(before);
    future.clear();
    if (past.size() > MOST) {
      past.removeLast();
    }
  }

  boolean canUndo() {
    return !past.isEmpty();
  }

  boolean canRedo() {
    return !future.isEmpty();
  }

  /** The state before the last change. */
  T undo(T now) {
    future.push(now);
    return past.pop();
  }

  /** The state that was last undone. */
  T redo(T now) {
    past.push(now);
    return future.pop();
  }

  void clear() {
    past.clear();
    future.clear();
  }
}
