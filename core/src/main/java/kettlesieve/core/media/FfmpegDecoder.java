package kettlesieve.core.media;

import static org.bytedeco.ffmpeg.global.avcodec.*;
import static org.bytedeco.ffmpeg.global.avformat.*;
import static org.bytedeco.ffmpeg.global.avutil.*;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.IntBuffer;
import java.nio.file.Path;
import java.util.Map;
import kettlesieve.core.signal.Progress;
import org.bytedeco.ffmpeg.avcodec.AVCodec;
import org.bytedeco.ffmpeg.avcodec.AVCodecContext;
import org.bytedeco.ffmpeg.avcodec.AVCodecParameters;
import org.bytedeco.ffmpeg.avcodec.AVPacket;
import org.bytedeco.ffmpeg.avformat.AVFormatContext;
import org.bytedeco.ffmpeg.avformat.AVStream;
import org.bytedeco.ffmpeg.avutil.AVDictionary;
import org.bytedeco.ffmpeg.avutil.AVFrame;
import org.bytedeco.javacpp.BytePointer;
import org.bytedeco.javacpp.Pointer;
import org.bytedeco.javacpp.PointerPointer;

/**
 * Decodes one audio file through FFmpeg. Only plain audio containers are opened, and only by local
 * path, so that a hostile file cannot make the program read other files or the network.
 */
final class FfmpegDecoder implements AutoCloseable {
  private static final String CONTAINERS =
      "wav,w64,aiff,flac,ogg,mp3,mov,mp4,m4a,3gp,3g2,mj2,aac,matroska,webm,caf,au";
  private static final String EXPORT_AGAIN =
      "Export it again as WAV, AIFF, FLAC, Ogg or MP3 and choose the new file.";
  private static final Map<Integer, Integer> FIXED_BITS =
      Map.of(AV_CODEC_ID_PCM_F32LE, 32, AV_CODEC_ID_PCM_F64LE, 64);

  static {
    av_log_set_level(AV_LOG_QUIET);
  }

  private final Path file;
  private final AVFormatContext format = new AVFormatContext(null);
  private final AVCodecContext codec;
  private final AVStream stream;
  private final AVCodecParameters parameters;

  FfmpegDecoder(Path file) throws MediaException {
    this.file = file;
    try (AVDictionary options = new AVDictionary(null)) {
      av_dict_set(options, "protocol_whitelist", "file", 0);
      av_dict_set(options, "format_whitelist", CONTAINERS, 0);
      int opened = avformat_open_input(format, "file:" + file.toAbsolutePath(), null, options);
      av_dict_free(options);
      if (opened < 0) {
        throw new MediaException(file, "this is not an audio file that can be read", EXPORT_AGAIN);
      }
    }
    AVCodecContext context = null;
    try {
      avformat_find_stream_info(format, (PointerPointer<?>) null);
      AVCodec decoder = new AVCodec(null);
      int index = av_find_best_stream(format, AVMEDIA_TYPE_AUDIO, -1, -1, decoder, 0);
      if (index < 0) {
        throw new MediaException(file, "there is no sound in this file", EXPORT_AGAIN);
      }
      stream = format.streams(index);
      parameters = stream.codecpar();
      AVCodec found = avcodec_find_decoder(parameters.codec_id());
      if (found == null || found.isNull()) {
        throw new MediaException(file, "its coding is not known here", EXPORT_AGAIN);
      }
      context = avcodec_alloc_context3(found);
      avcodec_parameters_to_context(context, parameters);
      if (avcodec_open2(context, found, (AVDictionary) null) < 0) {
        throw new MediaException(file, "its header is damaged", EXPORT_AGAIN);
      }
      codec = context;
      checkLimits();
    } catch (MediaException e) {
      if (context != null) {
        avcodec_free_context(context);
      }
      avformat_close_input(format);
      throw e;
    }
  }

  private void checkLimits() throws MediaException {
    if (channels() < 1 || channels() > 8) {
      throw new MediaException(
          file, "it has " + channels() + " channels", "Files of 1 to 8 channels can be used.");
    }
    if (sampleRate() < 8_000 || sampleRate() > 192_000) {
      throw new MediaException(
          file,
          "its sample rate is " + sampleRate() + " Hz",
          "Rates from 8 to 192 kHz can be used; convert the file first.");
    }
  }

  int sampleRate() {
    return parameters.sample_rate();
  }

  int channels() {
    return parameters.ch_layout().nb_channels();
  }

  String container() {
    String name = format.iformat().name().getString();
    return name.contains(",") ? name.substring(0, name.indexOf(',')) : name;
  }

  String codecName() {
    return avcodec_get_name(parameters.codec_id()).getString();
  }

  boolean lossy() {
    var descriptor = avcodec_descriptor_get(parameters.codec_id());
    return descriptor != null
        && (descriptor.props() & AV_CODEC_PROP_LOSSLESS) == 0
        && !codecName().startsWith("pcm_");
  }

  int bits() {
    if (lossy()) {
      return 0;
    }
    int raw = parameters.bits_per_raw_sample();
    int coded = av_get_bits_per_sample(parameters.codec_id());
    return FIXED_BITS.getOrDefault(parameters.codec_id(), raw > 0 ? raw : coded);
  }

