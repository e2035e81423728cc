package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
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

  /**
   * What is to be told of a version once it is measured.
   *
   * @param sha256 of its file before; null if that is not known, or if it has several
   * @param score before
   */
  private record Untold(String sha256, OptionalDouble score) {}

  private final Map<String, Untold> untold = new LinkedHashMap<>();

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

  /**
   * A file of a version was written anew: what is known of it is the take before. Of one that is
   * written again before it was measured, the take before stays what it was.
   */
  void rendered(Version version) {
    String id = version.id();
    if (untold.containsKey(id)) {
      return;
    }
    VersionState state = workspace.state(id);
    boolean whole =
        version.media() != null && state.prepared() != null && state.recording() != null;
    untold.put(id, new Untold(whole ? state.recording().facts().sha256() : null, score(id)));
    if (whole) {
      before.put(id, new Take(state.recording(), state.prepared(), score(id)));
    }
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

  /**
   * A run has ended: says what became of those that were written anew.
   *
   * @param whole whether it came to its end; else nothing of what is shown is new
   */
  void tell(boolean whole) {
    if (untold.isEmpty()) {
      return;
    }
    List<String> good = new ArrayList<>();
    List<String> bad = new ArrayList<>();
    Map<String, Untold> told = new LinkedHashMap<>(untold);
    if (whole) {
      untold.clear();
    }
    told.forEach(
        (id, was) ->
            workspace.comparison().version(id).ifPresent(v -> words(v, was, whole, good, bad)));
    if (!bad.isEmpty()) {
      bad.addAll(good);
      workspace.messageProperty().set(String.join("; ", bad) + ".");
    } else if (!good.isEmpty()) {
      workspace.news().done(String.join("; ", good) + ".");
    }
  }

  private void words(
      Version version, Untold was, boolean whole, List<String> good, List<String> bad) {
    String id = version.id();
    VersionState state = workspace.state(id);
    String begun = version.label() + " was rendered again";
    if (!whole) {
      bad.add(begun + " and is not measured yet");
    } else if (state.problem() != null) {
      bad.add(begun + " and cannot be used: " + state.problem());
    } else if (was.sha256() != null
        && state.recording() != null
        && was.sha256().equals(state.recording().facts().sha256())) {
      before.remove(id);
      good.add(begun + ", to the same bytes");
    } else {
      OptionalDouble now = score(id);
      String figure = now.isPresent() ? ": " + Numbers.fixed(now.getAsDouble(), 0) : "";
      String former =
          now.isPresent() && was.score().isPresent()
              ? ", was " + Numbers.fixed(was.score().getAsDouble(), 0)
              : "";
      good.add(begun + figure + former);
    }
  }

  /** Lets go of what belongs to versions that are gone. */
  void keepOnly(Comparison now) {
    before.keySet().removeIf(id -> now.version(id).isEmpty());
    untold.keySet().removeIf(id -> now.version(id).isEmpty());
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
        version.as(c.freshId(), label, MediaRef.of(file)).withDecision(null).withVerdict("");
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
