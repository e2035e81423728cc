package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class ComparisonTest {
  private static Version version(String id, String label) {
    return Version.of(id, label, MediaRef.of(Path.of(label + ".wav")));
  }

  private final Comparison two =
      Comparison.empty("c", Job.DENOISE).plus(version("v1", "a")).plus(version("v2", "b"));

  @Test
  void changesGiveNewOnes() {
    Comparison changed = two.withName("d").withNotes("n").withProfile("music");
    assertThat(two.name()).isEqualTo("c");
    assertThat(changed.name()).isEqualTo("d");
    assertThat(changed.versions()).isEqualTo(two.versions());
    assertThat(changed.withName("c").withNotes("").withProfile(null)).isEqualTo(two);
  }

  @Test
  void idsAreNeverGivenTwice() {
    assertThat(two.freshId()).isEqualTo("v3");
    assertThat(two.minus("v1").freshId()).isEqualTo("v3");
    assertThat(two.minus("v2").freshId()).isEqualTo("v2");
    assertThatThrownBy(() -> two.plus(version("v1", "c")))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void aVersionIsReplacedInItsPlace() {
    Version changed = two.versions().get(0).withLabel("z").withAmount(12.0).withSetting("fast");
    Comparison after = two.withVersion(changed);
    assertThat(after.versions()).extracting(Version::label).containsExactly("z", "b");
    assertThat(after.version("v1").orElseThrow().setting()).isEqualTo("fast");
    assertThat(after.version("v9")).isEmpty();
    assertThat(after.minus("v9")).isEqualTo(after);
  }

  @Test
  void listsCannotBeChangedFromOutside() {
    assertThatThrownBy(() -> two.versions().clear())
        .isInstanceOf(UnsupportedOperationException.class);
    assertThatThrownBy(() -> two.unknown().fields().clear())
        .isInstanceOf(UnsupportedOperationException.class);
  }

  @Test
  void missingPartsAreRefusedOrFilledIn() {
    assertThatThrownBy(() -> Version.of(null, "a", MediaRef.of(Path.of("a"))))
        .isInstanceOf(IllegalArgumentException.class);
    // A version whose file was never named is one that fails when it is read.
    assertThat(Version.of("v1", "a", null).files().get(0).named()).isFalse();
    Version bare =
        VersionBuilder.builder().id("v1").label("a").media(MediaRef.of(Path.of("a"))).build();
    assertThat(bare.tool()).isEmpty();
    assertThat(bare.match()).isEqualTo(MatchOverride.NONE);
    assertThat(bare.stems()).isEqualTo(Map.of());
  }

  @Test
  void overridesAreSetOneByOne() {
    MatchOverride some = MatchOverride.NONE.withDelaySamples(12.0).withGainDb(-1.5);
    assertThat(some.none()).isFalse();
    assertThat(some.polarity()).isNull();
    assertThat(some.withDelaySamples(null).withGainDb(null)).isEqualTo(MatchOverride.NONE);
    assertThatThrownBy(() -> MatchOverride.NONE.withPolarity(0))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void jobsAreKnownByTheirWord() {
    for (Job job : Job.values()) {
      assertThat(Job.of(job.id())).isSameAs(job);
      assertThat(job.title()).isNotBlank();
    }
    assertThat(List.of(Job.values()).stream().map(Job::id))
        .containsExactly("denoise", "dereverb", "declip", "stems", "stretch", "pitch");
    assertThatThrownBy(() -> Job.of("Denoise")).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void spansHoldTheirStartAndNotTheirEnd() {
    TimeSpan span = new TimeSpan(1, 3);
    assertThat(span.seconds()).isEqualTo(2);
    assertThat(span.holds(1)).isTrue();
    assertThat(span.holds(2.999)).isTrue();
    assertThat(span.holds(3)).isFalse();
    assertThat(span.holds(0.5)).isFalse();
  }

  @Test
  void placesAreTheExcerptOrAllKeptOnesTogether() {
    TimeSpan a = new TimeSpan(0, 2);
    TimeSpan b = new TimeSpan(5, 9);
    Comparison c =
        Comparison.empty("x", Job.DENOISE)
            .withExcerpts(List.of(new Excerpt("b", b), new Excerpt("a", a)))
            .withExcerpt(a);
    assertThat(c.places()).containsExactly(a);
    assertThat(c.withTogether(true).places()).containsExactly(b, a);
    assertThat(c.withExcerpt(null).places()).containsExactly((TimeSpan) null);
    assertThat(c.withTogether(true).withExcerpts(List.of()).together()).isFalse();
    assertThatThrownBy(() -> c.withExcerpts(List.of(new Excerpt("a", a), new Excerpt("a", b))))
        .hasMessageContaining("both called a");
  }

  @Test
  void aVersionsOwnCostComesBeforeItsTools() {
    Version v =
        Version.of("v1", "a", MediaRef.of(Path.of("a.wav")))
            .withTool("T")
            .withCost(Cost.NONE.withSeconds(4.0));
    Comparison c =
        Comparison.empty("x", Job.DENOISE)
            .plus(v)
            .withCost("T", new Cost(99.0, null, "12 €", true));
    assertThat(c.costOf(v)).isEqualTo(new Cost(4.0, null, "12 €", true));
    assertThat(c.withCost("T", Cost.NONE).costs()).isEmpty();
  }

  @Test
  void marksGetTheirOwnIdsAndTargetsStayInRange() {
    Comparison c = Comparison.empty("x", Job.STRETCH).plus(Mark.at(1, null)).plus(Mark.at(2, null));
    assertThat(c.marks()).extracting(Mark::id).containsExactly("m1", "m2");
    assertThatThrownBy(() -> c.withRatio(0.01)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> c.withSemitones(48.0)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> Mark.at(-1, null)).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void aToolAtSeveralAmountsIsASweep() {
    Comparison c = Comparison.empty("x", Job.DENOISE);
    String[][] made = {
      {"Alder", "", "60"}, {"alder", "", "30"}, {"Alder", "hard", "30"}, {"Birch", "", "50"}
    };
    for (String[] m : made) {
      String id = c.freshId();
      c =
          c.plus(
              Version.of(id, id, MediaRef.of(Path.of(id)))
                  .withTool(m[0])
                  .withSetting(m[1])
                  .withAmount(Double.valueOf(m[2])));
    }
    assertThat(c.sweeps().keySet()).containsExactly("Alder");
    assertThat(c.sweeps().get("Alder")).extracting(Version::amount).containsExactly(30.0, 60.0);
  }

  @Test
  void partsThatSayNothingAreRefused() {
    assertThatThrownBy(() -> new RoleSum(" ", List.of("drums"), true))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new RoleSum("rest", List.of(), true))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new Excerpt("", new TimeSpan(0, 1)))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new Excerpt("a", null)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> Cost.NONE.withSeconds(-1.0))
        .isInstanceOf(IllegalArgumentException.class);
    assertThat(Cost.NONE.withPrice("  ").none()).isTrue();
    assertThatThrownBy(() -> MatchOverride.NONE.withRatio(0.0))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> LevelMode.of("loudest")).hasMessageContaining("loudest");
  }
}
