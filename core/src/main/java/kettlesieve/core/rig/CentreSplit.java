package kettlesieve.core.rig;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.task.Progress;

/**
 * Takes what stands in the middle of a stereo mix, where voices mostly stand: cells in which left
 * and right are alike (the similarity of Avendano &amp; Jot, "A frequency-domain approach to
 * multichannel upmix", J. Audio Eng. Soc. 52, 2004).
 */
public final class CentreSplit implements StandIn {
  private static final double LOW_HZ = 120;

  @Override
  public String id() {
    return "centre-split";
  }

  @Override
  public String title() {
    return "Centre split";
  }

  @Override
  public String description() {
    return "Stand-in: takes what is alike on the left and on the right as vocals (Avendano & Jot"
        + " 2004). Everything else in the middle comes along.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.STEMS);
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    StandIn.checkLength(in);
    if (in.channels() != 2) {
      throw new IllegalArgumentException("the centre is found in stereo recordings only");
    }
    double sharpness = 1 + 15 * setup.amount() / 100;
    int size = Math.toIntExact(in.frames());
    float[][] centre = new float[2][size];
    ShortTime transform = new ShortTime(ShortTime.usualLength(in.sampleRate()));
    int bins = transform.bins();
    int lowBin = (int) Math.ceil(LOW_HZ * 2 * (bins - 1) / in.sampleRate());
    float[] left = new float[2 * (bins - 1)];
    float[] right = new float[left.length];
    float[] part = new float[left.length];
    float[] gain = new float[bins];
    int frames = transform.frames(in);
    for (int t = 0; t < frames; t++) {
      transform.analyse(in, 0, t, left);
      transform.analyse(in, 1, t, right);
      for (int k = lowBin; k < bins - 1; k++) {
        double cross = left[2 * k] * right[2 * k] + left[2 * k + 1] * right[2 * k + 1];
        double sum = ShortTime.power(left, k) + ShortTime.power(right, k) + 1e-20;
        gain[k] = (float) Math.pow(Math.max(0, 2 * cross / sum), sharpness);
      }
      for (int k = 0; k < bins - 1; k++) {
        float middle = (left[2 * k] + right[2 * k]) / 2;
        float middleIm = k == 0 ? 0 : (left[2 * k + 1] + right[2 * k + 1]) / 2;
        part[2 * k] = middle * gain[k];
        part[2 * k + 1] = middleIm * gain[k];
      }
      float[] both = part.clone();
      transform.add(part, t, centre[0]);
      transform.add(both, t, centre[1]);
      if (t % 256 == 0) {
        progress.at("splitting", (double) t / frames);
      }
    }
    float[][] rest = new float[2][];
    for (int c = 0; c < 2; c++) {
      rest[c] = in.wholeChannel(c).clone();
      for (int i = 0; i < size; i++) {
        rest[c][i] -= centre[c][i];
      }
    }
    Map<String, Audio> parts = new LinkedHashMap<>();
    parts.put("vocals", Audio.of(in.sampleRate(), centre));
    parts.put(Roles.EVERYTHING_BUT + "vocals", Audio.of(in.sampleRate(), rest));
    return parts;
  }
}
