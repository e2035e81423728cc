package kettlesieve.core.ground;

import java.util.Optional;

/**
 * What of a source is wanted, what is quiet, and where; told of the source alone, the same for all
 * its versions. Measures of what became of the wanted sound ask for nothing else, so that they
 * serve whatever the ground is told by.
 */
public interface Ground {
  /** Why nothing can be told here, in plain words; empty if it can. */
  Optional<String> problem();

  /** Whether a frame holds wanted sound. */
  boolean active(int frame);

  /** Cells of a channel that hold wanted sound. */
  CellMask wanted(int channel);

  /** Cells of a channel that hold nothing else. */
  CellMask strong(int channel);

  /** Cells of a channel that hold only what is not wanted, while wanted sound goes on. */
  CellMask unwanted(int channel);

  /** Power of what is not wanted in the cells of a channel, for one pass over it. */
  NoiseEstimate covering(int channel);
}
