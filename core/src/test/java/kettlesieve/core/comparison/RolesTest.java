package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Roles made of others, what may be proposed, and what counts how much. */
class RolesTest {
  @TempDir Path folder;

  private static Version tool(String id, String... roles) {
    Map<String, Stem> stems = new LinkedHashMap<>();
    for (String role : roles) {
      stems.put(role, Stem.of(MediaRef.of(Path.of(id + "-" + role + ".wav"))));
    }
    return Version.ofStems(id, "tool " + id, stems);
  }

  private static Comparison stems(Version... tools) {
    Comparison c = Comparison.empty("c", Job.STEMS);
    for (Version v : tools) {
      c = c.plus(v);
    }
    return c;
  }

  @Test
  void aSumIsTheSameRoleWhateverAPersonCallsIt() {
    RoleSum sum = new RoleSum("band without singer", List.of("drums", "bass"), false);
    RoleSum rest = new RoleSum("karaoke night", List.of("vocals"), true);
    assertThat(sum.role()).isEqualTo("drums + bass");
    assertThat(Roles.parts(sum.role())).containsExactly("drums", "bass");
    assertThat(Roles.without(sum.role())).isEmpty();
    assertThat(rest.role()).isEqualTo("everything but vocals");
    assertThat(Roles.without(rest.role())).containsExactly("vocals");
    assertThat(Roles.parts(rest.role())).isEmpty();
    RoleSum both = new RoleSum("x", List.of("vocals", "drums"), true);
    assertThat(Roles.without(both.role())).containsExactly("vocals", "drums");
    assertThat(List.of("vocals", "everything but vocals", "drums + bass"))
        .extracting(Roles::composite)
        .containsExactly(false, true, true);
  }

  @Test
  void whatTwoToolsCanFormIsProposedOnce() {
    Version halves = tool("v1", "drums", "everything but drums");
    Version three = tool("v2", "vocals", "drums", "bass");
    Version voice = tool("v3", "vocals");
    List<RoleSum> proposed = stems(halves, three, voice).proposedSums();
    assertThat(proposed).containsExactly(new RoleSum("mix without drums", List.of("drums"), true));
    // Nobody else can form it, or it is there already.
    assertThat(stems(halves, voice).proposedSums()).isEmpty();
    assertThat(stems(halves, three).withRoleSums(proposed).proposedSums()).isEmpty();
  }

  @Test
  void weightsAreKeptWhereTheyAreNotTheUsualOnes() throws Exception {
    Comparison c = stems(tool("v1", "vocals", "drums"));
    assertThat(c.withRoleWeight("vocals", 1).roleWeights()).isEmpty();
    assertThat(c.withRoleWeight("everything but vocals", 0).roleWeights()).isEmpty();
    assertThat(c.withRoleWeight("everything but vocals", 1).roleWeights())
        .containsEntry("everything but vocals", 1.0);
    Comparison weighted = c.withRoleWeight("vocals", 3).withRoleWeight("drums", 0);
    Path file = folder.resolve("c.sieve");
    ComparisonFile.save(weighted, file);
    assertThat(ComparisonFile.load(file).roleWeights())
        .isEqualTo(Map.of("vocals", 3.0, "drums", 0.0));
    assertThat(weighted.withRoleWeight("vocals", 1).withRoleWeight("drums", 1).roleWeights())
        .isEmpty();
    for (double wrong : new double[] {-1, 11, Double.NaN}) {
      assertThatThrownBy(() -> c.withRoleWeight("vocals", wrong))
          .isInstanceOf(IllegalArgumentException.class)
          .hasMessageContaining("vocals");
    }
  }

  @Test
  void versionsOfOneToolAtSeveralTargetsAreASweep() {
    Comparison c =
        Comparison.empty("c", Job.STRETCH)
            .withRatio(0.8)
            .plus(Version.of("v1", "a", null).withTool("T"))
            .plus(Version.of("v2", "b", null).withTool("T").withRatio(1.5))
            .plus(Version.of("v3", "c", null).withTool("T").withRatio(0.5))
            .plus(Version.of("v4", "d", null).withTool("T").withRatio(2.0).withBack(true))
            .plus(Version.of("v5", "e", null).withTool("alone").withRatio(1.5));
    assertThat(c.targetSweeps()).containsOnlyKeys("T");
    assertThat(c.targetSweeps().get("T")).extracting(Version::id).containsExactly("v3", "v1", "v2");
    assertThat(c.withJob(Job.DENOISE).targetSweeps()).isEmpty();
    assertThatThrownBy(() -> Version.of("v", "v", null).withRatio(0.01))
        .hasMessageContaining("between 0.1 and 10");
    assertThatThrownBy(() -> Version.of("v", "v", null).withSemitones(40.0))
        .hasMessageContaining("36 semitones");
  }
}
