package kettlesieve.core.measure;

import java.util.Locale;

/** Four named ranges for speech and singing. */
public enum VoiceRange {
  BODY(80, 300),
  MIDDLE(300, 2000),
  PRESENCE(2000, 6000),
  AIR(6000, 16000);

  private final double lowHz;
  private final double highHz;

  VoiceRange(double lowHz, double highHz) {
    this.lowHz = lowHz;
    this.highHz = highHz;
  }

  public double lowHz() {
    return lowHz;
  }

  public double highHz() {
    return highHz;
  }

  /** The word in exports. */
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The range that holds a frequency; null for none. */
  public static VoiceRange at(double hz) {
    for (VoiceRange range : values()) {
      if (hz >= range.lowHz && hz < range.highHz) {
        return range;
      }
    }
    return null;
  }
}
