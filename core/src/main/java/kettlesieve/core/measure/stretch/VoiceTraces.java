package kettlesieve.core.measure.stretch;

import java.util.List;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.StretchedPair;

/**
 * How the pitch of a version in its own time runs, to be drawn.
 *
 * @param frames the moments at which the source is voiced; empty where there is no single voice
 * @param pitch the frequency ratio that was asked for
 */
public record VoiceTraces(List<StretchedVoices.Frame> frames, double pitch) {
  public VoiceTraces {
    frames = List.copyOf(frames);
  }

  /** Of a version. */
  public static VoiceTraces of(StretchedPair warp) {
    try {
      return new VoiceTraces(warp.shared(StretchedVoices.OF).frames(), warp.pitch());
    } catch (NotMeasurableException e) {
      return new VoiceTraces(List.of(), warp.pitch());
    }
  }
}
