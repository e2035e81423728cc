package kettlesieve.core.measure.cells;

/** Gathers one thing during a {@link CellPass}: it is shown every frame of every channel once. */
interface Gatherer {
  void add(CellFrame cells);
}
