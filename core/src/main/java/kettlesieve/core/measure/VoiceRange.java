package kettlesieve.core.measure;

import java.util.Locale;

/** Four named ranges for speech and singing. */
public enum VoiceRange {
  /** Fundamentals and first partials. */
  BODY(80, 300),
  /** Vowels. */
  MIDDLE(300, 2000),
  /** Consonants. */
  PRESENCE(2000, 6000),
  /** Breath and brilliance. */
  AIR(6000, 16000);

  private final double lowHz;
  private final double highHz;

  VoiceRange(double lowHz, double highHz) {
    this.lowHz = lowHz;
    this.highHz = highHz;
  }

  /** Lower end, Hz. */
  public double lowHz() {
    return lowHz;
  }

  /** Upper end, Hz. */
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
