package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Path;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.rig.DelayedPrediction;
import kettlesieve.core.rig.LateSubtraction;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.signal.Convolution;
import kettlesieve.core.task.Progress;

/**
 * "Second watch in the lamp room": a log read in a round stone room of 1.1 s, made with exponential
 * noise as its response. Versions by two dereverberators, one of them at three amounts, and, as a
 * wrong choice, by a denoiser.
 */
final class LampRoom {
  private static final int RATE = DemoFolder.RATE;
  private static final double DECAY_SECONDS = 1.1;

  private LampRoom() {}

  static Path make(Path folder, Progress progress) throws IOException {
    return DemoFolder.make(folder, "lamp-room.sieve", "made-2", f -> build(f, progress));
  }

  private static Comparison build(DemoFolder folder, Progress progress)
      throws IOException, MediaException {
    progress.at("making the lamp room", 0);
    float[] voice = folder.voice("lamp-room-voice.flac");
    for (int i = 0; i < voice.length; i++) {
      voice[i] *= 0.5f;
    }
    Audio source = Audio.of(RATE, inRoom(voice));
    Comparison comparison =
        Comparison.empty("Second watch in the lamp room", Job.DEREVERB)
            .withSource(DemoFolder.ref(folder.write(source, "lamp-room.wav")))
            .withReference(
                DemoFolder.ref(folder.write(Audio.of(RATE, voice), "lamp-room-close.wav")));
    LateSubtraction tool = new LateSubtraction();
    for (int amount : new int[] {30, 60, 100}) {
      comparison = plus(comparison, folder, source, tool, amount);
    }
    comparison = plus(comparison, folder, source, new DelayedPrediction(), 100);
    return plus(comparison, folder, source, new PlainSubtraction(), 70);
  }

  private static Comparison plus(
      Comparison comparison, DemoFolder folder, Audio source, StandIn tool, int amount)
      throws IOException {
    Audio made = tool.process(source, amount, Progress.SILENT);
    Path file = folder.write(made, "lamp-room-" + tool.id() + "-" + amount + ".wav");
    return comparison.plus(
        Version.of(comparison.freshId(), tool.title() + " " + amount, DemoFolder.ref(file))
            .withTool(tool.title())
            .withAmount((double) amount));
  }

  /** The voice through a response of noise that decays by 60 dB in 1.1 s, over a little hiss. */
  private static float[] inRoom(float[] voice) {
    SplittableRandom random = new SplittableRandom(1871);
    int length = (int) (DECAY_SECONDS * 1.2 * RATE);
    double[] response = new double[length];
    double soft = 0;
    for (int i = 0; i < length; i++) {
      double t = (double) i / RATE;
      double share = Math.min(1, i / (0.004 * RATE));
      soft += 0.55 * (random.nextGaussian() - soft);
      response[i] = 0.022 * share * soft * Math.pow(10, -3 * t / DECAY_SECONDS);
    }
    response[0] = 1;
    float[] out = Convolution.of(voice, response);
    for (int i = 0; i < out.length; i++) {
      out[i] += 0.0002f * (float) random.nextGaussian();
    }
    return out;
  }
}
