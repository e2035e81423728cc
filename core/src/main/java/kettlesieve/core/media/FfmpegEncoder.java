package kettlesieve.core.media;

import static org.bytedeco.ffmpeg.global.avcodec.*;
import static org.bytedeco.ffmpeg.global.avformat.*;
import static org.bytedeco.ffmpeg.global.avutil.*;

import java.io.IOException;
import java.nio.file.Path;
import kettlesieve.core.audio.Audio;
import org.bytedeco.ffmpeg.avcodec.AVCodec;
import org.bytedeco.ffmpeg.avcodec.AVCodecContext;
import org.bytedeco.ffmpeg.avcodec.AVPacket;
import org.bytedeco.ffmpeg.avformat.AVFormatContext;
import org.bytedeco.ffmpeg.avformat.AVIOContext;
import org.bytedeco.ffmpeg.avformat.AVStream;
import org.bytedeco.ffmpeg.avutil.AVDictionary;
import org.bytedeco.ffmpeg.avutil.AVFrame;
import org.bytedeco.javacpp.FloatPointer;
import org.bytedeco.javacpp.Pointer;
import org.bytedeco.javacpp.ShortPointer;

/** Encodes sound through FFmpeg; the same sound gives the same bytes. */
final class FfmpegEncoder {
  /** How samples are coded. */
  enum Coding {
    /** Lossless, of 16 bits. */
    FLAC("flac", AV_SAMPLE_FMT_S16),
    /** MPEG-1 or 2, layer III. */
    MP3("mp3", AV_SAMPLE_FMT_FLTP);

    private final String container;
    private final int samples;

    Coding(String container, int samples) {
      this.container = container;
      this.samples = samples;
    }
  }

  private FfmpegEncoder() {}

  /**
   * Writes a recording of one or two channels.
   *
   * @param kbits bits a second in thousands; 0 where the coding has no such choice
   * @throws IOException if the file cannot be written
   */
  static void write(Audio audio, Path file, Coding coding, int kbits) throws IOException {
    AVFormatContext format = new AVFormatContext(null);
    check(
        avformat_alloc_output_context2(
            format, null, coding.container, file.toAbsolutePath().toString()),
        file);
    AVCodecContext codec = null;
    try {
      AVCodec encoder =
          coding == Coding.FLAC
              ? avcodec_find_encoder(AV_CODEC_ID_FLAC)
              : avcodec_find_encoder_by_name("libmp3lame");
      codec = avcodec_alloc_context3(encoder);
      codec.sample_fmt(coding.samples);
      if (kbits > 0) {
        codec.bit_rate(1000L * kbits);
      }
      codec.sample_rate(audio.sampleRate());
      av_channel_layout_default(codec.ch_layout(), audio.channels());
      codec.flags(codec.flags() | AV_CODEC_FLAG_BITEXACT);
      format.flags(format.flags() | AVFormatContext.AVFMT_FLAG_BITEXACT);
      check(avcodec_open2(codec, encoder, (AVDictionary) null), file);
      AVStream stream = avformat_new_stream(format, null);
      avcodec_parameters_from_context(stream.codecpar(), codec);
      stream.time_base(av_make_q(1, audio.sampleRate()));
      AVIOContext out = new AVIOContext(null);
      check(avio_open(out, file.toAbsolutePath().toString(), AVIO_FLAG_WRITE), file);
      format.pb(out);
      try {
        check(avformat_write_header(format, (AVDictionary) null), file);
        encode(audio, coding, codec, stream, format, file);
        check(av_write_trailer(format), file);
      } finally {
        avio_closep(out);
      }
    } finally {
      if (codec != null) {
        avcodec_free_context(codec);
      }
      avformat_free_context(format);
    }
  }

  private static void encode(
      Audio audio,
      Coding coding,
      AVCodecContext codec,
      AVStream stream,
      AVFormatContext format,
      Path file)
      throws IOException {
    int size = codec.frame_size() > 0 ? codec.frame_size() : 4096;
    AVPacket packet = av_packet_alloc();
    try {
      for (long at = 0; at < audio.frames(); at += size) {
        int n = (int) Math.min(size, audio.frames() - at);
        AVFrame frame = av_frame_alloc();
        try {
          frame.nb_samples(n);
          frame.format(coding.samples);
          frame.sample_rate(audio.sampleRate());
          av_channel_layout_copy(frame.ch_layout(), codec.ch_layout());
          check(av_frame_get_buffer(frame, 0), file);
          if (coding == Coding.FLAC) {
            fill(audio, at, n, new ShortPointer(frame.data(0)));
          } else {
            for (int c = 0; c < audio.channels(); c++) {
              new FloatPointer((Pointer) frame.data(c)).put(audio.samples(c, at, n), 0, n);
            }
          }
          frame.pts(at);
          check(avcodec_send_frame(codec, frame), file);
        } finally {
          av_frame_free(frame);
        }
        drain(codec, packet, stream, format, file);
      }
      check(avcodec_send_frame(codec, null), file);
      drain(codec, packet, stream, format, file);
    } finally {
      av_packet_free(packet);
    }
  }

  private static void fill(Audio audio, long at, int n, ShortPointer into) {
    int channels = audio.channels();
    short[] samples = new short[n * channels];
    for (int c = 0; c < channels; c++) {
      float[] block = audio.samples(c, at, n);
      for (int i = 0; i < n; i++) {
        double value = Math.rint(block[i] * 32768.0);
        samples[i * channels + c] = (short) Math.max(-32768, Math.min(32767, value));
      }
    }
    into.put(samples, 0, samples.length);
  }

  private static void drain(
      AVCodecContext codec, AVPacket packet, AVStream stream, AVFormatContext format, Path file)
      throws IOException {
    while (avcodec_receive_packet(codec, packet) >= 0) {
      packet.stream_index(0);
      av_packet_rescale_ts(packet, codec.time_base(), stream.time_base());
      check(av_interleaved_write_frame(format, packet), file);
    }
  }

  private static void check(int status, Path file) throws IOException {
    if (status < 0) {
      throw new IOException(file + " could not be written");
    }
  }
}
