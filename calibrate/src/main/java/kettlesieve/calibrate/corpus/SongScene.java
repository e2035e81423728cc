package kettlesieve.calibrate.corpus;

import java.util.ArrayList;
import java.util.List;

/**
 * A mix that is played from notes.
 *
 * @param half where it is used
 * @param rate Hz
 * @param beat seconds
 * @param seed of everything drawn for it
 */
public record SongScene(String id, Half half, int rate, double beat, int seed, List<Part> parts) {
  /** Length of every scene. */
  public static final double SECONDS = 12;

  /** What a part plays. */
  public enum Kind {
    SPEECH,
    DRUMS,
    BASS,
    CHORDS,
    MELODY,
    ARPEGGIO
  }

  /**
   * One role.
   *
   * @param program of the sound font
   * @param voice id of a voice that speaks
   * @param db its level, dBFS
   */
  public record Part(String role, Kind kind, int program, String voice, double db) {
    static Part played(String role, Kind kind, int program, double db) {
      return new Part(role, kind, program, "", db);
    }
  }

  int length() {
    return (int) (SECONDS * rate);
  }

  /** Scenes of both halves: other instruments, other voices, other songs. */
  public static List<SongScene> all(Catalogue catalogue) {
    List<SongScene> all = new ArrayList<>();
    all.addAll(half(catalogue, Half.SETTING, new int[] {0, 24, 33, 48, 61, 52, 73, 19}));
    all.addAll(half(catalogue, Half.REPORTING, new int[] {4, 29, 38, 50, 57, 53, 68, 16}));
    return all;
  }

  /**
   * @param p keys, guitar, bass, strings, brass, choir, wind, organ
   */
  private static List<SongScene> half(Catalogue catalogue, Half half, int[] p) {
    List<Catalogue.Voice> voices = catalogue.voices(half);
    List<List<Part>> songs =
        List.of(
            List.of(
                speech(voices.get(0), -22),
                Part.played("drums", Kind.DRUMS, 0, -21),
                Part.played("bass", Kind.BASS, p[2], -21),
                Part.played("piano", Kind.CHORDS, p[0], -23)),
            List.of(
                Part.played("vocals", Kind.MELODY, p[5], -20),
                Part.played("drums", Kind.DRUMS, 0, -20),
                Part.played("bass", Kind.BASS, p[2], -22),
                Part.played("guitar", Kind.ARPEGGIO, p[1], -22)),
            List.of(
                speech(voices.get(1 % voices.size()), -20),
                Part.played("piano", Kind.ARPEGGIO, p[0], -22),
                Part.played("strings", Kind.CHORDS, p[3], -24)),
            List.of(
                Part.played("vocals", Kind.CHORDS, p[5], -21),
                Part.played("brass", Kind.MELODY, p[4], -22),
                Part.played("bass", Kind.BASS, p[2], -20),
                Part.played("drums", Kind.DRUMS, 0, -24),
                Part.played("organ", Kind.CHORDS, p[7], -26)),
            List.of(
                Part.played("wind", Kind.MELODY, p[6], -22),
                Part.played("guitar", Kind.CHORDS, p[1], -22),
                Part.played("bass", Kind.BASS, p[2], -24)),
            List.of(
                speech(voices.get(2 % voices.size()), -24),
                Part.played("drums", Kind.DRUMS, 0, -20),
                Part.played("bass", Kind.BASS, p[2], -20),
                Part.played("strings", Kind.CHORDS, p[3], -22),
                Part.played("brass", Kind.MELODY, p[4], -25)));
    List<SongScene> scenes = new ArrayList<>();
    for (int i = 0; i < songs.size(); i++) {
      int seed = 100 * (half.ordinal() + 1) + i;
      scenes.add(
          new SongScene(
              half.word() + "-song-" + (i + 1),
              half,
              i % 3 == 1 ? 48_000 : 44_100,
              0.42 + 0.06 * (i % 4),
              seed,
              songs.get(i)));
    }
    return scenes;
  }

  private static Part speech(Catalogue.Voice voice, double db) {
    return new Part("vocals", Kind.SPEECH, 0, voice.id(), db);
  }
}
