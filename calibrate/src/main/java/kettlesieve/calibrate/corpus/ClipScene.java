package kettlesieve.calibrate.corpus;

import java.util.ArrayList;
import java.util.List;

/**
 * A clipped source: what sounds, and how hard it was clipped.
 *
 * @param half where it is used
 * @param sound id of the voice, of the music or of the band
 * @param kind "voice", "music", or the band's part: "drums", "bass" or "other"
 * @param sdrDb signal-to-distortion ratio of the clipped recording
 * @param seed of everything drawn for it
 */
public record ClipScene(String id, Half half, String sound, String kind, int sdrDb, int seed) {
  /** Length of every scene. */
  public static final double SECONDS = 8;

  private static final int[] SDR_DB = {15, 10, 7, 3};
  private static final int VOICES = 4;
  private static final int BANDS = 3;
  private static final List<String> PARTS = List.of("drums", "bass", "other");

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
        add(scenes, half, sound[0], sound[0], sound[1]);
      }
    }
    for (Half half : Half.values()) {
      catalogue.bands().stream()
          .filter(b -> b.half() == half)
          .limit(BANDS)
          .forEach(b -> PARTS.forEach(p -> add(scenes, half, b.id() + "-" + p, b.id(), p)));
    }
    return scenes;
  }

  private static void add(
      List<ClipScene> scenes, Half half, String name, String sound, String kind) {
    for (int sdr : SDR_DB) {
      scenes.add(
          new ClipScene(
              half.word() + "-" + name + "-" + sdr,
              half,
              sound,
              kind,
              sdr,
              1000 * half.ordinal() + scenes.size()));
    }
  }

  /** Whether it is a part of a band. */
  boolean ofBand() {
    return PARTS.contains(kind);
  }
}
