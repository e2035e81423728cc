package kettlesieve.core.measure;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.task.Stop;

/** The stems of all tools that are measured beside each other, of one mix. Thread-safe. */
public final class StemsTogether {
  private final SourceAnalysis source;
  private final List<MatchedStems> tools;
  private final Map<String, Audio> truth;
  private final Stop stop;
  private final Memo shared = new Memo();

  /**
   * What is worked out for all of them in one walk, when the first of them asks for it.
   *
   * @param <T> what it gives
   */
  @FunctionalInterface
  public interface OfAll<T> {
    /** Works it out. */
    T of(StemsTogether all) throws NotMeasurableException;
  }

  /**
   * @param source what belongs to the mix
   * @param tools each put in the mix's place, levels as delivered
   * @param truth what the mix was made of, by role, on its time line; empty if that is not known
   * @param stop asked now and then
   */
  public StemsTogether(
      SourceAnalysis source, List<MatchedStems> tools, Map<String, Audio> truth, Stop stop) {
    this.source = source;
    this.tools = List.copyOf(tools);
    this.truth = Collections.unmodifiableMap(new LinkedHashMap<>(truth));
    this.stop = stop;
  }

  /** What belongs to the mix. */
  public SourceAnalysis source() {
    return source;
  }

  /** All of them. */
  public List<MatchedStems> tools() {
    return tools;
  }

  /** All true stems in full length, by role; see {@link #excerpt}. */
  public Map<String, Audio> truth() {
    return truth;
  }

  /** Asked by whoever walks over the whole of it. */
  public Stop stop() {
    return stop;
  }

  /** The excerpt of what lies on the mix's time line, in the mix's channels. */
  public Audio excerpt(Audio whole) {
    Audio mix = source.source().audio();
    long from = source.source().firstFrame();
    return whole.asChannels(mix.channels()).slice(from, from + mix.frames());
  }

  /** Puts in what was worked out on the way. */
  public <T> StemsTogether with(OfAll<T> analysis, T known) {
    shared.put(analysis, known);
    return this;
  }

  /**
   * What a family of measures needs.
   *
   * @throws NotMeasurableException if it cannot be worked out
   */
  public <T> T shared(OfAll<T> analysis) throws NotMeasurableException {
    return shared.get(analysis, () -> analysis.of(this));
  }
}
