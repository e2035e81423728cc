package kettlesieve.core.report;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.match.Heard;
import kettlesieve.core.score.Passages;

/**
 * Each passage from its leader, on the source's time and at its level, with straight fades of 10 ms
 * where the leader changes: versions of one source are alike, so their sum keeps its level.
 */
public final class LeadersAudio implements Audio {
  private static final double FADE_SECONDS = 0.010;

  private final int rate;
  private final long frames;
  private final int channels;
  private final List<Audio> pieces = new ArrayList<>();
  private final List<Long> starts = new ArrayList<>();

  /**
   * @param heard versions by id, all on the source's time
   * @param rate the source's
   * @param frames length of the source
   */
  public LeadersAudio(Passages passages, Map<String, Heard> heard, int rate, long frames) {
    this.rate = rate;
    this.frames = frames;
    this.channels = heard.values().stream().mapToInt(h -> h.audio().channels()).max().orElse(1);
    Audio last = null;
    for (Passages.Passage p : passages.stretches()) {
      Heard own = heard.get(p.leader());
      Audio audio = own == null ? last : own.audio().asChannels(channels);
      if (audio != null && audio != last) {
        starts.add(pieces.isEmpty() ? 0L : Math.round(p.from() * rate));
        pieces.add(audio);
        last = audio;
      }
    }
  }

  @Override
  public int sampleRate() {
    return rate;
  }

  @Override
  public int channels() {
    return channels;
  }

  @Override
  public long frames() {
    return frames;
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    java.util.Arrays.fill(into, offset, offset + length, 0f);
    long fade = Math.max(1, Math.round(FADE_SECONDS * rate));
    float[] block = new float[length];
    for (int p = 0; p < pieces.size(); p++) {
      long start = starts.get(p) - (p == 0 ? 0 : fade / 2);
      long end = p + 1 < pieces.size() ? starts.get(p + 1) + (fade - fade / 2) : frames;
      long first = Math.max(from, start);
      long last = Math.min(from + length, end);
      if (first >= last) {
        continue;
      }
      pieces.get(p).read(channel, first, block, 0, (int) (last - first));
      for (long i = first; i < last; i++) {
        double in = p == 0 ? 1 : Math.min(1, (i - start + 0.5) / fade);
        double out = p + 1 < pieces.size() ? Math.min(1, (end - i - 0.5) / fade) : 1;
        into[offset + (int) (i - from)] += (float) (Math.min(in, out) * block[(int) (i - first)]);
      }
    }
  }
}
