package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.comparison.FileNames.Kind;
import kettlesieve.core.comparison.FileNames.Proposal;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FileNamesTest {
  private static final Path SOURCE = Path.of("x", "tape.wav");

  private static List<Proposal> sort(Job job, Path source, String... names) {
    return FileNames.sort(
        java.util.Arrays.stream(names).map(n -> Path.of("drop", n)).toList(), job, source);
  }

  private static Proposal of(List<Proposal> list, String name) {
    return list.stream().filter(p -> p.file().endsWith(name)).findFirst().orElseThrow();
  }

  @ParameterizedTest
  @CsvSource(
      nullValues = "-",
      value = {
        "tape_MildTool 40.wav,MildTool,40,MildTool 40",
        "tape-strong_tool-75%.wav,Strong tool,75,Strong tool 75",
        "Tape-tool-140.wav,Tool 140,-,Tool 140",
        "tape-tool-0.mp3,Tool,0,Tool 0",
        "tape-tool-amount12.5.wav,Tool,12.5,Tool 12.5",
        "other name.wav,Other name,-,Other name"
      })
  void oneFileTellsToolAndAmount(String name, String tool, Double amount, String label) {
    Proposal p = sort(Job.DENOISE, SOURCE, name).get(0);
    assertThat(p.kind()).isEqualTo(Kind.VERSION);
    assertThat(p.tool()).isEqualTo(tool);
    assertThat(p.amount()).isEqualTo(amount);
    assertThat(p.label()).isEqualTo(label);
  }

  @Test
  void aDozenFilesAreSortedIntoToolsSettingsAndAmounts() {
    List<Proposal> list =
        sort(
            Job.DENOISE,
            null,
            "watch.wav",
            "watch-clean.wav",
            "watch-alder-soft-30.wav",
            "watch-alder-soft-60.wav",
            "watch-alder-hard-30.wav",
            "watch-birch-30.wav",
            "watch-birch-60.wav");
    assertThat(of(list, "watch.wav").kind()).isEqualTo(Kind.SOURCE);
    assertThat(of(list, "watch-clean.wav").kind()).isEqualTo(Kind.REFERENCE);
    Proposal hard = of(list, "watch-alder-hard-30.wav");
    assertThat(hard.tool()).isEqualTo("Alder");
    assertThat(hard.setting()).isEqualTo("hard");
    assertThat(hard.amount()).isEqualTo(30);
    assertThat(of(list, "watch-alder-soft-60.wav").tool()).startsWith("Alder");
    assertThat(of(list, "watch-birch-60.wav").tool()).isEqualTo("Birch");
    assertThat(of(list, "watch-birch-60.wav").amount()).isEqualTo(60);
  }

  @Test
  void stemsTellTheirRolesAndFoldersTheirTools() {
    List<Proposal> list =
        FileNames.sort(
            List.of(
                Path.of("waltz", "mix.wav"),
                Path.of("waltz", "alder", "vocals.wav"),
                Path.of("waltz", "alder", "drums.wav"),
                Path.of("waltz", "birch", "no_drums.wav"),
                Path.of("waltz", "true", "true vox.wav")),
            Job.STEMS,
            null);
    assertThat(of(list, "mix.wav").kind()).isEqualTo(Kind.SOURCE);
    assertThat(of(list, "drums.wav").role()).isEqualTo("drums");
    assertThat(of(list, "drums.wav").tool()).isEqualTo("Alder");
    assertThat(of(list, "no_drums.wav").role()).isEqualTo("everything but drums");
    assertThat(of(list, "no_drums.wav").tool()).isEqualTo("Birch");
    assertThat(of(list, "true vox.wav").kind()).isEqualTo(Kind.TRUE_STEM);
    assertThat(of(list, "true vox.wav").role()).isEqualTo("vocals");
  }

  @ParameterizedTest
  @CsvSource(
      nullValues = "-",
      value = {
        "song-vox,vocals",
        "Drum Kit left,drums",
        "minus bass,everything but bass",
        "Instrumental,everything but vocals",
        "tool_harmonic,tonal",
        "take 7,-"
      })
  void rolesAreReadFromWords(String name, String role) {
    assertThat(Roles.guess(name).orElse(null)).isEqualTo(role);
  }

  @Test
  void rolesKeepTheUsualOrderAndPeoplesOwnComeLast() {
    assertThat(Roles.sorted(List.of("concertina", "bass", "vocals")))
        .containsExactly("vocals", "bass", "concertina");
  }

  @Test
  void onlyAudioFilesCount() {
    assertThat(FileNames.audio(Path.of("a.FLAC"))).isTrue();
    assertThat(FileNames.audio(Path.of("a.txt"))).isFalse();
    assertThat(FileNames.audio(Path.of(".wav"))).isFalse();
  }
}