  /** Decodes everything into the sink. */
  void decode(SampleSink sink, Progress progress) throws MediaException, IOException {
    AVPacket packet = av_packet_alloc();
    AVFrame frame = av_frame_alloc();
    try {
      double expected = Math.max(1, declaredFrames());
      int sinceReport = 0;
      while (av_read_frame(format, packet) >= 0) {
        if (packet.stream_index() == stream.index()) {
          int sent = avcodec_send_packet(codec, packet);
          if (sent < 0) {
            throw damaged(sink);
          }
          drain(frame, sink);
          if (++sinceReport % 64 == 0) {
            progress.at("reading " + file.getFileName(), Math.min(1, sink.frames() / expected));
          }
        }
        av_packet_unref(packet);
      }
      avcodec_send_packet(codec, null);
      drain(frame, sink);
    } finally {
      av_frame_free(frame);
      av_packet_free(packet);
    }
    checkComplete(sink);
  }

  private MediaException damaged(SampleSink sink) {
    // The last bytes of a file that was cut off are often no whole frame.
    if (codecName().startsWith("pcm_") && declaredFrames() > sink.frames()) {
      return endsEarly(sink);
    }
    return new MediaException(
        file,
        String.format(
            java.util.Locale.ROOT,
            "it is damaged %.2f s from its start",
            sink.frames() / (double) sampleRate()),
        EXPORT_AGAIN);
  }

  private void drain(AVFrame frame, SampleSink sink) throws MediaException, IOException {
    while (true) {
      int received = avcodec_receive_frame(codec, frame);
      if (received == AVERROR_EAGAIN() || received == AVERROR_EOF()) {
        return;
      }
      if (received < 0 || frame.ch_layout().nb_channels() != channels()) {
        throw damaged(sink);
      }
      float[][] block = convert(frame);
      long bad = sink.add(block);
      if (bad >= 0) {
        throw new MediaException(
            file,
            String.format(
                java.util.Locale.ROOT,
                "it holds values that are not numbers, the first %.3f s from its start",
                bad / (double) sampleRate()),
            "Make it again with the tool that wrote it, or export it with fixed-point samples.");
      }
    }
  }

  private float[][] convert(AVFrame frame) throws MediaException {
    int channels = channels();
    int count = frame.nb_samples();
    int sampleFormat = frame.format();
    boolean planar = av_sample_fmt_is_planar(sampleFormat) != 0;
    int width = av_get_bytes_per_sample(sampleFormat);
    float[][] block = new float[channels][count];
    for (int c = 0; c < channels; c++) {
      BytePointer data = new BytePointer((Pointer) frame.extended_data(planar ? c : 0));
      data.capacity((long) count * width * (planar ? 1 : channels));
      ByteBuffer bytes = data.asByteBuffer().order(ByteOrder.nativeOrder());
      int step = planar ? width : width * channels;
      int start = planar ? 0 : c * width;
      float[] to = block[c];
      switch (av_get_packed_sample_fmt(sampleFormat)) {
        case AV_SAMPLE_FMT_U8 -> {
          for (int i = 0; i < count; i++) {
            to[i] = ((bytes.get(start + i * step) & 0xff) - 128) / 128f;
          }
        }
        case AV_SAMPLE_FMT_S16 -> {
          for (int i = 0; i < count; i++) {
            to[i] = bytes.getShort(start + i * step) / 32768f;
          }
        }
        case AV_SAMPLE_FMT_S32 -> {
          IntBuffer whole = bytes.asIntBuffer();
          for (int i = 0; i < count; i++) {
            to[i] = whole.get((start + i * step) / 4) * 0x1p-31f;
          }
        }
        case AV_SAMPLE_FMT_FLT -> {
          for (int i = 0; i < count; i++) {
            to[i] = bytes.getFloat(start + i * step);
          }
        }
        case AV_SAMPLE_FMT_DBL -> {
          for (int i = 0; i < count; i++) {
            to[i] = (float) bytes.getDouble(start + i * step);
          }
        }
        default ->
            throw new MediaException(file, "its samples are in an unusual form", EXPORT_AGAIN);
      }
    }
    return block;
  }

  /** Length the header promises, in frames, or −1 where it promises none or cannot be trusted. */
  private long declaredFrames() {
    long duration = stream.duration();
    if (duration <= 0) {
      return -1;
    }
    return av_rescale_q(duration, stream.time_base(), av_make_q(1, sampleRate()));
  }

  private void checkComplete(SampleSink sink) throws MediaException {
    if (sink.frames() == 0) {
      throw new MediaException(file, "there is no sound in this file (length zero)", EXPORT_AGAIN);
    }
    boolean exactHeader = codecName().startsWith("pcm_") || codecName().equals("flac");
    long declared = declaredFrames();
    long frameBytes =
        (long) channels() * Math.max(1, av_get_bits_per_sample(parameters.codec_id()) / 8);
    // Programs that write to a pipe leave the largest 32-bit size in the header.
    boolean unknownSize = declared * frameBytes >= 0xfffff000L - 65536 && container().equals("wav");
    if (exactHeader && !unknownSize && declared > sink.frames() + sampleRate() / 100) {
      throw endsEarly(sink);
    }
  }

  private MediaException endsEarly(SampleSink sink) {
    return new MediaException(
        file,
        String.format(
            java.util.Locale.ROOT,
            "it ends early: its header promises %.2f s and only %.2f s are there",
            declaredFrames() / (double) sampleRate(),
            sink.frames() / (double) sampleRate()),
        "Copy or export it again; it was probably cut off on the way.");
  }

  @Override
  public void close() {
    avcodec_free_context(codec);
    avformat_close_input(format);
  }
}
