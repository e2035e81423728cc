package kettlesieve.calibrate.corpus;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;

/**
 * A mix as sound, in the stems that it was made of.
 *
 * @param stems by role, all of one length, in stereo
 */
public record StemMaterial(Map<String, Audio> stems) {
  public StemMaterial {
    stems = Collections.unmodifiableMap(new LinkedHashMap<>(stems));
  }

  /** The beginning of it, in seconds: comparing many tools on a mix takes long. */
  StemMaterial first(double seconds) {
    Map<String, Audio> begun = new LinkedHashMap<>();
    stems.forEach(
        (role, stem) -> begun.put(role, stem.slice(0, Math.round(seconds * stem.sampleRate()))));
    return new StemMaterial(begun);
  }

  /** All of them together. */
  public Audio mix() {
    Audio sum = SumAudio.of(List.copyOf(stems.values()));
    return Audio.of(sum.sampleRate(), sum.wholeChannel(0), sum.wholeChannel(1));
  }
}
