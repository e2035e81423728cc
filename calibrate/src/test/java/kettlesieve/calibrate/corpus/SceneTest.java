package kettlesieve.calibrate.corpus;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** The corpus asks for what a fair trial asks for. */
class SceneTest {
  private static final Catalogue CATALOGUE = Catalogue.shipped();

  private static Set<String> of(Half half, java.util.function.Function<Scene, String> what) {
    return Scene.all(CATALOGUE).stream()
        .filter(s -> s.half() == half)
        .map(what)
        .collect(Collectors.toSet());
  }

  @Test
  void noVoiceAndNoNoiseIsInBothHalves() {
    for (java.util.function.Function<Scene, String> what :
        List.<java.util.function.Function<Scene, String>>of(Scene::voice, Scene::noise)) {
      Set<String> both = new HashSet<>(of(Half.SETTING, what));
      both.retainAll(of(Half.REPORTING, what));
      assertThat(both).isEmpty();
      assertThat(of(Half.REPORTING, what)).hasSizeGreaterThanOrEqualTo(8);
    }
  }

  @Test
  void thereAreEnoughSourcesAndEachIsAnother() {
    List<Scene> all = Scene.all(CATALOGUE);
    assertThat(all).hasSizeGreaterThanOrEqualTo(60);
    assertThat(all.stream().map(Scene::id).distinct()).hasSize(all.size());
    assertThat(all.stream().map(Scene::seed).distinct()).hasSize(all.size());
    assertThat(all.stream().map(Scene::snrDb).distinct()).hasSize(5);
    List<ClipScene> clipped = ClipScene.all(CATALOGUE);
    assertThat(clipped.stream().map(ClipScene::id).distinct()).hasSize(clipped.size());
  }

  @Test
  void roomsOfTheTwoHalvesDifferAndNoVoiceIsInBoth() {
    List<RoomScene> all = RoomScene.all(CATALOGUE);
    assertThat(all.stream().map(RoomScene::id).distinct()).hasSize(all.size());
    for (java.util.function.Function<RoomScene, Object> what :
        List.<java.util.function.Function<RoomScene, Object>>of(
            RoomScene::voice, RoomScene::decaySeconds, RoomScene::seed)) {
      Set<Object> setting =
          all.stream().filter(s -> s.half() == Half.SETTING).map(what).collect(Collectors.toSet());
      assertThat(all.stream().filter(s -> s.half() == Half.REPORTING).map(what))
          .doesNotContainAnyElementsOf(setting);
    }
  }

  @Test
  void everyNoiseIsMadeOrHasAFile() {
    assertThat(CATALOGUE.noises())
        .allMatch(n -> n.made() != null || n.from() != null && n.files() != null);
    assertThat(CATALOGUE.packages()).contains("alsa-utils", "klettres-data", "timgm6mb-soundfont");
  }
}
