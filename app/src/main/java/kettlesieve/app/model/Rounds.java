package kettlesieve.app.model;

import java.security.SecureRandom;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.Player;
import kettlesieve.core.listen.RoundPlan;
import kettlesieve.core.listen.SoundOut;
import kettlesieve.core.listen.Track;
import kettlesieve.core.signal.LowPass;

/**
 * Blind rounds: the one that runs, its playing, its answers. Every answer goes into the comparison
 * and into its copy on disk before the next trial is on, so that whatever ends the program loses
 * none. As long as a round runs, what changed outside waits ({@link Workspace#lookAgain}).
 */
public final class Rounds implements AutoCloseable {
  private static final double USUAL_SECONDS = 8;
  private static final int USUAL_TRIALS = 16;

  private final Workspace workspace;
  private final Player player;
  private final ReadOnlyObjectWrapper<Round> running = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyIntegerWrapper heard = new ReadOnlyIntegerWrapper(-1);
  private int trial;

  /**
   * An answer is in the window alone: its copy could not be written. Said when the round is over.
   */
  private boolean unkept;

  /**
   * What a round is to be.
   *
   * @param kind what is asked
   * @param question what is to be listened for
   * @param items versions by id
   * @param trials of ABX
   * @param listener name or initials; empty for none
   * @param span what is looped, seconds of the source
   * @param role stems: which is heard; empty for all together
   */
  public record Plan(
      Round.Kind kind,
      Round.Question question,
      List<String> items,
      int trials,
      String listener,
      TimeSpan span,
      String role) {}

  Rounds(Workspace workspace, Supplier<SoundOut> outputs, Consumer<String> news) {
    this.workspace = workspace;
    this.player = new Player(outputs, news);
  }

  /** The round that runs; null if none does. */
  public ReadOnlyObjectProperty<Round> runningProperty() {
    return running.getReadOnlyProperty();
  }

  /** Number of the token that is heard; −1 as long as none was. */
  public ReadOnlyIntegerProperty heardProperty() {
    return heard.getReadOnlyProperty();
  }

  /** Number of the trial that is on. */
  public int trial() {
    return trial;
  }

  /** What would be sensible for the comparison that is open; empty if too little can be heard. */
  public Optional<Plan> usual() {
    Comparison c = workspace.comparison();
    List<String> audible =
        c.versions().stream().map(Version::id).filter(workspace.listening()::audible).toList();
    if (audible.size() < 2 || workspace.sourceProperty().get() == null) {
      return Optional.empty();
    }
    boolean own = c.job().ownTime();
    Round.Kind kind =
        audible.size() == 2
            ? Round.Kind.ABX
            : own && audible.size() <= RoundPlan.MOST_ALL_PAIRS
                ? Round.Kind.PAIRS
                : Round.Kind.RATING;
    Set<String> roles = workspace.listening().rolesProperty().get();
    return Optional.of(
        new Plan(
            kind,
            Round.Question.OVERALL,
            audible,
            USUAL_TRIALS,
            "",
            span(c),
            roles.size() == 1 ? roles.iterator().next() : ""));
  }

  /** The spot that is looped, the excerpt, or a few seconds from the playhead. */
  private TimeSpan span(Comparison c) {
    double seconds = workspace.sourceProperty().get().audio().seconds();
    TimeSpan spot = workspace.listening().spotLoopProperty().get();
    if (spot != null) {
      return spot;
    }
    if (c.excerpt() != null) {
      return c.excerpt();
    }
    Optional<Excerpt> first = c.excerpts().stream().findFirst();
    if (first.isPresent()) {
      return first.get().span();
    }
    double from =
        Math.max(0, Math.min(workspace.listening().positionSeconds(), seconds - USUAL_SECONDS));
    return new TimeSpan(from, Math.min(seconds, from + USUAL_SECONDS));
  }

  /**
   * Begins a round.
   *
   * @throws IllegalArgumentException if there are too few versions or trials, in words
   */
  public void begin(Plan plan) {
    List<String> items = new ArrayList<>(plan.items());
    // Who does not give the stem would be silence, and the source the whole mix: both tell.
    items.removeIf(i -> !plan.role().isEmpty() && !gives(i, plan.role()));
    if (plan.kind() == Round.Kind.RATING && plan.role().isEmpty()) {
      if (workspace.preparedReference() != null) {
        items.addAll(List.of(Round.REFERENCE, Round.LOW_ANCHOR, Round.MID_ANCHOR));
      } else {
        items.add(Round.SOURCE);
      }
    }
    Round round =
        RoundPlan.planned(
            new Round(
                workspace.comparison().freshRoundId(),
                plan.kind(),
                plan.question(),
                plan.listener(),
                new SecureRandom().nextLong(),
                plan.span(),
                plan.role(),
                items,
                Instant.now().truncatedTo(ChronoUnit.SECONDS).toString(),
                List.of()),
            plan.trials());
    keep(round);
    start(round);
  }

  private void keep(Round round) {
    if (!workspace.document().editForKeeps(c -> c.withRound(round))) {
      unkept = true;
    }
  }

