package kettlesieve.calibrate.corpus;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Something to be stretched or shifted whose true result is known, since it is played anew at the
 * other tempo or pitch.
 *
 * @param half where it is used
 * @param kind what sounds
 * @param seed of everything drawn for it
 */
public record ScoreScene(String id, Half half, Kind kind, int seed) {
  /** Length of the source, seconds. */
  public static final double SECONDS = 12;

  /** What sounds. */
  public enum Kind {
    DRUMS,
    PIANO,
    PLUCKED,
    ORGAN,
    STRINGS,
    BASS,
    BAND,
    BELLS,
    VOICE,
    SINGING;

    /** Whether it is a voice alone. */
    public boolean voice() {
      return this == VOICE || this == SINGING;
    }

    /** Whether all that it plays has a pitch that can be moved: drums have none. */
    public boolean pitched() {
      return this != DRUMS && this != BAND;
    }

    /** For tables. */
    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /** One of each kind in each half: other instruments, other notes, other voices. */
  public static List<ScoreScene> all() {
    List<ScoreScene> all = new ArrayList<>();
    for (Half half : Half.values()) {
      for (Kind kind : Kind.values()) {
        all.add(
            new ScoreScene(
                half.word() + "-played-" + kind.word(),
                half,
                kind,
                500 * (half.ordinal() + 1) + kind.ordinal()));
      }
    }
    return all;
  }
}
