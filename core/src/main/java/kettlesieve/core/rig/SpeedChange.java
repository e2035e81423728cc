package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.task.Progress;

/** Plays faster or slower, as a tape would: the pitch moves along. */
public final class SpeedChange implements StandIn {
  @Override
  public String id() {
    return "speed-change";
  }

  @Override
  public String title() {
    return "Speed change";
  }

  @Override
  public String description() {
    return "Stand-in: plays faster or slower, as a tape would. Clean, and the pitch moves along.";
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
    progress.at("changing the speed", 0);
    return Map.of(WHOLE, stretched(in, setup.ratio()));
  }

  /** The recording read at another speed, in memory. */
  static Audio stretched(Audio in, double ratio) {
    long frames = Math.round(in.frames() * ratio);
    Audio view = LinearTimeAudio.map(in, in.sampleRate(), frames, 0, 1 / ratio);
    float[][] out = new float[in.channels()][];
    for (int c = 0; c < out.length; c++) {
      out[c] = view.wholeChannel(c);
    }
    return Audio.of(in.sampleRate(), out);
  }
}
