package kettlesieve.app.model;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
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
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.Player;
import kettlesieve.core.listen.SoundOut;
import kettlesieve.core.listen.Track;
import kettlesieve.core.media.Recording;

/** The listening bar's model: what plays, where, and how. */
public final class Listening implements AutoCloseable {
  /** What stands for the source among the ids of versions. */
  public static final String SOURCE = "source";

  private final Player player;
  private final ReadOnlyStringWrapper chosen = new ReadOnlyStringWrapper(SOURCE);
  private final BooleanProperty levelMatched = new SimpleBooleanProperty(true);
  private final BooleanProperty onlyRemoved = new SimpleBooleanProperty();
  private final BooleanProperty looping = new SimpleBooleanProperty();
  private final ObjectProperty<TimeSpan> spotLoop = new SimpleObjectProperty<>();
  private final ReadOnlyIntegerWrapper changes = new ReadOnlyIntegerWrapper();
  private TimeSpan excerpt;
  private double seconds;
  private List<String> ids = List.of();

  Listening(Supplier<SoundOut> outputs, Consumer<String> news) {
    player = new Player(outputs, news);
    levelMatched.addListener((o, was, is) -> player.setLevelMatched(is));
    onlyRemoved.addListener((o, was, is) -> player.setOnlyRemoved(is));
    looping.addListener((o, was, is) -> applyLoop());
    spotLoop.addListener((o, was, is) -> applyLoop());
  }

  void update(Comparison comparison, Recording source, Map<String, VersionState> states) {
    List<Track> tracks = new ArrayList<>();
    List<String> playable = new ArrayList<>();
    if (source != null) {
      tracks.add(Track.source(source.audio()));
      playable.add(SOURCE);
      for (Version version : comparison.versions()) {
        VersionState state = states.getOrDefault(version.id(), VersionState.UNREAD);
        if (state.prepared() != null) {
          tracks.add(state.prepared().track());
          playable.add(version.id());
        }
      }
      seconds = source.audio().seconds();
    }
    ids = playable;
    excerpt = comparison.excerpt();
    player.setTracks(tracks);
    if (ids.contains(chosen.get())) {
      player.choose(ids.indexOf(chosen.get()));
    } else {
      chosen.set(SOURCE);
      player.choose(0);
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
    } else if (looping.get() && seconds > 0) {
      player.setLoop(excerpt != null ? excerpt : new TimeSpan(0, seconds));
    } else {
      player.setLoop(null);
    }
  }

  /** Switches to a version or the source by id; what cannot be heard yet changes nothing. */
  public void choose(String id) {
    if (ids.contains(id)) {
      chosen.set(id);
      player.choose(ids.indexOf(id));
    }
  }

  /** Whether a version can be heard. */
  public boolean audible(String id) {
    return ids.contains(id);
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

  public double positionSeconds() {
    return player.positionSeconds();
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

  /** The short place that is looped; null for none. */
  public ObjectProperty<TimeSpan> spotLoopProperty() {
    return spotLoop;
  }

  @Override
  public void close() {
    player.close();
  }
}
