package kettlesieve.core.work;

/**
 * How many versions are worked on side by side: as many as there are processors, and no more than
 * the heap has room for. What a version asks for grows with the length of what is measured.
 *
 * @param processors number of processors
 * @param heapBytes size that the heap may grow to
 */
public record Width(int processors, long heapBytes) {
  /** Of the heap, what is left for versions: the rest is for the source and for everything else. */
  private static final double FOR_VERSIONS = 0.45;

  // Energies by frame and third-octave, levels, histograms of the blocks, tiles of spectra.
  private static final long BYTES_A_FRAME = 28 * (3 * 4 + 2) + 200;
  private static final long BYTES_AT_LEAST = 48L << 20;

  /** That of the machine. */
  public static Width ofMachine() {
    Runtime own = Runtime.getRuntime();
    return new Width(own.availableProcessors(), own.maxMemory());
  }

  /**
   * Versions side by side.
   *
   * @param analysisFrames frames of spectra of what is measured
   */
  public int versions(long analysisFrames) {
    long each = BYTES_AT_LEAST + BYTES_A_FRAME * analysisFrames;
    long fit = (long) (FOR_VERSIONS * heapBytes) / each;
    return (int) Math.max(1, Math.min(processors, fit));
  }
}
