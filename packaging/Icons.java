import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.geom.Arc2D;
import java.awt.geom.Ellipse2D;
import java.awt.geom.Line2D;
import java.awt.geom.RoundRectangle2D;
import java.awt.image.BufferedImage;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.imageio.ImageIO;

/** Draws the program's icon in the sizes that desktops ask for: a sieve, and what falls through. */
public final class Icons {
  private static final int[] SIZES = {16, 22, 24, 32, 48, 64, 128, 256, 512};

  public static void main(String[] words) throws Exception {
    System.setProperty("java.awt.headless", "true");
    for (int size : SIZES) {
      Path folder = Path.of(words[0], "hicolor", size + "x" + size, "apps");
      Files.createDirectories(folder);
      ImageIO.write(draw(size), "png", folder.resolve("kettle-sieve.png").toFile());
    }
  }

  private static BufferedImage draw(int size) {
    BufferedImage image = new BufferedImage(size, size, BufferedImage.TYPE_INT_ARGB);
    Graphics2D g = image.createGraphics();
    g.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
    g.setRenderingHint(RenderingHints.KEY_STROKE_CONTROL, RenderingHints.VALUE_STROKE_PURE);
    g.scale(size / 64.0, size / 64.0);
    g.setColor(new Color(0xF7F3EC));
    g.fill(new RoundRectangle2D.Double(2, 2, 60, 60, 16, 16));
    g.setColor(new Color(0x0E6B6B));
    g.setStroke(new BasicStroke(4, BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND));
    // The bowl, its rim and its handle.
    g.draw(new Arc2D.Double(12, 4, 34, 36, 180, 180, Arc2D.OPEN));
    g.draw(new Line2D.Double(9, 22, 57, 22));
    // What falls through: a wave of drops, each as long as the sound is loud.
    g.setColor(new Color(0xB4552D));
    double[] lengths = {3, 7, 12, 6, 2.5};
    for (int i = 0; i < lengths.length; i++) {
      double x = 15 + 7 * i;
      double top = 45.5 - Math.abs(i - 2) * 1.8;
      g.draw(new Line2D.Double(x, top, x, Math.min(57, top + lengths[i])));
    }
    if (size >= 32) {
      g.setColor(new Color(0x0E6B6B));
      for (int i = 0; i < 3; i++) {
        g.fill(new Ellipse2D.Double(19.5 + 7 * i, 28, 4, 4));
      }
    }
    g.dispose();
    return image;
  }
}
