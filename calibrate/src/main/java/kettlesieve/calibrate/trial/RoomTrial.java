package kettlesieve.calibrate.trial;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.calibrate.corpus.RoomScene;
import kettlesieve.calibrate.makers.Maker;

/**
 * What the program said of a voice in a room, beside what is true.
 *
 * @param scene the scene
 * @param notices what the program told of the source
 * @param versions its versions
 */
public record RoomTrial(RoomScene scene, List<String> notices, List<Judged> versions) {
  /**
   * A version.
   *
   * @param maker its maker's id
   * @param kind its maker's kind
   * @param siSdr scale-invariant signal-to-distortion ratio against direct and early sound, dB
   * @param lateLeft late reflections and noise that are left over those of the source, dB
   * @param said what the program says
   * @param reasons why readings could not be taken
   */
  public record Judged(
      String maker,
      Maker.Kind kind,
      double siSdr,
      double lateLeft,
      Verdict said,
      Map<String, String> reasons) {}

  /** The version of a maker. */
  public Optional<Judged> version(String maker) {
    return versions.stream().filter(v -> v.maker().equals(maker)).findFirst();
  }
}
