package kettlesieve.app.model;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.Band;
import kettlesieve.core.listen.LevelMeter;
import kettlesieve.core.listen.Player;
import kettlesieve.core.listen.Side;
import kettlesieve.core.listen.SoundOut;
import kettlesieve.core.listen.Track;
import kettlesieve.core.listen.Turns;
import kettlesieve.core.media.Recording;

/** The listening bar's model: what plays, where, and how. */
public final class Listening implements AutoCloseable {
  /** What stands for the source among the ids of versions. */
  public static final String SOURCE = "source";

  /** What stands for the clean recording among the ids of versions. */
  public static final String REFERENCE = "reference";

  private final Player player;
  private final ReadOnlyStringWrapper chosen = new ReadOnlyStringWrapper(SOURCE);
  private final BooleanProperty levelMatched = new SimpleBooleanProperty(true);
  private final BooleanProperty onlyRemoved = new SimpleBooleanProperty();
  private final BooleanProperty looping = new SimpleBooleanProperty();
  private final BooleanProperty halfSpeed = new SimpleBooleanProperty();
  private final ObjectProperty<TimeSpan> spotLoop = new SimpleObjectProperty<>();
  private final ObjectProperty<Turns> turns = new SimpleObjectProperty<>(Turns.STAY);
  private final ObjectProperty<Side> side = new SimpleObjectProperty<>(Side.BOTH);
  private final ObjectProperty<Band> band = new SimpleObjectProperty<>();
  private final ObjectProperty<Set<String>> roles = new SimpleObjectProperty<>(Set.of());
  private final ReadOnlyIntegerWrapper changes = new ReadOnlyIntegerWrapper();
  private TimeSpan excerpt;
  private List<TimeSpan> together = List.of();
  private double seconds;
  private List<String> ids = List.of();
  private Set<String> allRoles = Set.of();
  private final List<String> lastHeard = new ArrayList<>();

  /**
   * @param ui runs tasks on the interface thread
   */
  Listening(Executor ui, Supplier<SoundOut> outputs, Consumer<String> news) {
    player = new Player(outputs, news);
    player.onTurn(
        track ->
            ui.execute(
                () -> {
                  if (track < ids.size()) {
                    chosen.set(ids.get(track));
                  }
                }));
    levelMatched.addListener((o, was, is) -> player.setLevelMatched(is));
    onlyRemoved.addListener((o, was, is) -> player.setOnlyRemoved(is));
    halfSpeed.addListener((o, was, is) -> player.setHalfSpeed(is));
    side.addListener((o, was, is) -> player.setSide(is));
    band.addListener((o, was, is) -> player.setBand(is));
    roles.addListener((o, was, is) -> player.setRoles(is));
    turns.addListener(
        (o, was, is) -> {
          player.setTurns(is);
          if (is != Turns.STAY) {
            looping.set(true);
          }
        });
    looping.addListener(
        (o, was, is) -> {
          if (!is) {
            turns.set(Turns.STAY);
          }
          applyLoop();
        });
    spotLoop.addListener((o, was, is) -> applyLoop());
  }

  void update(
      Comparison comparison,
      Recording source,
      Prepared reference,
      Map<String, Audio> trueStems,
      Map<String, VersionState> states,
      Map<String, Prepared> takes) {
    Map<String, Track> tracks = new LinkedHashMap<>();
    Set<String> parts = new LinkedHashSet<>();
    if (source != null) {
      tracks.put(SOURCE, Track.source(source.audio()));
      for (Version version : comparison.versions()) {
        VersionState state = states.getOrDefault(version.id(), VersionState.UNREAD);
        if (state.prepared() != null) {
          tracks.put(version.id(), state.prepared().track());
          parts.addAll(state.prepared().stems().keySet());
        }
      }
      if (reference != null) {
        tracks.put(REFERENCE, reference.track());
      } else if (!trueStems.isEmpty()) {
        tracks.put(REFERENCE, Track.stems(source.audio(), trueStems));
        parts.addAll(trueStems.keySet());
      }
      seconds = source.audio().seconds();
    }
    int inTurn = tracks.size() - (tracks.containsKey(REFERENCE) ? 1 : 0);
    if (source != null) {
      takes.forEach((id, take) -> tracks.put(id, take.track()));
    }
    ids = List.copyOf(tracks.keySet());
    allRoles = parts;
    excerpt = comparison.excerpt();
    together =
        comparison.together()
            ? comparison.excerpts().stream().map(Excerpt::span).toList()
            : List.of();
    player.setTracks(new ArrayList<>(tracks.values()));
    player.setRound(inTurn);
    if (ids.contains(chosen.get())) {
      player.choose(ids.indexOf(chosen.get()));
    } else {
      chosen.set(SOURCE);
      player.choose(0);
    }
    if (!roles.get().isEmpty() && roles.get().stream().noneMatch(parts::contains)) {
      roles.set(Set.of());
    }
    applyLoop();
    changes.set(changes.get() + 1);
  }

  /** Counts how often what can be heard has changed. */
  public ReadOnlyIntegerProperty changesProperty() {
    return changes.getReadOnlyProperty();
  }

