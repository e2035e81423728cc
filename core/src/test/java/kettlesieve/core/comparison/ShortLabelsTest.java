package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Labels are shortened by what tells them apart. */
class ShortLabelsTest {
  @Test
  void whatFitsStaysAsItIs() {
    assertThat(ShortLabels.of(List.of("tape A", "tape B"), 6)).containsExactly("tape A", "tape B");
  }

  @Test
  void whatAllShareGoesFirst() {
    assertThat(
            ShortLabels.of(
                List.of(
                    "Lighthouse tape 4 Smoothed Wiener 30 final",
                    "Lighthouse tape 4 Plain subtraction 60 final"),
                22))
        .containsExactly("Smoothed Wiener 30", "Plain subtraction 60");
    assertThat(ShortLabels.of(List.of("keeper_v2_soft_48k", "keeper_v2_hard_48k"), 8))
        .containsExactly("soft", "hard");
  }

  @Test
  void thenTheMiddleAndNeverSoThatTwoLookAlike() {
    assertThat(ShortLabels.of(List.of("Smoothed Wiener 30", "Plain subtraction 30"), 12))
        .containsExactly("Smoot…Wiener", "Plain…action");
    List<String> sixteen = new ArrayList<>();
    for (int i = 0; i < 16; i++) {
      sixteen.add(
          "A very long name of a tool, setting " + (char) ('a' + i) + ", rendered at night");
    }
    for (int most : new int[] {5, 8, 12, 20}) {
      List<String> shown = ShortLabels.of(sixteen, most);
      assertThat(shown).doesNotHaveDuplicates().hasSize(16);
      assertThat(shown).allMatch(s -> s.length() <= most && !s.isBlank());
    }
    // What differs lies where the gap would be.
    List<String> middle = List.of("abcdefgh1ijklmnop", "abcdefgh2ijklmnop", "xbcdefgh1ijklmnoq");
    assertThat(ShortLabels.of(middle, 7)).doesNotHaveDuplicates();
  }

  @Test
  void equalLabelsStayEqual() {
    assertThat(ShortLabels.of(List.of("one and the same", "one and the same", "another one"), 8))
        .satisfies(l -> assertThat(l.get(0)).isEqualTo(l.get(1)).isNotEqualTo(l.get(2)));
  }
}
