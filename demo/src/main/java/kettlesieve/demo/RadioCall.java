package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Path;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.rig.CubicTops;
import kettlesieve.core.rig.PredictedTops;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.signal.Biquad;
import kettlesieve.core.task.Progress;

/**
 * "Call from the pilot boat": a radio call driven far over full scale on its way to the tape, then
 * turned down. The tops are rebuilt by a cubic and by prediction; one version goes halfway, and one
 * is later by some milliseconds.
 */
final class RadioCall {
  private static final int RATE = DemoFolder.RATE;
  private static final double DRIVE = 4.5;
  private static final float CLIP = 0.5f;

  private RadioCall() {}

  static Path make(Path folder, Progress progress) throws IOException {
    return DemoFolder.make(folder, "radio-call.sieve", "made-1", f -> build(f, progress));
  }

  private static Comparison build(DemoFolder folder, Progress progress)
      throws IOException, MediaException {
    progress.at("making the radio call", 0);
    float[] clean = radio(folder.voice("radio-call-voice.flac"));
    float[] clipped = clean.clone();
    for (int i = 0; i < clipped.length; i++) {
      clipped[i] = Math.max(-CLIP, Math.min(CLIP, clean[i]));
    }
    Audio source = Audio.of(RATE, clipped);
    Comparison comparison =
        Comparison.empty("Call from the pilot boat", Job.DECLIP)
            .withSource(DemoFolder.ref(folder.write(source, "radio-call.wav")))
            .withReference(
                DemoFolder.ref(
                    folder.write(
                        Audio.of(RATE, clean),
                        "radio-call-unclipped.wav",
                        WavWriter.Format.FLOAT)));
    comparison = plus(comparison, folder, source, new CubicTops(), 100, 0);
    comparison = plus(comparison, folder, source, new PredictedTops(), 50, 0);
    return plus(comparison, folder, source, new PredictedTops(), 100, 240);
  }

  private static Comparison plus(
      Comparison comparison,
      DemoFolder folder,
      Audio source,
      StandIn tool,
      int amount,
      int lateSamples)
      throws IOException {
    long begun = System.nanoTime();
    Audio made = tool.process(source, amount, Progress.SILENT);
    double seconds = Math.round((System.nanoTime() - begun) / 1e8) / 10.0;
    float[] late = new float[(int) made.frames() + lateSamples];
    System.arraycopy(made.wholeChannel(0), 0, late, lateSamples, (int) made.frames());
    Path file =
        folder.write(
            Audio.of(RATE, late),
            "radio-call-" + tool.id() + "-" + amount + ".wav",
            WavWriter.Format.FLOAT);
    return comparison.plus(
        Version.of(comparison.freshId(), tool.title() + " " + amount, DemoFolder.ref(file))
            .withTool(tool.title())
            .withCost(new Cost(seconds, null, null, null))
            .withAmount((double) amount));
  }

  /** A voice through a set's small speaker and back: band-limited, with some hiss. */
  private static float[] radio(float[] voice) {
    SplittableRandom random = new SplittableRandom(1938);
    double[] high = new double[2];
    double[] low = new double[2];
    Biquad highPass = Biquad.highPass(250, 0.7, RATE);
    Biquad lowPass = Biquad.lowPass(4200, 0.7, RATE);
    float[] out = new float[voice.length];
    for (int i = 0; i < voice.length; i++) {
      double x = run(highPass, high, voice[i]);
      x = run(lowPass, low, x);
      out[i] = (float) (DRIVE * CLIP * x + 0.0015 * random.nextGaussian());
    }
    return out;
  }

  private static double run(Biquad f, double[] z, double in) {
    double out = f.b0() * in + z[0];
    z[0] = f.b1() * in - f.a1() * out + z[1];
    z[1] = f.b2() * in - f.a2() * out;
    return out;
  }
}
