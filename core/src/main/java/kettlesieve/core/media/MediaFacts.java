package kettlesieve.core.media;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;

/**
 * What is known of a recording's file.
 *
 * @param sha256 checksum of the file's bytes, lower-case hexadecimal
 * @param bytes size of the file
 * @param container short name of the file format, such as "wav"
 * @param codec short name of the coding, such as "pcm_s24le"
 * @param bits bits a sample as stored, 0 where the coding has no fixed number
 * @param lossy whether the coding throws information away
 * @param sampleRate Hz
 * @param channels number of channels
 * @param frames length in sample frames
 * @param doubt why it may not be whole, in words for people; null for no doubt
 * @param streams its audio streams in words, the first first; null where it has one
 * @param places what the file says of times; null for nothing
 */
public record MediaFacts(
    String sha256,
    long bytes,
    String container,
    String codec,
    int bits,
    boolean lossy,
    int sampleRate,
    int channels,
    long frames,
    @JsonInclude(JsonInclude.Include.NON_NULL) String doubt,
    @JsonInclude(JsonInclude.Include.NON_NULL) List<String> streams,
    @JsonInclude(JsonInclude.Include.NON_NULL) PlacesInFile places) {

  /** Facts without a doubt, of a file that says nothing of times. */
  public MediaFacts(
      String sha256,
      long bytes,
      String container,
      String codec,
      int bits,
      boolean lossy,
      int sampleRate,
      int channels,
      long frames) {
    this(
        sha256,
        bytes,
        container,
        codec,
        bits,
        lossy,
        sampleRate,
        channels,
        frames,
        null,
        null,
        null);
  }

  /** When the first sample was, in seconds since midnight; null where the file does not say. */
  @JsonIgnore
  public Double startSeconds() {
    return places == null || places.startSamples() == null
        ? null
        : (double) places.startSamples() / sampleRate % 86_400;
  }

  /** Length in seconds. */
  public double seconds() {
    return (double) frames / sampleRate;
  }
}
