package kettlesieve.core.measure;

import java.util.Optional;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.ownership.RoleCells;
import kettlesieve.core.task.Stop;

/** The stems of one tool beside the mix they were taken from. Used by one thread at a time. */
public final class StemSet implements Subject {
  private final StemsTogether together;
  private final MatchedStems stems;
  private final RoleCells cells;
  private final Memo shared = new Memo();

  /**
   * What several measures of a set need, worked out when the first asks for it.
   *
   * @param <T> what it gives
   */
  public interface OfSet<T> {
    /** Works it out. */
    T of(StemSet set) throws NotMeasurableException;
  }

  /**
   * @param together all tools that are measured beside each other, this one among them
   * @param stems put in the mix's place, levels as delivered
   * @param cells whose the cells of the mix are
   */
  public StemSet(StemsTogether together, MatchedStems stems, RoleCells cells) {
    this.together = together;
    this.stems = stems;
    this.cells = cells;
  }

  @Override
  public String words() {
    return "stems";
  }

  @Override
  public boolean hasReference() {
    return !together.truth().isEmpty();
  }

  /** All tools that are measured beside each other. */
  public StemsTogether together() {
    return together;
  }

  /** What belongs to the mix. */
  public SourceAnalysis source() {
    return together.source();
  }

  /** The stems on the mix's time line. */
  public MatchedStems stems() {
    return stems;
  }

  /** Whose the cells of the mix are. */
  public RoleCells cells() {
    return cells;
  }

  /** Asked by whoever walks over the whole of it. */
  public Stop stop() {
    return together.stop();
  }

  /** The mix over the excerpt. */
  public Audio mix() {
    return source().source().audio();
  }

  /** The stem of a role over the excerpt, in the mix's channels. */
  public Audio stem(String role) {
    return excerpt(stems.parts().get(role));
  }

  /** What stands for a step of a chain over the excerpt, in the mix's channels. */
  public Audio step(MatchedStems.Step step) {
    return excerpt(step.audio());
  }

  /** The true stem of a role over the excerpt; empty if it is not known. */
  public Optional<Audio> truth(String role) {
    return Optional.ofNullable(together.truth().get(role)).map(this::excerpt);
  }

  private Audio excerpt(Audio whole) {
    return together.excerpt(whole);
  }

  /** All stems together over the excerpt. */
  public Audio sum() {
    return excerpt(stems.sum());
  }

  /** Puts in what was worked out on the way. */
  public <T> StemSet with(OfSet<T> analysis, T known) {
    shared.put(analysis, known);
    return this;
  }

  /**
   * What a family of measures needs.
   *
   * @throws NotMeasurableException if it cannot be worked out
   */
  public <T> T shared(OfSet<T> analysis) throws NotMeasurableException {
    return shared.get(analysis, () -> analysis.of(this));
  }
}
