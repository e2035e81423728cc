package kettlesieve.calibrate.makers;

import static org.bytedeco.ffmpeg.global.avfilter.*;
import static org.bytedeco.ffmpeg.global.avutil.*;

import java.util.Arrays;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;
import org.bytedeco.ffmpeg.avfilter.AVFilterContext;
import org.bytedeco.ffmpeg.avfilter.AVFilterGraph;
import org.bytedeco.ffmpeg.avfilter.AVFilterInOut;
import org.bytedeco.ffmpeg.avutil.AVFrame;
import org.bytedeco.javacpp.BytePointer;
import org.bytedeco.javacpp.FloatPointer;
import org.bytedeco.javacpp.Pointer;

/** FFmpeg's audio filters on one channel. */
final class FilterGraph {
  private static final int BLOCK = 1024;

  private FilterGraph() {}

  /**
   * Runs filters.
   *
   * @param description in FFmpeg's own words
   * @return as long as what came in; what the filters held back at the end is silence
   */
  static Audio process(Audio in, String description) throws CalibrationException {
    av_log_set_level(AV_LOG_QUIET);
    AVFilterGraph graph = avfilter_graph_alloc();
    graph.nb_threads(1);
    try {
      AVFilterContext from = new AVFilterContext(null);
      AVFilterContext to = new AVFilterContext(null);
      String form =
          "sample_rate="
              + in.sampleRate()
              + ":sample_fmt=fltp:channel_layout=mono:time_base=1/"
              + in.sampleRate();
      check(
          avfilter_graph_create_filter(
              from, avfilter_get_by_name("abuffer"), "in", form, null, graph),
          description);
      check(
          avfilter_graph_create_filter(
              to, avfilter_get_by_name("abuffersink"), "out", null, null, graph),
          description);
      AVFilterInOut outputs = avfilter_inout_alloc();
      outputs.name(new BytePointer(av_strdup("in")));
      outputs.filter_ctx(from);
      outputs.pad_idx(0);
      outputs.next(null);
      AVFilterInOut inputs = avfilter_inout_alloc();
      inputs.name(new BytePointer(av_strdup("out")));
      inputs.filter_ctx(to);
      inputs.pad_idx(0);
      inputs.next(null);
      String whole =
          description
              + ",aformat=sample_fmts=fltp:sample_rates="
              + in.sampleRate()
              + ":channel_layouts=mono";
      check(avfilter_graph_parse_ptr(graph, whole, inputs, outputs, null), description);
      check(avfilter_graph_config(graph, null), description);
      return run(in, from, to, description);
    } finally {
      avfilter_graph_free(graph);
    }
  }

  private static Audio run(Audio in, AVFilterContext from, AVFilterContext to, String description)
      throws CalibrationException {
    int length = Math.toIntExact(in.frames());
    float[] x = in.wholeChannel(0);
    float[] y = new float[length];
    int written = 0;
    AVFrame given = av_frame_alloc();
    AVFrame taken = av_frame_alloc();
    try {
      for (int at = 0; at < length; at += BLOCK) {
        int count = Math.min(BLOCK, length - at);
        given.format(AV_SAMPLE_FMT_FLTP);
        given.sample_rate(in.sampleRate());
        av_channel_layout_default(given.ch_layout(), 1);
        given.nb_samples(count);
        given.pts(at);
        check(av_frame_get_buffer(given, 0), description);
        new FloatPointer((Pointer) given.data(0)).put(x, at, count);
        check(av_buffersrc_add_frame(from, given), description);
        av_frame_unref(given);
        written = drain(to, taken, y, written);
      }
      check(av_buffersrc_add_frame(from, (AVFrame) null), description);
      drain(to, taken, y, written);
    } finally {
      av_frame_free(given);
      av_frame_free(taken);
    }
    return Audio.of(in.sampleRate(), y);
  }

  private static int drain(AVFilterContext to, AVFrame taken, float[] y, int from) {
    int written = from;
    while (av_buffersink_get_frame(to, taken) >= 0) {
      int count = Math.min(taken.nb_samples(), y.length - written);
      if (count > 0) {
        float[] block = new float[count];
        new FloatPointer((Pointer) taken.data(0)).get(block);
        System.arraycopy(block, 0, y, written, count);
        written += count;
      }
      av_frame_unref(taken);
    }
    return written;
  }

  private static void check(int result, String description) throws CalibrationException {
    if (result < 0) {
      byte[] words = new byte[256];
      av_strerror(result, words, words.length);
      int end = 0;
      while (end < words.length && words[end] != 0) {
        end++;
      }
      throw new CalibrationException(
          "the filter "
              + description
              + " could not be run: "
              + new String(Arrays.copyOf(words, end), java.nio.charset.StandardCharsets.UTF_8));
    }
  }
}
