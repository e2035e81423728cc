package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.Executor;
import javafx.collections.FXCollections;
import javafx.collections.ObservableMap;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.Recording;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.task.Progress;

/**
 * Versions whose files were written anew while the window was open: what they were before stays to
 * be heard until it is dropped or kept as a version of its own. Interface thread; files are written
 * on another.
 */
public final class Takes {
  private static final String BEFORE = "~before";

  /**
   * What a version was.
   *
   * @param recording its samples
   * @param prepared matched to the source
   * @param score overall, of 100; empty if it had none
   */
  public record Take(Recording recording, Prepared prepared, OptionalDouble score) {}

  private final Workspace workspace;
  private final Executor ui;
  private final ObservableMap<String, Take> before = FXCollections.observableHashMap();
  private final ObservableMap<String, Take> shown = FXCollections.unmodifiableObservableMap(before);
  private final List<String> untold = new ArrayList<>();

  Takes(Workspace workspace, Executor ui) {
    this.workspace = workspace;
    this.ui = ui;
  }

  /** What versions were before, by their ids. */
  public ObservableMap<String, Take> before() {
    return shown;
  }

  /** Under which id the take before of a version is heard. */
  public static String heardAs(String versionId) {
    return versionId + BEFORE;
  }

  /** The version whose take before is heard under an id; empty for others. */
  public static Optional<String> versionOf(String id) {
    return id.endsWith(BEFORE)
        ? Optional.of(id.substring(0, id.length() - BEFORE.length()))
        : Optional.empty();
  }

  /** The file of a version was written anew: what is known of it is the take before. */
  void rendered(Version version) {
    VersionState state = workspace.state(version.id());
    if (version.media() == null || state.prepared() == null || state.recording() == null) {
      return;
    }
    before.put(version.id(), new Take(state.recording(), state.prepared(), score(version.id())));
    untold.remove(version.id());
    untold.add(version.id());
  }

  private OptionalDouble score(String versionId) {
    ScoreSheet sheet = workspace.sheetProperty().get();
    return sheet == null
        ? OptionalDouble.empty()
        : sheet.entries().stream()
            .filter(e -> e.version().id().equals(versionId))
            .flatMap(e -> e.card().overall().stream())
            .mapToDouble(o -> o.value())
            .findFirst();
  }

  /** A run has ended: says what became of those that were written anew. */
  void tell() {
    List<String> words = new ArrayList<>();
    for (String id : untold) {
      Optional<Version> version = workspace.comparison().version(id);
      Take take = before.get(id);
      OptionalDouble now = score(id);
      if (version.isEmpty() || take == null || now.isEmpty()) {
        continue;
      }
      words.add(
          version.get().label()
              + " was rendered again: "
              + Numbers.fixed(now.getAsDouble(), 0)
              + (take.score().isPresent()
                  ? ", was " + Numbers.fixed(take.score().getAsDouble(), 0)
                  : ""));
    }
    untold.clear();
    if (!words.isEmpty()) {
      workspace.news().done(String.join("; ", words) + ".");
    }
  }

  /** Lets go of what a version was. */
  public void drop(String versionId) {
    before.remove(versionId);
    workspace.updateTracks();
  }

  void forget() {
    before.clear();
    untold.clear();
  }

  /** Writes what a version was beside its file, and brings it in as another version. */
  public void keep(String versionId) {
    Version version = workspace.comparison().version(versionId).orElse(null);
    Take take = before.get(versionId);
    if (version == null || take == null) {
      return;
    }
    Owner owner = workspace.document().owner();
    Path beside = version.media().file();
    workspace
        .workshop()
        .background(
            () -> {
              Path file = free(beside);
              String problem = null;
              try {
                WavWriter.write(
                    take.recording().audio(), file, WavWriter.Format.FLOAT, Progress.SILENT);
              } catch (IOException e) {
                problem =
                    "The take before was not kept: "
                        + file
                        + " could not be written. Check the folder and the room on the disk.";
              }
              String said = problem;
              ui.execute(() -> kept(owner, version, take, file, said));
            });
  }

  private void kept(Owner owner, Version version, Take take, Path file, String problem) {
    if (problem != null) {
      workspace.messageProperty().set(problem);
      return;
    }
    if (!owner.same(workspace.document().owner())) {
      // Another comparison is open: the file stands there, and can be brought in.
      return;
    }
    if (before.get(version.id()) == take) {
      before.remove(version.id());
    }
    workspace.edit(c -> c.withVersions(with(c, version, file)));
    workspace.news().done("The take before stands in " + file.getFileName() + ".");
  }

  private static List<Version> with(Comparison c, Version version, Path file) {
    String label = version.label() + " (before)";
    for (int n = 2; taken(c, label); n++) {
      label = version.label() + " (before " + n + ")";
    }
    List<Version> versions = new ArrayList<>(c.versions());
    Version made =
        Version.of(c.freshId(), label, MediaRef.of(file))
            .withTool(version.tool())
            .withSetting(version.setting())
            .withAmount(version.amount())
            .withMatch(version.match());
    int at = versions.stream().map(Version::id).toList().indexOf(version.id());
    versions.add(at < 0 ? versions.size() : at + 1, made);
    return versions;
  }

  private static boolean taken(Comparison c, String label) {
    return c.versions().stream().anyMatch(v -> v.label().equals(label));
  }

  private static Path free(Path beside) {
    String stem = FileNames.stem(beside) + "-before";
    Path file = beside.resolveSibling(stem + ".wav");
    for (int n = 2; Files.exists(file); n++) {
      file = beside.resolveSibling(stem + "-" + n + ".wav");
    }
    return file;
  }

  /** What the tracks of the takes are, by the ids under which they are heard. */
  Map<String, Prepared> heard() {
    Map<String, Prepared> all = new java.util.LinkedHashMap<>();
    for (Version v : workspace.comparison().versions()) {
      Take take = before.get(v.id());
      if (take != null) {
        all.put(heardAs(v.id()), take.prepared());
      }
    }
    return all;
  }
}
