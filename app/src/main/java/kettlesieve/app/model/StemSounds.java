package kettlesieve.app.model;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.SumAudio;

/** The stems of versions as they are heard and drawn: as delivered, or formed of others. */
public final class StemSounds {
  private final Workspace workspace;

  StemSounds(Workspace workspace) {
    this.workspace = workspace;
  }

  /** A stem on the source's time, in the source's channels; empty if it is not ready. */
  public Optional<Audio> of(String versionId, String role) {
    Prepared prepared = workspace.state(versionId).prepared();
    if (prepared == null || workspace.sourceProperty().get() == null) {
      return Optional.empty();
    }
    Map<String, Audio> stems = prepared.stems();
    Audio source = workspace.sourceProperty().get().audio();
    if (stems.containsKey(role)) {
      return Optional.of(stems.get(role).asChannels(source.channels()));
    }
    return sum(workspace.comparison(), role, stems.keySet())
        .map(
            sum -> {
              Audio parts = together(stems, sum.roles(), source);
              return sum.remainder() ? SumAudio.remainder(source, List.of(parts)) : parts;
            });
  }

  /** What the stems of a version leave of the source; empty if it is not ready or has none. */
  public Optional<Audio> left(String versionId) {
    Prepared prepared = workspace.state(versionId).prepared();
    if (prepared == null
        || prepared.stems().isEmpty()
        || workspace.sourceProperty().get() == null) {
      return Optional.empty();
    }
    Audio source = workspace.sourceProperty().get().audio();
    Audio all = together(prepared.stems(), List.copyOf(prepared.stems().keySet()), source);
    return Optional.of(SumAudio.remainder(source, List.of(all)));
  }

  private static Audio together(Map<String, Audio> stems, List<String> roles, Audio source) {
    return SumAudio.of(
        roles.stream().map(r -> stems.get(r).asChannels(source.channels())).toList());
  }

  private static Optional<RoleSum> sum(Comparison c, String role, Set<String> there) {
    return c.roleSums().stream()
        .filter(s -> s.role().equals(role) && there.containsAll(s.roles()))
        .findFirst();
  }

  /** Hears one role of a version alone, also one that is formed of its stems. */
  public void hear(String role, String versionId) {
    Prepared prepared = workspace.state(versionId).prepared();
    boolean formed = prepared != null && !prepared.stems().containsKey(role);
    Optional<RoleSum> sum =
        formed ? sum(workspace.comparison(), role, prepared.stems().keySet()) : Optional.empty();
    if (sum.isPresent()) {
      workspace.listening().hear(sum.get());
    } else {
      workspace.listening().onlyRemovedProperty().set(false);
      workspace.listening().hear(role);
    }
  }
}
