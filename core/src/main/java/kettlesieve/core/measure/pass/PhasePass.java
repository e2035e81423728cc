package kettlesieve.core.measure.pass;

import java.util.stream.IntStream;
import kettlesieve.core.ground.Ground;
import kettlesieve.core.ground.NoiseEstimate;
import kettlesieve.core.ground.SourceClicks;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.signal.Framing;

/**
 * One walk over spectra with phases, source beside version, of at most 1,200 frames of a channel,
 * in runs of eight evenly over the recording: what is an average over it needs no more. A constant
 * turn of a frequency (a filter, a delay) is taken off the version first. The spectra themselves
 * are not kept.
 */
public final class PhasePass {
  /** Of a pair in denoise. */
  public static final Analysis<PhasePass> OF = PhasePass::new;

  /** Frames are looked at in runs of so many, a tile each. */
  private static final int RUN = 8;

  private static final int MOST_RUNS = 150;

  /** Frames of a run that overlap by half; the others would tell {@link PhasesKept} the same. */
  private static final int EVERY = 2;

  /** With fewer of the active frames without clicks, by their share, all are taken. */
  private static final double LEAST_STILL = 0.3;

  private final PhasesKept kept;
  private final VoiceTiles tiles;

  private PhasePass(Pair pair) throws NotMeasurableException {
    Ground ground = pair.ground();
    this.kept = new PhasesKept(pair);
    this.tiles = new VoiceTiles(pair);
    int[] frames = frames(pair.firstFrame(), pair.endFrame());
    boolean[] voice = voice(frames, ground, pair.source().clicks());
    float[][] sources = new float[frames.length][];
    float[][] versions = new float[frames.length][];
    for (int c = 0; c < pair.channels(); c++) {
      for (int i = 0; i < frames.length; i++) {
        if (i % 64 == 0) {
          pair.stop().check();
        }
        sources[i] = pair.source().spectrum(c).coefficients(frames[i], 1)[0];
        versions[i] = pair.versionSpectrum(c).coefficients(frames[i], 1)[0];
      }
      turn(sources, versions, pair.framing(), Math.sqrt(pair.version().powerGain()));
      NoiseEstimate noise = ground.covering(c);
      float[] pauses = pauses(pair, c);
      for (int i = 0; i < frames.length; i++) {
        if (i % EVERY == 0) {
          kept.add(sources[i], versions[i], ground.wanted(c), frames[i]);
        }
        if (voice[i]) {
          tiles.add(sources[i], versions[i], noise.moveTo(frames[i]), pauses);
        }
        if (i % RUN == RUN - 1 || i == frames.length - 1) {
          tiles.end(frames[i - i % RUN / 2]);
        }
      }
    }
    tiles.finish();
    kept.finish(tiles);
  }

  private static float[] pauses(Pair pair, int channel) {
    float[] noise = new float[pair.framing().bins()];
    for (int k = 0; k < noise.length; k++) {
      noise[k] = pair.source().pauses().noise(channel, k);
    }
    return noise;
  }

  /**
   * In which frames the voice can be looked at: not where the source clicks, for a click that was
   * taken away would pass for voice. Where it crackles all the time there is no choice.
   */
  private static boolean[] voice(int[] frames, Ground ground, SourceClicks clicks) {
    boolean[] active = new boolean[frames.length];
    boolean[] still = new boolean[frames.length];
    int all = 0;
    int left = 0;
    for (int i = 0; i < frames.length; i++) {
      active[i] = ground.active(frames[i]);
      still[i] = active[i] && !clicks.in(frames[i]);
      all += active[i] ? 1 : 0;
      left += still[i] ? 1 : 0;
    }
    return left >= LEAST_STILL * all ? still : active;
  }

  /** Runs of frames, evenly over all. */
  private static int[] frames(int first, int end) {
    int all = Math.max(0, end - first);
    if (all <= MOST_RUNS * RUN) {
      return IntStream.range(first, end).toArray();
    }
    int[] frames = new int[MOST_RUNS * RUN];
    for (int r = 0; r < MOST_RUNS; r++) {
      int from = first + (int) ((long) (all - RUN) * r / (MOST_RUNS - 1));
      for (int i = 0; i < RUN; i++) {
        frames[r * RUN + i] = from + i;
      }
    }
    return frames;
  }

  private static void turn(float[][] source, float[][] version, Framing framing, double gain) {
    for (int k = 1; k < framing.bins() - 1; k++) {
      double re = 0;
      double im = 0;
      for (int i = 0; i < source.length; i++) {
        float[] x = source[i];
        float[] y = version[i];
        re += (double) y[2 * k] * x[2 * k] + (double) y[2 * k + 1] * x[2 * k + 1];
        im += (double) y[2 * k + 1] * x[2 * k] - (double) y[2 * k] * x[2 * k + 1];
      }
      double size = Math.sqrt(re * re + im * im);
      float cos = (float) (size > 0 ? gain * re / size : gain);
      float sin = (float) (size > 0 ? gain * im / size : 0);
      for (float[] y : version) {
        float yr = y[2 * k];
        y[2 * k] = yr * cos + y[2 * k + 1] * sin;
        y[2 * k + 1] = y[2 * k + 1] * cos - yr * sin;
      }
    }
  }

  /** Whether what was taken away is a sound of its own. */
  public PhasesKept kept() {
    return kept;
  }

  /** What became of the voice. */
  VoiceTiles tiles() {
    return tiles;
  }
}
