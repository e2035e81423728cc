package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.calibrate.CalibrationException;

/**
 * A mix whose stems are known, of either sort: recorded loops and notes, or played from a sound
 * font.
 *
 * @param id its name
 * @param half where it is used
 * @param band null for one that is played
 * @param song null for one of recordings
 */
public record StemScene(String id, Half half, BandScene band, SongScene song) {
  /** All of both sorts: every fourth of the recorded ones, each song. */
  public static List<StemScene> all(Catalogue catalogue) {
    List<StemScene> all = new ArrayList<>();
    SongScene.all(catalogue).forEach(s -> all.add(new StemScene(s.id(), s.half(), null, s)));
    List<BandScene> bands = BandScene.all(catalogue);
    for (int i = 1; i < bands.size(); i += 2) {
      if (i % 8 < 6) {
        all.add(new StemScene(bands.get(i).id(), bands.get(i).half(), bands.get(i), null));
      }
    }
    return all;
  }

  /** Makes scenes. */
  public static final class Maker {
    private final BandMaker bands;
    private final SongMaker songs;

    /**
     * @param packages where recordings and the sound font come from
     * @param cache where decoded files are kept
     */
    public Maker(Catalogue catalogue, Packages packages, Path cache) {
      this.bands = new BandMaker(catalogue, packages, cache);
      this.songs = new SongMaker(catalogue, packages, cache);
    }

    /**
     * Makes one; the same scene gives the same sound.
     *
     * @throws CalibrationException if something that is needed is missing
     */
    public StemMaterial make(StemScene scene) throws CalibrationException {
      return scene.band() != null
          ? bands.make(scene.band()).first(SongScene.SECONDS)
          : songs.make(scene.song());
    }
  }
}
