package kettlesieve.calibrate.corpus;

import java.util.ArrayList;
import java.util.List;

/**
 * A voice in a room.
 *
 * @param half where it is used
 * @param voice its id
 * @param decaySeconds time in which the room's sound falls by 60 dB in the middle of the band
 * @param directDb energy of the direct sound over that of all reflections, dB
 * @param noiseDb how far noise lies under the voice, dB
 * @param seed of everything drawn for it, the room's shape too
 */
public record RoomScene(
    String id,
    Half half,
    String voice,
    double decaySeconds,
    double directDb,
    double noiseDb,
    int seed) {
  /** Length of every scene. */
  public static final double SECONDS = 15;

  private static final double[] DECAYS = {0.3, 0.4, 0.5, 0.65, 0.8, 1.0, 1.25, 1.5};
  private static final double[] DIRECT = {-5, 0, 4, -2, 2};
  private static final double[] NOISE = {60, 35, 50, 42, 30, 55};
  private static final int VOICES = 3;

  /** Scenes of both halves: every room is another, in shape too. */
  public static List<RoomScene> all(Catalogue catalogue) {
    List<RoomScene> scenes = new ArrayList<>();
    for (Half half : Half.values()) {
      List<Catalogue.Voice> voices = catalogue.voices(half);
      for (int i = 0; i < VOICES * DECAYS.length; i++) {
        // The halves' rooms differ: the second half's decay a little longer each.
        double decay = DECAYS[i % DECAYS.length] * (half == Half.SETTING ? 1 : 1.1);
        Catalogue.Voice voice = voices.get((i + 4 * (i / DECAYS.length)) % voices.size());
        scenes.add(
            new RoomScene(
                half.word() + "-" + voice.id() + "-" + Math.round(1000 * decay) + "ms",
                half,
                voice.id(),
                decay,
                DIRECT[i % DIRECT.length],
                NOISE[i % NOISE.length],
                1000 * half.ordinal() + i));
      }
    }
    return scenes;
  }
}
