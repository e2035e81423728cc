package kettlesieve.core.media;

import static org.bytedeco.ffmpeg.global.avcodec.*;
import static org.bytedeco.ffmpeg.global.avformat.*;
import static org.bytedeco.ffmpeg.global.avutil.*;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.IntBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.task.Progress;
import org.bytedeco.ffmpeg.avcodec.AVCodec;
import org.bytedeco.ffmpeg.avcodec.AVCodecContext;
import org.bytedeco.ffmpeg.avcodec.AVCodecParameters;
import org.bytedeco.ffmpeg.avcodec.AVPacket;
import org.bytedeco.ffmpeg.avformat.AVChapter;
import org.bytedeco.ffmpeg.avformat.AVFormatContext;
import org.bytedeco.ffmpeg.avformat.AVStream;
import org.bytedeco.ffmpeg.avutil.AVDictionary;
import org.bytedeco.ffmpeg.avutil.AVDictionaryEntry;
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
      "wav,w64,aiff,flac,ogg,mp3,mov,mp4,m4a,3gp,3g2,mj2,aac,matroska,webm,caf,au"
          + ",wv,ac3,eac3,asf,mxf,avi,mpeg,mpegts";
  private static final String EXPORT_AGAIN =
      "Export it again as WAV, AIFF, FLAC, Ogg or MP3 and choose the new file.";
  private static final long LONGEST_SECONDS = 24 * 3600;

  /** Positions in Opus are counted at this rate whatever the rate (RFC 7845). */
  private static final int OPUS_RATE = 48_000;

  /** Coders pad their ends, and headers count that in or not. */
  private static final double LOSSY_TAIL_SECONDS = 0.5;

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
  private String doubt;

  /** The stream that the file marks. */
  FfmpegDecoder(Path file) throws MediaException, IOException {
    this(file, null);
  }

  /**
   * @param wanted of the audio streams, counted from 1; null for the one that the file marks
   */
  FfmpegDecoder(Path file, Integer wanted) throws MediaException, IOException {
    this.file = file;
    try (AVDictionary options = new AVDictionary(null)) {
      av_dict_set(options, "protocol_whitelist", "file", 0);
      av_dict_set(options, "format_whitelist", CONTAINERS, 0);
      int opened = avformat_open_input(format, "file:" + file.toAbsolutePath(), null, options);
      av_dict_free(options);
      if (opened < 0) {
        Optional<OggPages.Fault> fault = OggPages.first(file);
        throw fault.isPresent()
            ? damaged(fault.get(), -1)
            : new MediaException(file, "this is not an audio file that can be read", EXPORT_AGAIN);
      }
    }
    AVCodecContext context = null;
    try {
      avformat_find_stream_info(format, (PointerPointer<?>) null);
      AVCodec decoder = new AVCodec(null);
      int index =
          wanted == null
              ? av_find_best_stream(format, AVMEDIA_TYPE_AUDIO, -1, -1, decoder, 0)
              : numbered(wanted);
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
      if (parameters.codec_id() == AV_CODEC_ID_FLAC) {
        context.err_recognition(AV_EF_CRCCHECK | AV_EF_EXPLODE);
      }
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

  private int numbered(int wanted) throws MediaException {
    List<Integer> sounds = sounds();
    if (wanted > sounds.size()) {
      throw new MediaException(
          file,
          "it has " + sounds.size() + " audio streams, and number " + wanted + " is asked for",
          "Choose another stream of it in Gather.");
    }
    return sounds.get(wanted - 1);
  }

  private List<Integer> sounds() {
    List<Integer> sounds = new ArrayList<>();
    for (int i = 0; i < format.nb_streams(); i++) {
      if (format.streams(i).codecpar().codec_type() == AVMEDIA_TYPE_AUDIO) {
        sounds.add(i);
      }
    }
    return sounds;
  }

  /** Its audio streams in words; null where there is only one. */
  List<String> streams() {
    List<Integer> sounds = sounds();
    if (sounds.size() < 2) {
      return null;
    }
    List<String> words = new ArrayList<>();
    for (int index : sounds) {
      AVStream one = format.streams(index);
      String title = tag(one.metadata(), "title");
      String language = tag(one.metadata(), "language");
      int channels = one.codecpar().ch_layout().nb_channels();
      words.add(
          (title.isEmpty() ? "Stream " + (words.size() + 1) : title)
              + (language.isEmpty() || language.equals("und") ? "" : ", " + language)
              + ", "
              + avcodec_get_name(one.codecpar().codec_id()).getString()
              + (channels == 1 ? ", mono" : ", " + channels + " channels"));
    }
    return words;
  }

  private static String tag(AVDictionary of, String name) {
    AVDictionaryEntry entry = of == null ? null : av_dict_get(of, name, null, 0);
    return entry == null || entry.isNull() ? "" : entry.value().getString();
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

  /**
   * Samples over all channels that the header promises, 0 where it promises none.
   *
   * @throws MediaException if that is more than can be used
   */
  long promisedSamples() throws MediaException {
    long frames = Math.max(0, declaredFrames());
    if (frames / sampleRate() > LONGEST_SECONDS) {
      throw new MediaException(
          file,
          "it says that it is " + frames / sampleRate() / 3600 + " hours long",
          "Files of up to 24 hours can be used; cut it into parts first.");
    }
    return frames * channels();
  }

  /** What the file says of times; null for nothing. */
  PlacesInFile places() throws IOException {
    PlacesInFile own = PlacesInFile.of(file);
    List<PlacesInFile.Marker> chapters = own.markers().isEmpty() ? chapters() : own.markers();
    return own.startSamples() == null && chapters.isEmpty()
        ? null
        : new PlacesInFile(own.startSamples(), chapters);
  }

  private List<PlacesInFile.Marker> chapters() {
    List<PlacesInFile.Marker> markers = new ArrayList<>();
    for (int i = 0; i < format.nb_chapters(); i++) {
      AVChapter chapter = format.chapters(i);
      long frame = av_rescale_q(chapter.start(), chapter.time_base(), av_make_q(1, sampleRate()));
      markers.add(new PlacesInFile.Marker(Math.max(0, frame), tag(chapter.metadata(), "title")));
    }
    return markers;
  }

  /** Why the sound may not be whole; null for no doubt. */
  String doubt() {
    return doubt;
  }

  /** Whether the length is worked out from the bit rate, and may be far off. */
  boolean lengthIsGuessed() {
    return format.duration_estimation_method() == AVFMT_DURATION_FROM_BITRATE;
  }

  /** Decodes everything into the sink, as far as the limit allows. */
  void decode(SampleSink sink, DecodedLimit limit, Progress progress)
      throws MediaException, IOException {
    double bytes = Files.size(file);
    checkWhole();
    FlacSum sum = FlacSum.of(parameters);
    AVPacket packet = av_packet_alloc();
    AVFrame frame = av_frame_alloc();
    try {
      double expected = Math.max(1, declaredFrames());
      int sinceReport = 0;
      int read;
      while ((read = av_read_frame(format, packet)) >= 0) {
        if (packet.stream_index() == stream.index()) {
          int sent = avcodec_send_packet(codec, packet);
          if (sent < 0 && sum.complete(sink.frames())) {
            // What stands behind the last sample, such as a tag, is none of ours.
            break;
          }
          if (sent < 0) {
            throw damaged(sink);
          }
          drain(frame, sink, sum);
          limit.checkDecoded(file, sink.frames() * channels(), packet.pos() / bytes);
          if (++sinceReport % 64 == 0) {
            progress.at("reading " + file.getFileName(), Math.min(1, sink.frames() / expected));
          }
        }
        av_packet_unref(packet);
      }
      if (read < 0 && read != AVERROR_EOF()) {
        throw damaged(sink);
      }
      avcodec_send_packet(codec, null);
      drain(frame, sink, sum);
    } finally {
      av_frame_free(frame);
      av_packet_free(packet);
    }
    checkComplete(sink);
    if (!sum.fits()) {
      throw new MediaException(
          file,
          "it is damaged: its samples are not those that its own checksum is of",
          "Copy or export it again; something changed it on the way.");
    }
  }

  /** What decoders pass over in silence: sound that is promised and not there, damaged pages. */
  private void checkWhole() throws MediaException, IOException {
    long missing = PromisedLength.missing(file).orElse(0);
    int frameBytes = channels() * Math.max(1, av_get_bits_per_sample(parameters.codec_id()) / 8);
    if (codecName().startsWith("pcm_") && missing > (long) frameBytes * sampleRate() / 100) {
      double there = (double) (Files.size(file)) / frameBytes / sampleRate();
      throw endsEarly((double) missing / frameBytes / sampleRate() + there, there);
    }
    Optional<OggPages.Fault> fault =
        container().equals("ogg") ? OggPages.first(file) : Optional.empty();
    if (fault.isPresent() && fault.get().position() < Files.size(file)) {
      throw damaged(fault.get(), codecName().equals("opus") ? OPUS_RATE : sampleRate());
    }
    doubt =
        fault.isPresent() ? "the file has no end of its own; it may have been cut off there" : null;
  }

  private MediaException damaged(OggPages.Fault fault, int rate) {
    String place =
        fault.granule() <= 0 || rate <= 0
            ? ""
            : String.format(
                Locale.ROOT, "%.2f s from its start, ", fault.granule() / (double) rate);
    return new MediaException(
        file, "it is damaged " + place + "at byte " + fault.position(), EXPORT_AGAIN);
  }

  private MediaException damaged(SampleSink sink) {
    // The last bytes of a file that was cut off are often no whole frame.
    if (codecName().startsWith("pcm_") && declaredFrames() > sink.frames()) {
      return endsEarly(sink);
    }
    return new MediaException(
        file,
        String.format(
            Locale.ROOT,
            "it is damaged %.2f s from its start",
            sink.frames() / (double) sampleRate()),
        EXPORT_AGAIN);
  }

  private void drain(AVFrame frame, SampleSink sink, FlacSum sum)
      throws MediaException, IOException {
    while (true) {
      int received = avcodec_receive_frame(codec, frame);
      if (received == AVERROR_EAGAIN() || received == AVERROR_EOF()) {
        return;
      }
      if (received < 0 && sum.complete(sink.frames())) {
        return;
      }
      if (received < 0
          || frame.ch_layout().nb_channels() != channels()
          || frame.sample_rate() != sampleRate()) {
        throw damaged(sink);
      }
      float[][] block = convert(frame);
      sum.add(block);
      long bad = sink.add(block);
      if (bad >= 0) {
        throw new MediaException(
            file,
            String.format(
                Locale.ROOT,
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
    boolean exactHeader =
        codecName().startsWith("pcm_") || List.of("flac", "wavpack").contains(codecName());
    boolean ownLength = List.of("mov", "matroska", "mp3").contains(container());
    long declared = declaredFrames();
    long frameBytes =
        (long) channels() * Math.max(1, av_get_bits_per_sample(parameters.codec_id()) / 8);
    // Programs that write to a pipe leave the largest 32-bit size in the header.
    boolean unknownSize = declared * frameBytes >= 0xfffff000L - 65536 && container().equals("wav");
    if (exactHeader && !unknownSize && declared > sink.frames() + sampleRate() / 100) {
      throw endsEarly(sink);
    }
    if (ownLength
        && !lengthIsGuessed()
        && declared > sink.frames() + LOSSY_TAIL_SECONDS * sampleRate()) {
      throw endsEarly(sink);
    }
  }

  private MediaException endsEarly(SampleSink sink) {
    return endsEarly(
        declaredFrames() / (double) sampleRate(), sink.frames() / (double) sampleRate());
  }

  private MediaException endsEarly(double promised, double there) {
    return new MediaException(
        file,
        String.format(
            Locale.ROOT,
            "it ends early: its header promises %.2f s and only %.2f s are there",
            promised,
            there),
        "Copy or export it again; it was probably cut off on the way.");
  }

  @Override
  public void close() {
    avcodec_free_context(codec);
    avformat_close_input(format);
  }
}
