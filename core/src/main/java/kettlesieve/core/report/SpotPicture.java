package kettlesieve.core.report;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Base64;
import javax.imageio.ImageIO;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.picture.FrequencyScale;
import kettlesieve.core.picture.SpectrumColumns;

/** A small spectrogram as a PNG within an address: paper for silence, ink for sound. */
final class SpotPicture {
  private static final int WIDTH = 240;
  private static final int HEIGHT = 96;
  private static final double RANGE_DB = 65;
  private static final double LOUDEST_DB = -20;
  private static final int[] PAPER = {0xF7, 0xF4, 0xEE};
  private static final int[] INK = {0x1E, 0x2A, 0x32};

  private SpotPicture() {}

  /** Of some seconds of a recording, on a logarithmic scale from 40 Hz to the Nyquist limit. */
  static String of(Audio audio, double[] seconds) {
    double[] columns = new double[WIDTH];
    for (int c = 0; c < WIDTH; c++) {
      columns[c] = seconds[0] + (c + 0.5) / WIDTH * (seconds[1] - seconds[0]);
    }
    float[][] levels =
        SpectrumColumns.levels(
            audio, columns, HEIGHT, FrequencyScale.LOG, audio.sampleRate() / 2.0);
    BufferedImage picture = new BufferedImage(WIDTH, HEIGHT, BufferedImage.TYPE_INT_RGB);
    for (int c = 0; c < WIDTH; c++) {
      for (int r = 0; r < HEIGHT; r++) {
        double share = 1 + (levels[c][r] - LOUDEST_DB) / RANGE_DB;
        picture.setRGB(c, HEIGHT - 1 - r, colour(Math.max(0, Math.min(1, share))));
      }
    }
    try {
      ByteArrayOutputStream bytes = new ByteArrayOutputStream();
      ImageIO.write(picture, "png", bytes);
      return "data:image/png;base64," + Base64.getEncoder().encodeToString(bytes.toByteArray());
    } catch (IOException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
  }

  private static int colour(double share) {
    int rgb = 0;
    for (int i = 0; i < 3; i++) {
      rgb = rgb << 8 | (int) Math.round(PAPER[i] + share * (INK[i] - PAPER[i]));
    }
    return rgb;
  }
}
