package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.util.Base64;
import javax.imageio.ImageIO;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;

/** The picture of a spot: low sounds lie low, early ones left, silence is paper. */
class SpotPictureTest {
  private static final int RATE = 16_000;

  /**
   * An exponential sweep from 100 Hz to 6.4 kHz in six seconds, an octave a second: on a
   * logarithmic scale from 40 Hz to 8 kHz a straight line upwards.
   */
  @Test
  void aRisingChirpRises() throws Exception {
    float[] chirp = new float[8 * RATE];
    for (int i = 0; i < 6 * RATE; i++) {
      double t = (double) i / RATE;
      double phase = 2 * Math.PI * 100 / Math.log(2) * (Math.pow(2, t) - 1);
      chirp[i] = (float) (0.01 * Math.sin(phase));
    }
    BufferedImage picture = picture(Audio.of(RATE, chirp), 0, 8);
    for (double t : new double[] {1.5, 2.5, 3.5, 4.5, 5.5}) {
      int column = (int) (t / 8 * picture.getWidth());
      double octaves = Math.log(100 * Math.pow(2, t) / 40) / Math.log(8_000 / 40.0);
      assertThat(darkest(picture, column))
          .as("row at " + t + " s")
          .isCloseTo((int) ((1 - octaves) * picture.getHeight()), within(3));
    }
    // The last two seconds are silent.
    int paper = picture.getRGB(picture.getWidth() - 1, picture.getHeight() / 2);
    assertThat(paper & 0xffffff).isEqualTo(0xF7F4EE);
    // Later half alone: the picture begins where the spot does.
    BufferedImage later = picture(Audio.of(RATE, chirp), 4, 8);
    assertThat(darkest(later, 12)).isLessThan(darkest(picture, 12) - 40);
  }

  private static BufferedImage picture(Audio audio, double from, double to) throws Exception {
    String address = SpotPicture.of(audio, new double[] {from, to});
    byte[] png = Base64.getDecoder().decode(address.substring(address.indexOf(',') + 1));
    return ImageIO.read(new ByteArrayInputStream(png));
  }

  /** The row with the most ink, from the top. */
  private static int darkest(BufferedImage picture, int column) {
    int row = 0;
    for (int r = 0; r < picture.getHeight(); r++) {
      if ((picture.getRGB(column, r) & 0xff) < (picture.getRGB(column, row) & 0xff)) {
        row = r;
      }
    }
    return row;
  }
}
