package kettlesieve.app.measure;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import javafx.geometry.Rectangle2D;
import org.junit.jupiter.api.Test;

class LabelRoomTest {
  @Test
  void labelsNeverLieOverSignsLinesOrEachOther() {
    SplittableRandom random = new SplittableRandom(5);
    Rectangle2D plot = new Rectangle2D(0, 0, 800, 400);
    for (int round = 0; round < 50; round++) {
      LabelRoom room = new LabelRoom(plot);
      double[][] points = new double[16][2];
      for (double[] p : points) {
        p[0] = 200 + 400 * random.nextDouble();
        p[1] = 100 + 200 * random.nextDouble();
        room.keepFree(p[0], p[1], 8);
      }
      room.keepFree(points[0][0], points[0][1], points[1][0], points[1][1]);
      List<Rectangle2D> placed = new ArrayList<>();
      for (double[] p : points) {
        Rectangle2D label = room.place(p[0], p[1], 8, 120, 14);
        if (label == null) {
          continue;
        }
        assertThat(plot.contains(label)).isTrue();
        assertThat(placed).noneMatch(label::intersects);
        for (double[] sign : points) {
          assertThat(label.contains(sign[0], sign[1])).isFalse();
        }
        for (int i = 0; i <= 20; i++) {
          double x = points[0][0] + (points[1][0] - points[0][0]) * i / 20;
          double y = points[0][1] + (points[1][1] - points[0][1]) * i / 20;
          assertThat(label.contains(x, y)).isFalse();
        }
        placed.add(label);
      }
      assertThat(placed).hasSizeGreaterThan(8);
    }
  }
}