  private boolean gives(String version, String role) {
    Prepared prepared = workspace.state(version).prepared();
    return prepared != null && prepared.stems().containsKey(role);
  }

  /** Goes on with a round that was broken off; what cannot be heard any more is said. */
  public void goOn(Round round) {
    if (workspace.sourceProperty().get() == null) {
      workspace.news().underWay("The round goes on as soon as the source is read.");
      return;
    }
    List<String> gone = round.items().stream().filter(i -> track(i) == null).toList();
    if (!gone.isEmpty()) {
      workspace
          .messageProperty()
          .set(
              "The round cannot go on yet: "
                  + (gone.size() == 1 ? "one of its versions" : gone.size() + " of its versions")
                  + " cannot be heard. Bring back what is missing, or wait until it is matched.");
      return;
    }
    start(round);
  }

  private void start(Round round) {
    workspace.listening().stop();
    trial = round.kind() == Round.Kind.RATING ? 0 : round.next();
    player.setRoles(round.role().isEmpty() ? Set.of() : Set.of(round.role()));
    running.set(round);
    load();
    player.setLoop(round.span());
    player.seek(round.span().from());
  }

  /** What can be heard in the trial that is on: two, with X three; in a rating all tokens. */
  public List<String> tokens() {
    Round round = running.get();
    return switch (round.kind()) {
      case ABX -> List.of(round.items().get(0), round.items().get(1), now().x());
      case PAIRS -> now().items();
      case RATING -> round.trials().stream().map(t -> t.items().get(0)).toList();
    };
  }

  private Round.Trial now() {
    return running.get().trials().get(trial);
  }

  private void load() {
    Round round = running.get();
    List<Track> tracks = new ArrayList<>();
    tracks.add(Track.source(workspace.sourceProperty().get().audio()));
    tokens().forEach(item -> tracks.add(track(item)));
    player.setTracks(tracks);
    heard.set(-1);
  }

  private Track track(String item) {
    Prepared reference = workspace.preparedReference();
    return switch (item) {
      case Round.SOURCE -> Track.source(workspace.sourceProperty().get().audio());
      case Round.REFERENCE -> reference == null ? null : reference.track();
      case Round.LOW_ANCHOR -> reference == null ? null : anchor(reference, 3_500);
      case Round.MID_ANCHOR -> reference == null ? null : anchor(reference, 7_000);
      default -> {
        Prepared prepared = workspace.state(item).prepared();
        yield prepared == null ? null : prepared.track();
      }
    };
  }

  private static Track anchor(Prepared reference, double hz) {
    return Track.source(LowPass.of(reference.matched(), hz));
  }

  /** Hears a token, from where the last one was. */
  public void hear(int token) {
    if (running.get() != null && token >= 0 && token < tokens().size()) {
      player.choose(token + 1);
      heard.set(token);
      if (!player.playing()) {
        player.play();
      }
    }
  }

  /** Stops, or goes on. */
  public void toggle() {
    if (player.playing()) {
      player.stop();
    } else {
      hear(Math.max(0, heard.get()));
    }
  }

  public boolean playing() {
    return player.playing();
  }

  /** The output in use; null before the first playing. */
  public SoundOut output() {
    return player.output();
  }

  /** Answers the trial that is on, with one of its items or that there is no difference. */
  public void answer(String item) {
    if (running.get() == null) {
      return;
    }
    Round next = RoundPlan.continued(running.get().withTrial(trial, now().withAnswer(item)));
    keep(next);
    player.stop();
    // The next trial is on before anyone is told: what is shown and what is answered are the same.
    trial++;
    if (trial >= next.trials().size()) {
      end();
    } else {
      running.set(next);
      load();
    }
  }

  /** Puts a token of a rating on the line. */
  public void place(int token, double position) {
    move(token, position);
    Round placed = running.get();
    if (placed != null) {
      keep(placed);
    }
  }

  /** Moves a token while it is dragged: nothing is kept before it is let go. */
  public void move(int token, double position) {
    if (running.get() == null) {
      return;
    }
    Round.Trial t = running.get().trials().get(token);
    running.set(
        running.get().withTrial(token, t.withPosition(Math.max(0, Math.min(100, position)))));
  }

  /** Ends what runs: a round that is not done can be gone on with. */
  public void end() {
    leave();
    workspace.stepProperty().set(Step.DECIDE);
  }

  /** Breaks off what runs because another comparison comes; its answers stay in this one. */
  void leave() {
    player.stop();
    running.set(null);
    heard.set(-1);
    if (unkept) {
      unkept = false;
      workspace
          .messageProperty()
          .set(
              "Answers of the round could not be copied to the disk, which may be full: save the"
                  + " comparison before you leave it.");
    }
  }

  /** Takes a round out of the comparison. */
  public void forget(Round round) {
    workspace.edit(
        c ->
            c.withRounds(
                c.rounds().stream()
                    .filter(r -> !r.id().equals(round.id()))
                    .collect(Collectors.toList())));
  }

  @Override
  public void close() {
    player.close();
  }
}