  private void applyLoop() {
    if (spotLoop.get() != null) {
      player.setLoop(spotLoop.get());
    } else if (!looping.get() || seconds <= 0) {
      player.setLoop((TimeSpan) null);
    } else if (!together.isEmpty()) {
      player.setLoop(together);
    } else {
      player.setLoop(excerpt != null ? excerpt : new TimeSpan(0, seconds));
    }
  }

  /** From the start, everything, unfiltered: another comparison is opened. */
  void plain() {
    lastHeard.clear();
    spotLoop.set(null);
    band.set(null);
    side.set(Side.BOTH);
    halfSpeed.set(false);
    onlyRemoved.set(false);
    roles.set(Set.of());
    turns.set(Turns.STAY);
    player.seek(0);
  }

  /** Switches to a version or the source by id; what cannot be heard yet changes nothing. */
  public void choose(String id) {
    if (ids.contains(id)) {
      lastHeard.remove(id);
      lastHeard.add(0, id);
      chosen.set(id);
      player.choose(ids.indexOf(id));
    }
  }

  /** What was chosen, the last first; the source and the clean recording are among them. */
  public List<String> lastHeard() {
    return List.copyOf(lastHeard);
  }

  /** Whether a version can be heard. */
  public boolean audible(String id) {
    return ids.contains(id);
  }

  /** Whether there is a clean recording to hear. */
  public boolean hasReference() {
    return ids.contains(REFERENCE);
  }

  /** Roles that can be heard alone, over all versions; empty unless there are stems. */
  public Set<String> allRoles() {
    return allRoles;
  }

  /** Hears one role alone, or all again if it was alone already. */
  public void solo(String role) {
    roles.set(roles.get().equals(Set.of(role)) ? Set.of() : Set.of(role));
  }

  /** Hears one role alone, whatever was heard before. */
  public void hear(String role) {
    if (allRoles.contains(role)) {
      roles.set(Set.of(role));
    }
  }

  /** Hears one role alone, then the next, then all again. */
  public void soloNext() {
    List<String> order = Roles.sorted(allRoles);
    if (order.isEmpty()) {
      return;
    }
    Set<String> now = roles.get();
    int at = now.size() == 1 ? order.indexOf(now.iterator().next()) : -1;
    roles.set(at + 1 < order.size() ? Set.of(order.get(at + 1)) : Set.of());
  }

  /** Takes a role out of what is heard, or puts it back. */
  public void mute(String role) {
    Set<String> heard = new LinkedHashSet<>(roles.get().isEmpty() ? allRoles : roles.get());
    if (!heard.remove(role)) {
      heard.add(role);
    }
    boolean all = heard.containsAll(allRoles);
    roles.set(all || heard.isEmpty() ? Set.of() : heard);
  }

  /** Hears a sum of roles; a remainder is heard as what the mix has without them. */
  public void hear(RoleSum sum) {
    roles.set(Set.copyOf(sum.roles()));
    onlyRemoved.set(sum.remainder());
  }

  /** The roles that are heard; empty for all. */
  public ObjectProperty<Set<String>> rolesProperty() {
    return roles;
  }

  public void toggle() {
    if (player.playing()) {
      stop();
    } else {
      player.play();
    }
  }

  public void play() {
    player.play();
  }

  public void stop() {
    player.stop();
  }

  public boolean playing() {
    return player.playing();
  }

  /** Goes to a place; a spot that was looped is left. */
  public void seek(double to) {
    spotLoop.set(null);
    player.seek(Math.max(0, Math.min(seconds, to)));
  }

  /** Loops a short place and begins to play it. */
  public void playSpot(String id, TimeSpan span) {
    choose(id);
    spotLoop.set(span);
    player.seek(span.from());
    player.play();
  }

  /** Levels of what is heard now, or was heard last. */
  public LevelMeter.Levels levels() {
    return player.levels();
  }

  public double positionSeconds() {
    return player.positionSeconds();
  }

  /** Where the chosen version's own time stands for a moment of the source. */
  public double ownSeconds(Map<String, VersionState> states, double sourceSeconds) {
    VersionState state = states.get(chosen.get());
    TimeMap map =
        state == null || state.prepared() == null ? TimeMap.IDENTITY : state.prepared().map();
    return map.at(sourceSeconds);
  }

  /** The output in use; null before the first playing. */
  public SoundOut output() {
    return player.output();
  }

  public ReadOnlyStringProperty chosenProperty() {
    return chosen.getReadOnlyProperty();
  }

  public BooleanProperty levelMatchedProperty() {
    return levelMatched;
  }

  public BooleanProperty onlyRemovedProperty() {
    return onlyRemoved;
  }

  public BooleanProperty loopingProperty() {
    return looping;
  }

  public BooleanProperty halfSpeedProperty() {
    return halfSpeed;
  }

  /** What happens at the end of each pass of the loop. */
  public ObjectProperty<Turns> turnsProperty() {
    return turns;
  }

  public ObjectProperty<Side> sideProperty() {
    return side;
  }

  /** The band that is heard; null for all frequencies. */
  public ObjectProperty<Band> bandProperty() {
    return band;
  }

  /** The short place that is looped; null for none. */
  public ObjectProperty<TimeSpan> spotLoopProperty() {
    return spotLoop;
  }

  @Override
  public void close() {
    player.close();
  }
}
