package kettlesieve.core.testpiece;

import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.MadeBuilder;
import kettlesieve.core.comparison.StretchTarget;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.task.Progress;

/**
 * A mix of stems at given levels and pans. The true stems are what lies in the mix: their sum is
 * the mix to the last bits of a 32-bit float.
 */
final class StemMix {
  private StemMix() {}

  static TestPiece of(PieceRecipe recipe, MediaReader reader, Progress progress)
      throws MediaException, PieceException {
    Map<String, Audio> read = new LinkedHashMap<>();
    int rate = recipe.rate() == null ? 0 : recipe.rate();
    long frames = 0;
    boolean stereo = false;
    for (var stem : recipe.stems().entrySet()) {
      Audio audio = TestPiece.read(stem.getValue().file(), reader, progress);
      rate = Math.max(rate, recipe.rate() == null ? audio.sampleRate() : 0);
      stereo |= audio.channels() > 1 || stem.getValue().pan() != null;
      read.put(stem.getKey(), audio);
    }
    int channels = stereo ? 2 : 1;
    Map<String, Audio> stems = new LinkedHashMap<>();
    Map<String, String> shares = new LinkedHashMap<>();
    for (var stem : read.entrySet()) {
      Audio a = stem.getValue();
      Audio at = a.sampleRate() == rate ? a : LinearTimeAudio.resample(a, rate);
      frames = Math.max(frames, at.frames());
      PieceRecipe.StemShare share = recipe.stems().get(stem.getKey());
      stems.put(stem.getKey(), placed(at, share, channels));
      shares.put(
          stem.getKey(),
          String.format(
              Locale.ROOT,
              "%s at %s dB%s",
              share.file().getFileName(),
              StretchTarget.figure(share.db()),
              share.pan() == null ? "" : ", pan " + StretchTarget.figure(share.pan())));
    }
    float[][] mix = new float[channels][Math.toIntExact(frames)];
    Map<String, Audio> whole = new LinkedHashMap<>();
    for (var stem : stems.entrySet()) {
      float[][] x = new float[channels][];
      for (int c = 0; c < channels; c++) {
        x[c] = stem.getValue().samples(c, 0, mix[c].length);
      }
      whole.put(stem.getKey(), Audio.of(rate, x));
    }
    for (int c = 0; c < channels; c++) {
      double[] sum = new double[mix[c].length];
      for (Audio stem : whole.values()) {
        float[] x = stem.wholeChannel(c);
        for (int i = 0; i < sum.length; i++) {
          sum[i] += x[i];
        }
      }
      for (int i = 0; i < sum.length; i++) {
        mix[c][i] = (float) sum[i];
      }
    }
    return new TestPiece(
        Audio.of(rate, mix), null, false, whole, MadeBuilder.builder().mix(shares).build());
  }

  /**
   * A stem at its level and place. One channel is panned at constant power (common practice); of
   * two, the one away from the place is made weaker.
   */
  private static Audio placed(Audio audio, PieceRecipe.StemShare share, int channels) {
    double gain = Db.toAmplitude(share.db());
    double pan = share.pan() == null ? 0 : share.pan();
    Audio spread = audio.asChannels(channels);
    double[] gains = new double[channels];
    for (int c = 0; c < channels; c++) {
      double side = channels == 1 ? 0 : c == 0 ? -1 : 1;
      double angle = Math.PI / 4 * (1 + side * pan);
      boolean mono = audio.channels() == 1;
      double own =
          channels == 1 || share.pan() == null
              ? 1
              : mono ? StrictMath.sin(angle) : Math.min(1, 1 + side * pan);
      gains[c] = gain * own;
    }
    float[][] x = new float[channels][];
    for (int c = 0; c < channels; c++) {
      x[c] = spread.wholeChannel(c);
      for (int i = 0; i < x[c].length; i++) {
        x[c][i] = (float) (gains[c] * x[c][i]);
      }
    }
    return Audio.of(audio.sampleRate(), x);
  }
}
