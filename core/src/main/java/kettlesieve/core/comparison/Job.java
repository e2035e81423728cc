package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Locale;

/** The kind of processing that is compared. */
public enum Job {
  /** Noise was taken out. */
  DENOISE("Denoise"),
  /** A room was taken out. */
  DEREVERB("Dereverb"),
  /** Clipped tops were rebuilt. */
  DECLIP("Declip"),
  /** A mix was taken apart. */
  STEMS("Stems"),
  /** The length was changed. */
  STRETCH("Stretch"),
  /** The pitch was moved. */
  PITCH("Pitch");

  private final String title;

  Job(String title) {
    this.title = title;
  }

  /** The word for people. */
  public String title() {
    return title;
  }

  /**
   * Whether versions run on a time of their own, and a map tells where the source's moments lie.
   */
  public boolean ownTime() {
    return switch (this) {
      case STRETCH, PITCH -> true;
      case DENOISE, DEREVERB, DECLIP, STEMS -> false;
    };
  }

  /** Whether the wanted sound stands in its room, and not in noise that pauses tell of. */
  public boolean inARoom() {
    return switch (this) {
      case DEREVERB -> true;
      case DENOISE, DECLIP, STEMS, STRETCH, PITCH -> false;
    };
  }

  /** Whether a version is several files, one a role of the mix. */
  public boolean inStems() {
    return switch (this) {
      case STEMS -> true;
      case DENOISE, DEREVERB, DECLIP, STRETCH, PITCH -> false;
    };
  }

  /** The word in files and on the command line. */
  @JsonValue
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * The job of a word.
   *
   * @throws IllegalArgumentException if there is no such job
   */
  @JsonCreator
  public static Job of(String id) {
    for (Job job : values()) {
      if (job.id().equals(id)) {
        return job;
      }
    }
    throw new IllegalArgumentException("there is no job called " + id);
  }
}
