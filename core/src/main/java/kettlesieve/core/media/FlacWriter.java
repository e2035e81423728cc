package kettlesieve.core.media;

import java.io.IOException;
import java.nio.file.Path;
import kettlesieve.core.audio.Audio;

/** Writes FLAC files of 16 bits, through FFmpeg; the same sound gives the same bytes. */
public final class FlacWriter {
  private FlacWriter() {}

  /**
   * Writes a recording of one or two channels.
   *
   * @throws IOException if the file cannot be written
   */
  public static void write(Audio audio, Path file) throws IOException {
    FfmpegEncoder.write(audio, file, FfmpegEncoder.Coding.FLAC, 0);
  }
}
