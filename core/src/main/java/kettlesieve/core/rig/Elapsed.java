package kettlesieve.core.rig;

/** Time since a run began. */
final class Elapsed {
  private final long begun = System.nanoTime();

  double seconds() {
    return (System.nanoTime() - begun) / 1e9;
  }
}
