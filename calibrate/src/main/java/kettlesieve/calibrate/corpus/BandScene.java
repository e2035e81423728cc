package kettlesieve.calibrate.corpus;

import java.util.ArrayList;
import java.util.List;

/**
 * A voice and a band.
 *
 * @param half where it is used
 * @param band id of the instruments
 * @param voice its id
 * @param seed of everything drawn for it
 */
public record BandScene(String id, Half half, String band, String voice, int seed) {
  /** Length of every scene. */
  public static final double SECONDS = 20;

  /** Scenes of both halves: each band with two voices. */
  public static List<BandScene> all(Catalogue catalogue) {
    List<BandScene> scenes = new ArrayList<>();
    for (Half half : Half.values()) {
      List<Catalogue.Voice> voices = catalogue.voices(half);
      List<Catalogue.Band> bands =
          catalogue.bands().stream().filter(b -> b.half() == half).toList();
      for (int i = 0; i < 2 * bands.size(); i++) {
        Catalogue.Band band = bands.get(i % bands.size());
        Catalogue.Voice voice = voices.get(i % voices.size());
        scenes.add(
            new BandScene(
                half.word() + "-" + band.id() + "-" + voice.id(),
                half,
                band.id(),
                voice.id(),
                1000 * half.ordinal() + i));
      }
    }
    return scenes;
  }
}
