package kettlesieve.core.measure.pass;

/** Gathers one thing during a {@link CellPass}: it is shown every frame of every channel once. */
public interface Gatherer {
  /** Takes a frame of a channel in; frames come in rising order, channel after channel. */
  void add(CellFrame cells);

  /** Told when it has seen all of them. */
  default void finish() {}
}
