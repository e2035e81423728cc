package kettlesieve.app.model;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.score.ScoreSheet;

/** The stems of versions as they are heard and drawn: as delivered, or formed of others. */
public final class StemSounds {
  /** Under this a null test is passed. */
  private static final double ADDS_UP = -90;

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

  /**
   * What the stems of a version leave of the source; empty if it is not ready or has none.
   *
   * @param id of a version, or {@link Listening#REFERENCE} for the true stems
   */
  public Optional<Audio> left(String id) {
    Prepared prepared = workspace.state(id).prepared();
    Map<String, Audio> stems =
        id.equals(Listening.REFERENCE)
            ? workspace.trueStems()
            : prepared == null ? Map.of() : prepared.stems();
    if (stems.isEmpty() || workspace.sourceProperty().get() == null) {
      return Optional.empty();
    }
    Audio source = workspace.sourceProperty().get().audio();
    Audio all = together(stems, List.copyOf(stems.keySet()), source);
    return Optional.of(SumAudio.remainder(source, List.of(all)));
  }

  /** The null test of a version in words; empty where it was not measured. */
  public String leftWords(String versionId) {
    ScoreSheet sheet = workspace.sheetProperty().get();
    return Optional.ofNullable(sheet)
        .flatMap(s -> s.entry(Part.ALL, versionId))
        .flatMap(e -> e.reading("sum-residual"))
        .map(Reading::value)
        .map(
            db ->
                Numbers.fixed(db, 0)
                    + " dB of the mix"
                    + (db < ADDS_UP ? ": the stems add up" : ""))
        .orElse("");
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
