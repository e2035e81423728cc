package kettlesieve.app.model;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import javafx.beans.property.ObjectProperty;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.media.Recording;
import kettlesieve.core.signal.LinearTimeAudio;

/** What the source was mixed from, by role, at the source's rate. */
final class TrueStems {
  private final ObjectProperty<Recording> source;
  private Map<String, Recording> recordings = Map.of();
  private Map<String, Audio> fitting;

  /**
   * @param source whose rate they are heard at
   */
  TrueStems(ObjectProperty<Recording> source) {
    this.source = source;
    source.addListener((o, was, is) -> fitting = null);
  }

  void take(Map<String, Recording> stems) {
    if (!stems.equals(recordings)) {
      recordings = Collections.unmodifiableMap(new LinkedHashMap<>(stems));
      fitting = null;
    }
  }

  /** What is known of their files, by the paths. */
  Map<String, MediaFacts> facts() {
    Map<String, MediaFacts> facts = new LinkedHashMap<>();
    recordings.values().forEach(r -> facts.put(r.file().toString(), r.facts()));
    return facts;
  }

  void forget() {
    take(Map.of());
  }

  /** Empty as long as the source is not read, or where they are not known. */
  Map<String, Audio> byRole() {
    if (fitting == null) {
      Map<String, Audio> made = new LinkedHashMap<>();
      if (source.get() != null) {
        int rate = source.get().audio().sampleRate();
        recordings.forEach((role, r) -> made.put(role, LinearTimeAudio.resample(r.audio(), rate)));
      }
      fitting = made;
    }
    return fitting;
  }
}
