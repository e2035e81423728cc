package kettlesieve.core.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import kettlesieve.core.Sounds;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a decoder says of a file and what it refuses; whole readings: {@link MediaReaderTest}. */
class FfmpegDecoderTest {
  @TempDir Path folder;

  @Test
  void saysWhatTheHeaderPromises() throws Exception {
    try (FfmpegDecoder decoder = new FfmpegDecoder(Sounds.resource("formats/s24.wav"))) {
      assertThat(decoder.sampleRate()).isEqualTo(48_000);
      assertThat(decoder.channels()).isEqualTo(1);
      assertThat(decoder.bits()).isEqualTo(24);
      assertThat(decoder.lossy()).isFalse();
      assertThat(decoder.promisedSamples()).isEqualTo(48_000);
      assertThat(decoder.lengthIsGuessed()).isFalse();
    }
    try (FfmpegDecoder decoder = new FfmpegDecoder(Sounds.resource("formats/tone.mp3"))) {
      assertThat(decoder.lossy()).isTrue();
      assertThat(decoder.bits()).isZero();
    }
  }

  @Test
  void decodesEverySampleOnce() throws Exception {
    try (FfmpegDecoder decoder = new FfmpegDecoder(Sounds.resource("formats/f32.wav"));
        SampleSink sink =
            new SampleSink(16_000, 1, folder.resolve("samples"), SampleSink.AT_MOST_IN_MEMORY)) {
      decoder.decode(sink, DecodedLimit.in(folder), Progress.SILENT);
      assertThat(sink.frames()).isEqualTo(16_000);
      float[] x = sink.finish().wholeChannel(0);
      for (int i = 0; i < x.length; i++) {
        double want = 0.25 * Math.sin(2 * Math.PI * 440 * i / 16_000);
        assertThat((double) x[i]).isCloseTo(want, within(1e-5));
      }
    }
  }

  /** A list of other files is no recording, whatever its name: it could name any file. */
  @Test
  void opensNoPlaylist() throws Exception {
    Path list = folder.resolve("song.wav");
    Files.writeString(
        list,
        "#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:1,\n"
            + Sounds.resource("formats/s16.wav").toUri()
            + "\n#EXT-X-ENDLIST\n");
    assertThatThrownBy(() -> new FfmpegDecoder(list).close())
        .isInstanceOf(MediaException.class)
        .hasMessageContaining("song.wav");
  }

  @Test
  void refusesWhatIsNoSoundAndWhatBreaksOff() throws Exception {
    Path noise = folder.resolve("noise.flac");
    Files.write(noise, new byte[5000]);
    assertThatThrownBy(() -> new FfmpegDecoder(noise).close())
        .isInstanceOf(MediaException.class)
        .hasMessageContaining("noise.flac");
    byte[] whole = Files.readAllBytes(Sounds.resource("formats/s16.wav"));
    Path torn = folder.resolve("torn.wav");
    Files.write(torn, Arrays.copyOf(whole, whole.length / 2));
    try (FfmpegDecoder decoder = new FfmpegDecoder(torn);
        SampleSink sink =
            new SampleSink(
                decoder.sampleRate(),
                decoder.channels(),
                folder.resolve("half"),
                SampleSink.AT_MOST_IN_MEMORY)) {
      assertThatThrownBy(() -> decoder.decode(sink, DecodedLimit.in(folder), Progress.SILENT))
          .isInstanceOf(MediaException.class)
          .hasMessageContaining("torn.wav");
    }
  }
}
