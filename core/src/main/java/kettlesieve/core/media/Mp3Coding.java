package kettlesieve.core.media;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.task.Progress;

/** What MP3 does to a recording: coded and decoded, where it was before. */
public final class Mp3Coding {
  /** Sampling frequencies of MPEG-1, 2 and 2.5, layer III. */
  private static final Set<Integer> RATES =
      Set.of(8000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000);

  private Mp3Coding() {}

  /**
   * A recording of one or two channels after coding, as long as it was.
   *
   * @param kbits bits a second in thousands
   * @throws MediaException if it cannot be coded: MP3 knows not every rate
   */
  public static Audio through(Audio audio, int kbits, MediaReader reader) throws MediaException {
    Path file = null;
    try {
      file = Files.createTempFile("kettle-", ".mp3");
      if (!RATES.contains(audio.sampleRate()) || audio.channels() > 2) {
        throw new MediaException(
            file,
            "MP3 holds one or two channels at rates up to 48,000 Hz, not "
                + audio.channels()
                + " at "
                + audio.sampleRate(),
            "Choose another rate.");
      }
      FfmpegEncoder.write(audio, file, FfmpegEncoder.Coding.MP3, kbits);
      Audio coded = reader.read(file, Progress.SILENT).audio();
      float[][] channels = new float[audio.channels()][];
      for (int c = 0; c < channels.length; c++) {
        channels[c] = coded.samples(c, 0, Math.toIntExact(audio.frames()));
      }
      return Audio.of(audio.sampleRate(), channels);
    } catch (IOException e) {
      throw new MediaException(
          file == null ? Path.of("MP3") : file,
          "it could not be coded",
          "Check that there is room for temporary files.",
          e);
    } finally {
      if (file != null) {
        file.toFile().delete();
      }
    }
  }
}
