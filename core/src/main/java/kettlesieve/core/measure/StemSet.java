package kettlesieve.core.measure;

import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.signal.Audio;

/**
 * The stems of one tool beside the mix they were taken from.
 *
 * @param source what belongs to the mix, the same object for all versions
 * @param stems put in the mix's place, levels as delivered
 */
public record StemSet(SourceAnalysis source, MatchedStems stems) implements Subject {
  @Override
  public String words() {
    return "stems";
  }

  @Override
  public boolean hasReference() {
    return false;
  }

  /** The mix over the excerpt. */
  public Audio mix() {
    return source.source().audio();
  }

  /** All stems together over the excerpt. */
  public Audio sum() {
    long from = source.source().firstFrame();
    return stems.sum().slice(from, from + mix().frames());
  }
}
