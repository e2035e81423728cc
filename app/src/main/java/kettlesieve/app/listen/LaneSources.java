package kettlesieve.app.listen;

import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Prepared;
import kettlesieve.app.model.VersionState;
import kettlesieve.app.model.Workspace;
import kettlesieve.core.audio.Audio;

/**
 * What each lane draws: a recording, some of its stems, or what they leave of the mix. The same is
 * the same object, so that pictures of it are kept. Interface thread.
 */
final class LaneSources {
  /** Before the id of a version: what its stems leave of the mix. */
  private static final String LEFT = "left of ";

  /** What a lane was last given, so that the same sound keeps the same pictures. */
  private record Drawn(Prepared prepared, Set<String> roles, LaneSource lane) {}

  private final Workspace workspace;
  private final LaneStyle style;
  private final Map<String, Drawn> drawn = new HashMap<>();

  LaneSources(Workspace workspace, LaneStyle style) {
    this.workspace = workspace;
    this.style = style;
  }

  /** Another source: nothing of before is drawn again. */
  void forget() {
    drawn.clear();
  }

  /** What the lane of a version, the source or the clean recording draws; null for nothing yet. */
  LaneSource of(String id) {
    Audio source = workspace.sourceProperty().get().audio();
    if (id.equals(Listening.SOURCE)) {
      return LaneSource.of(source);
    }
    Set<String> roles = workspace.listening().rolesProperty().get();
    if (id.equals(Listening.REFERENCE)) {
      Map<String, Audio> stems = workspace.trueStems();
      if (style.left() && !stems.isEmpty()) {
        return left(id, null);
      }
      if (stems.isEmpty()) {
        return LaneSource.of(workspace.preparedReference().matched());
      }
      boolean any = roles.isEmpty() || stems.keySet().stream().anyMatch(roles::contains);
      return any ? reference(stems, roles, source) : null;
    }
    VersionState state = workspace.state(id);
    if (state.prepared() == null || state.recording() == null) {
      return null;
    }
    if (style.left()) {
      return left(id, state.prepared());
    }
    Set<String> parts = state.prepared().stems().keySet();
    if (!parts.isEmpty() && !roles.isEmpty() && parts.stream().noneMatch(roles::contains)) {
      return null;
    }
    Drawn known = drawn.get(id);
    if (known == null || known.prepared() != state.prepared() || !known.roles().equals(roles)) {
      LaneSource lane = LaneSource.of(state, source.sampleRate(), roles, source);
      known = new Drawn(state.prepared(), roles, lane);
      drawn.put(id, known);
    }
    return known.lane();
  }

  private LaneSource left(String id, Prepared prepared) {
    Drawn known = drawn.get(LEFT + id);
    if (known == null || known.prepared() != prepared) {
      known =
          workspace
              .stems()
              .left(id)
              .map(audio -> new Drawn(prepared, Set.of(), LaneSource.of(audio)))
              .orElse(null);
      drawn.put(LEFT + id, known);
    }
    return known == null ? null : known.lane();
  }

  private LaneSource reference(Map<String, Audio> stems, Set<String> roles, Audio source) {
    Drawn known = drawn.get(Listening.REFERENCE);
    if (known == null || !known.roles().equals(roles)) {
      known = new Drawn(null, roles, LaneSource.of(LaneSource.stems(stems, roles, source)));
      drawn.put(Listening.REFERENCE, known);
    }
    return known.lane();
  }

  String whyMissing(String id) {
    Set<String> roles = workspace.listening().rolesProperty().get();
    boolean ready = id.equals(Listening.REFERENCE) || workspace.state(id).prepared() != null;
    return ready && !roles.isEmpty()
        ? "has no stem called " + String.join(" or ", roles)
        : workspace.state(id).problem() != null ? "cannot be used; see Gather" : "not ready";
  }
}
