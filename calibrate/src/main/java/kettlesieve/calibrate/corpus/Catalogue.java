package kettlesieve.calibrate.corpus;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * The voices and noises that the corpus is made of.
 *
 * @param voices recorded by people
 * @param noises recorded, or made by code
 * @param music pieces of music, for clipping
 * @param bands single instruments, for mixes whose stems are known
 */
public record Catalogue(
    List<Voice> voices, List<Noise> noises, List<Music> music, List<Band> bands) {

  /**
   * A voice.
   *
   * @param half where it is used
   * @param from the Debian package that holds it
   * @param files regular expression of its files in the package
   */
  public record Voice(String id, Half half, String from, String files) {}

  /**
   * A noise.
   *
   * @param kind what people would call it: rows of the tables
   * @param steady whether pauses stand for the noise elsewhere
   * @param made how it is made by code; null for a recording
   * @param from the Debian package that holds it; null for one that is made
   * @param files its file in the package; what follows an exclamation mark lies within an archive
   */
  public record Noise(
      String id, String kind, Half half, boolean steady, String made, String from, String files) {}

  /**
   * A piece of music.
   *
   * @param from the Debian package that holds it
   * @param file in the package
   */
  public record Music(String id, Half half, String from, String file) {}

  /**
   * Instruments that play together: loops of drums, single notes of the others.
   *
   * @param from the Debian package that holds them
   * @param drums file in the package
   * @param bass file in the package
   * @param other file in the package
   */
  public record Band(String id, Half half, String from, String drums, String bass, String other) {}

  /** The one that ships. */
  public static Catalogue shipped() {
    try (InputStream in = Catalogue.class.getResourceAsStream("corpus.json")) {
      return new ObjectMapper().readValue(in, Catalogue.class);
    } catch (IOException e) {
      throw new UncheckedIOException("the list of voices and noises is damaged", e);
    }
  }

  /** Voices of a half. */
  public List<Voice> voices(Half half) {
    return voices.stream().filter(v -> v.half() == half).toList();
  }

  /** The voice of an id. */
  Voice voice(String id) {
    return voices.stream().filter(v -> v.id().equals(id)).findFirst().orElseThrow();
  }

  /** Noises of a half. */
  public List<Noise> noises(Half half) {
    return noises.stream().filter(n -> n.half() == half).toList();
  }

  /** Pieces of music of a half. */
  public List<Music> music(Half half) {
    return music.stream().filter(m -> m.half() == half).toList();
  }

  /** All packages that are needed. */
  public Set<String> packages() {
    Set<String> all = new LinkedHashSet<>();
    voices.forEach(v -> all.add(v.from()));
    noises.stream().filter(n -> n.from() != null).forEach(n -> all.add(n.from()));
    music.forEach(m -> all.add(m.from()));
    bands.forEach(b -> all.add(b.from()));
    all.add(SongMaker.SOUND_FONT);
    return all;
  }
}
