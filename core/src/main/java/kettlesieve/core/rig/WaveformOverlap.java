package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.signal.Windows;
import kettlesieve.core.task.Progress;

/**
 * Overlap-add of pieces of 40 ms, each taken where it continues the last one best (Verhelst &amp;
 * Roelands, "An overlap-add technique based on waveform similarity (WSOLA) for high quality
 * time-scale modification of speech", ICASSP 1993). All channels take the same places.
 */
public final class WaveformOverlap implements StandIn {
  private static final double PIECE_SECONDS = 0.040;
  private static final double SEARCH_SECONDS = 0.010;

  @Override
  public String id() {
    return "waveform-overlap";
  }

  @Override
  public String title() {
    return "Waveform overlap";
  }

  @Override
  public String description() {
    return "Stand-in: overlaps pieces of the waveform where they are most alike (Verhelst &"
        + " Roelands 1993). Good for one voice; doubles attacks.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.STRETCH);
  }

  @Override
  public boolean hasAmount() {
    return false;
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    StandIn.checkLength(in);
    int half = (int) Math.round(PIECE_SECONDS / 2 * in.sampleRate());
    int search = (int) Math.round(SEARCH_SECONDS * in.sampleRate());
    int frames = Math.toIntExact(Math.round(in.frames() * setup.ratio()));
    float[] window = Windows.hann(2 * half);
    float[] mono = in.downmix().wholeChannel(0);
    float[][] x = new float[in.channels()][];
    float[][] out = new float[in.channels()][frames];
    for (int c = 0; c < x.length; c++) {
      x[c] = in.wholeChannel(c);
    }
    int place = -half;
    for (int to = -half; to < frames; to += half) {
      int wanted = (int) Math.round((to + half) / setup.ratio()) - half;
      if (to > -half) {
        place = best(mono, place + half, wanted, search, 2 * half);
      }
      for (int c = 0; c < x.length; c++) {
        for (int i = 0; i < 2 * half; i++) {
          int at = to + i;
          int from = place + i;
          if (at >= 0 && at < frames && from >= 0 && from < x[c].length) {
            out[c][at] += x[c][from] * window[i];
          }
        }
      }
      if (to % (half * 128) < half) {
        progress.at("stretching", Math.max(0, (double) to / frames));
      }
    }
    return Map.of(WHOLE, Audio.of(in.sampleRate(), out));
  }

  /** The place near {@code wanted} whose piece is most like the one that would come next. */
  private static int best(float[] x, int natural, int wanted, int search, int length) {
    int best = wanted;
    double bestScore = Double.NEGATIVE_INFINITY;
    // Every second place and every second sample first, then the neighbours exactly.
    for (int pass = 0; pass < 2; pass++) {
      int step = pass == 0 ? 2 : 1;
      int middle = pass == 0 ? wanted : best;
      int reach = pass == 0 ? search : 1;
      for (int place = middle - reach; place <= middle + reach; place += step) {
        double product = 0;
        double energy = 1e-9;
        for (int i = 0; i < length; i += 2) {
          float a = at(x, natural + i);
          float b = at(x, place + i);
          product += a * b;
          energy += b * b;
        }
        double score = product / Math.sqrt(energy);
        if (score > bestScore) {
          bestScore = score;
          best = place;
        }
      }
    }
    return best;
  }

  private static float at(float[] x, int i) {
    return i >= 0 && i < x.length ? x[i] : 0;
  }
}
