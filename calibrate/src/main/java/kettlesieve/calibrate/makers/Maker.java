package kettlesieve.calibrate.makers;

import java.nio.file.Path;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;

/**
 * Makes a version of a scene.
 *
 * @param <M> what it makes it of
 * @param id in tables and files
 * @param kind what sort of version it is
 * @param way how it is made
 */
public record Maker<M>(String id, Kind kind, Way<M> way) {
  /** Sorts of versions. */
  public enum Kind {
    /** By a processor as people use them. */
    REAL,
    /** Deliberately bad. */
    BAD,
    /** What no processor can do: the truth is known beforehand. */
    IDEAL,
    /** The source as it is. */
    UNTOUCHED
  }

  /**
   * How a version is made.
   *
   * @param <M> what it is made of
   */
  public interface Way<M> {
    /**
     * Makes it.
     *
     * @param folder an empty one, for what it needs on disk
     */
    Audio make(M material, Path folder) throws CalibrationException;
  }
}
