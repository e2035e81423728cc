package kettlesieve.core.rig;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Progress;

/**
 * Splits into tonal and transient parts by medians of the spectrogram along time and along
 * frequency (Fitzgerald, "Harmonic/percussive separation using median filtering", DAFx 2010). Above
 * half the amount only cells that are clearly one or the other are taken, and what is left becomes
 * the noise part (Driedger, Müller &amp; Disch, ISMIR 2014).
 */
public final class MedianSplit implements StandIn {
  private static final int REACH = 8;

  @Override
  public String id() {
    return "median-split";
  }

  @Override
  public String title() {
    return "Median split";
  }

  @Override
  public String description() {
    return "Stand-in: tonal and transient parts by medians along time and frequency (Fitzgerald"
        + " 2010). Over amount 50 a noise part is left over.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.STEMS);
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    StandIn.checkLength(in);
    double margin = 1 + Math.max(0, setup.amount() - 50) / 25;
    boolean soft = margin == 1;
    int size = Math.toIntExact(in.frames());
    float[][] tonal = new float[in.channels()][size];
    float[][] transients = new float[in.channels()][size];
    float[][] noise = new float[in.channels()][size];
    for (int c = 0; c < in.channels(); c++) {
      channel(in, c, margin, soft, tonal[c], transients[c], progress);
      float[] x = in.wholeChannel(c);
      for (int i = 0; i < size; i++) {
        noise[c][i] = x[i] - tonal[c][i] - transients[c][i];
      }
    }
    Map<String, Audio> parts = new LinkedHashMap<>();
    parts.put("tonal", Audio.of(in.sampleRate(), tonal));
    parts.put("transient", Audio.of(in.sampleRate(), transients));
    if (!soft) {
      parts.put("noise", Audio.of(in.sampleRate(), noise));
    }
    return parts;
  }

  private static void channel(
      Audio in,
      int channel,
      double margin,
      boolean soft,
      float[] tonal,
      float[] transients,
      Progress progress) {
    ShortTime transform = new ShortTime(ShortTime.usualLength(in.sampleRate()));
    int frames = transform.frames(in);
    int bins = transform.bins();
    int window = 2 * REACH + 1;
    // Seventeen frames at a time are all that the medians see.
    float[][] spectra = new float[window][2 * (bins - 1)];
    float[][] magnitudes = new float[window][bins];
    float[] tonalGain = new float[bins];
    float[] transientGain = new float[bins];
    float[] part = new float[2 * (bins - 1)];
    for (int t = 0; t < frames + REACH; t++) {
      int slot = t % window;
      if (t < frames) {
        transform.analyse(in, channel, t, spectra[slot]);
        for (int k = 0; k < bins; k++) {
          magnitudes[slot][k] = (float) Math.sqrt(ShortTime.power(spectra[slot], k));
        }
      } else {
        Arrays.fill(magnitudes[slot], 0);
      }
      int middle = t - REACH;
      if (middle < 0) {
        continue;
      }
      int own = middle % window;
      masks(magnitudes, own, margin, soft, tonalGain, transientGain);
      ShortTime.times(spectra[own], tonalGain, part);
      transform.add(part, middle, tonal);
      ShortTime.times(spectra[own], transientGain, part);
      transform.add(part, middle, transients);
      if (t % 256 == 0) {
        progress.at("splitting", (double) t / frames);
      }
    }
  }

  private static void masks(
      float[][] magnitudes, int own, double margin, boolean soft, float[] tonal, float[] trans) {
    int bins = tonal.length;
    float[] around = new float[2 * REACH + 1];
    for (int k = 0; k < bins; k++) {
      for (int t = 0; t < around.length; t++) {
        around[t] = magnitudes[t][k];
      }
      Arrays.sort(around);
      double along = around[REACH];
      for (int j = -REACH; j <= REACH; j++) {
        around[j + REACH] = magnitudes[own][Math.max(0, Math.min(bins - 1, k + j))];
      }
      Arrays.sort(around);
      double across = around[REACH];
      if (soft) {
        double sum = along * along + across * across + 1e-20;
        tonal[k] = (float) (along * along / sum);
        trans[k] = (float) (across * across / sum);
      } else {
        tonal[k] = along > margin * across ? 1 : 0;
        trans[k] = across >= margin * along && tonal[k] == 0 ? 1 : 0;
      }
    }
  }
}
