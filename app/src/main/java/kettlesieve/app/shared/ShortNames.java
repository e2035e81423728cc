package kettlesieve.app.shared;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.control.ButtonBase;
import javafx.scene.text.Font;
import javafx.scene.text.Text;
import kettlesieve.app.model.Workspace;
import kettlesieve.core.comparison.ShortLabels;
import kettlesieve.core.comparison.Version;

/**
 * Labels of one comparison cut to a width, so that all fit and none looks like another. Interface
 * thread.
 */
public final class ShortNames {
  private static final int FEWEST = 4;
  private static final int MOST_KEPT = 64;

  private record Asked(List<String> labels, long width, String font, double size) {}

  private static final Map<Asked, List<String>> KEPT =
      new LinkedHashMap<>(16, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Asked, List<String>> eldest) {
          return size() > MOST_KEPT;
        }
      };
  private static final Map<String, Double> WIDTHS = new HashMap<>();

  private ShortNames() {}

  /**
   * Short forms, one a label and in their order, the longest that fit.
   *
   * @param width pixels of each
   */
  public static List<String> of(List<String> labels, double width, String font, double size) {
    return KEPT.computeIfAbsent(
        new Asked(List.copyOf(labels), Math.round(width), font, size), ShortNames::fit);
  }

  private static List<String> fit(Asked asked) {
    int longest = asked.labels().stream().mapToInt(String::length).max().orElse(0);
    for (int most = Math.max(FEWEST, longest); most > FEWEST; most--) {
      List<String> some = ShortLabels.of(asked.labels(), most);
      if (some.stream().allMatch(l -> width(l, asked.font(), asked.size()) <= asked.width())) {
        return some;
      }
    }
    return ShortLabels.of(asked.labels(), FEWEST);
  }

  /**
   * Keeps a button's text as long as its width allows.
   *
   * @param beside pixels of its width that the sign and the edges take
   */
  public static void follow(ButtonBase button, Workspace workspace, String label, double beside) {
    List<String> all = workspace.comparison().versions().stream().map(Version::label).toList();
    int index = all.indexOf(label);
    button.setAccessibleText(label);
    if (index >= 0) {
      button
          .widthProperty()
          .addListener(
              (o, was, is) ->
                  button.setText(
                      of(all, is.doubleValue() - beside, "Source Sans 3 SemiBold", 14).get(index)));
    }
  }

  /** How wide a text is drawn. */
  public static double width(String text, String font, double size) {
    if (WIDTHS.size() > 5000) {
      WIDTHS.clear();
    }
    return WIDTHS.computeIfAbsent(
        font + " " + size + " " + text,
        k -> {
          Text drawn = new Text(text);
          drawn.setFont(Font.font(font, size));
          return drawn.getLayoutBounds().getWidth();
        });
  }
}
