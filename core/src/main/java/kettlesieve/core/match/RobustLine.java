package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.task.Stop;

/** A straight line through points that may hold outliers (Theil 1950, Sen 1968). */
final class RobustLine {
  private RobustLine() {}

  /** Offset and slope by the median of all pairwise slopes. */
  static double[] through(List<double[]> points) {
    if (points.size() < 3) {
      double[] y = points.stream().mapToDouble(p -> p[1]).toArray();
      return new double[] {y.length == 0 ? 0 : Statistics.median(y), 0};
    }
    List<Double> slopes = new ArrayList<>();
    for (int i = 0; i < points.size(); i++) {
      Stop.checkHere();
      for (int j = i + 1; j < points.size(); j++) {
        double dx = points.get(j)[0] - points.get(i)[0];
        if (dx != 0) {
          slopes.add((points.get(j)[1] - points.get(i)[1]) / dx);
        }
      }
    }
    double slope =
        slopes.isEmpty()
            ? 0
            : Statistics.median(slopes.stream().mapToDouble(Double::doubleValue).toArray());
    double offset =
        Statistics.median(points.stream().mapToDouble(p -> p[1] - slope * p[0]).toArray());
    return new double[] {offset, slope};
  }
}
