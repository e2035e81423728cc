package kettlesieve.calibrate.corpus;

import java.util.ArrayList;
import java.util.List;

/**
 * A clipped source: what sounds, and how hard it was clipped.
 *
 * @param half where it is used
 * @param sound id of the voice or of the music
 * @param kind "voice" or "music"
 * @param sdrDb signal-to-distortion ratio of the clipped recording
 * @param seed of everything drawn for it
 */
public record ClipScene(String id, Half half, String sound, String kind, int sdrDb, int seed) {
  /** Length of every scene. */
  public static final double SECONDS = 8;

  private static final int[] SDR_DB = {15, 10, 7, 3};
  private static final int VOICES = 4;

  /** Scenes of both halves. */
  public static List<ClipScene> all(Catalogue catalogue) {
    List<ClipScene> scenes = new ArrayList<>();
    for (Half half : Half.values()) {
      List<String[]> sounds = new ArrayList<>();
      catalogue.voices(half).stream()
          .limit(VOICES)
          .forEach(v -> sounds.add(new String[] {v.id(), "voice"}));
      catalogue.music(half).forEach(m -> sounds.add(new String[] {m.id(), "music"}));
      for (String[] sound : sounds) {
        for (int sdr : SDR_DB) {
          scenes.add(
              new ClipScene(
                  half.word() + "-" + sound[0] + "-" + sdr,
                  half,
                  sound[0],
                  sound[1],
                  sdr,
                  1000 * half.ordinal() + scenes.size()));
        }
      }
    }
    return scenes;
  }
}
