package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import kettlesieve.core.roundup.Difficulties;
import org.junit.jupiter.api.Test;

/** Many lines that end in one place keep their numbers apart, within the picture. */
class DifficultySvgTest {
  private static final Pattern NUMBER =
      Pattern.compile(
          "y=\"([\\d.]+)\" font-size=\"10\" fill=\"#5C6665\" text-anchor=\"start\">(\\d+)<");

  private static Map<Integer, Double> places(double... ends) {
    Map<String, List<Double>> lines = new LinkedHashMap<>();
    for (int i = 0; i < ends.length; i++) {
      lines.put("Tool " + i, List.of(90.0, ends[i]));
    }
    String svg = DifficultySvg.of(new Difficulties("Ratio", "dB", List.of(20.0, 5.0), lines));
    Map<Integer, Double> places = new LinkedHashMap<>();
    Matcher found = NUMBER.matcher(svg);
    while (found.find()) {
      places.put(Integer.parseInt(found.group(2)), Double.parseDouble(found.group(1)));
    }
    double height =
        Double.parseDouble(svg.replaceFirst("(?s).*?viewBox=\"0 0 \\d+ (\\d+)\".*", "$1"));
    assertThat(places.values()).allMatch(y -> y > 10 && y < height - 20);
    return places;
  }

  @Test
  void numbersLieBesideTheirLinesOrGiveWay() {
    double[] together = IntStream.range(0, 12).mapToDouble(i -> 60 + 0.1 * i).toArray();
    for (double[] ends : List.of(together, new double[] {90, 90, 90, 40, 40, 40})) {
      List<Double> sorted = new ArrayList<>(places(ends).values());
      assertThat(sorted).hasSize(ends.length);
      sorted.sort(null);
      for (int i = 1; i < sorted.size(); i++) {
        assertThat(sorted.get(i) - sorted.get(i - 1)).isGreaterThanOrEqualTo(10.9);
      }
    }
    // Where there is room each is beside its end, the better one above.
    Map<Integer, Double> apart = places(80, 60);
    assertThat(apart.get(1)).isLessThan(apart.get(2) - 50);
  }
}
