package kettlesieve.core.listen;

import java.io.IOException;
import java.util.List;
import java.util.Queue;
import java.util.Set;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.function.Consumer;
import java.util.function.IntConsumer;
import java.util.function.Supplier;
import kettlesieve.core.comparison.TimeSpan;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Plays tracks on a sound output: switching keeps the place and is heard within a few hundredths of
 * a second. Over 400 lines, because all that may happen under its one lock stands here.
 *
 * <p><b>How it hangs together.</b> What is wanted (tracks, choice, loop, turns, side, band) is
 * state under one lock, which is only ever held for a few assignments. Each playing from {@link
 * #play} to {@link #stop} is a {@link Playback} of its own, with a thread, a stop flag, a deck and
 * a queue of commands that belong to it alone: to stop one and to begin the next do not wait for
 * each other, and a command can never reach the wrong one. A new playback reads the whole state
 * when it begins, so that nothing is lost between them; it waits, on its own thread, until the one
 * that holds the output has let go of it. At most one plays and one waits.
 *
 * <p><b>What is stopped stays stopped.</b> From the moment its stop flag is set, a playback takes
 * no command, changes no place and gives nobody a turn; it fades and ends. One that was stopped
 * while it waited ends at once and never opens the output. Where a recording ends by itself, the
 * flag is set in the same step in which the queue is seen empty: what was asked for before is still
 * heard, and what comes after finds nothing playing.
 *
 * <ul>
 *   <li>Any thread may call any public method; all return at once, {@link #close} after the last
 *       fade.
 *   <li>The playback's thread renders without the lock. It takes it for the turn at the end of a
 *       pass of the loop, and calls listeners only when it does not hold it.
 *   <li>No thread waits for another while it holds the lock (waiting for the output lets go of it).
 * </ul>
 *
 * <p>Where the output cannot be opened or is lost, playing goes on with the simulated one, and the
 * listener is told.
 */
public final class Player implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Player.class);
  private static final int BLOCK = 256;
  private static final long CLOSE_MILLIS = 500;

  private final Supplier<SoundOut> outputs;
  private final Consumer<String> news;
  private final Object lock = new Object();

  // State, under the lock.
  private List<Track> tracks = List.of();
  private int sampleRate = 48_000;
  private int chosen;
  private boolean levelMatched = true;
  private boolean onlyRemoved;
  private Set<String> roles = Set.of();
  private List<TimeSpan> loop = List.of();
  private Turns turns = Turns.STAY;
  private boolean sourcesTurn;
  private int round = Integer.MAX_VALUE;
  private Playback current;
  private boolean closed;

  // Read by the playback's thread block by block.
  private volatile Side side = Side.BOTH;
  private volatile Band band;
  private volatile boolean halfSpeed;
  private volatile IntConsumer turned = track -> {};

  private volatile LevelMeter levels;
  private volatile double heardSeconds;
  private volatile SoundOut output;

  /**
   * @param outputs makes an output whenever playing begins
   * @param news told in plain words when the output changes
   */
  public Player(Supplier<SoundOut> outputs, Consumer<String> news) {
    this.outputs = outputs;
    this.news = news;
  }

  /**
   * Takes what can be listened to; the first track is the source. A track that is playing goes on
   * under its number; at another sample rate playing stops.
   */
  public void setTracks(List<Track> newTracks) {
    synchronized (lock) {
      tracks = List.copyOf(newTracks);
      int rate = tracks.isEmpty() ? sampleRate : tracks.get(0).matched().sampleRate();
      if (tracks.isEmpty() || rate != sampleRate) {
        stopCurrent();
        sampleRate = rate;
      }
      chosen = Math.max(0, Math.min(chosen, tracks.size() - 1));
      rechoose();
    }
  }

  /** Switches to a track; a number that does not exist changes nothing. */
  public void choose(int track) {
    synchronized (lock) {
      if (track >= 0 && track < tracks.size()) {
        chosen = track;
        sourcesTurn = false;
        rechoose();
      }
    }
  }

  /** Number of the track that is chosen. */
  public int chosen() {
    synchronized (lock) {
      return chosen;
    }
  }

  /** Whether versions sound at matched level, or as they came. */
  public void setLevelMatched(boolean on) {
    synchronized (lock) {
      levelMatched = on;
      rechoose();
    }
  }

  /** Whether only what a version took out is heard. */
  public void setOnlyRemoved(boolean on) {
    synchronized (lock) {
      onlyRemoved = on;
      rechoose();
    }
  }

  /** Of versions in stems, only these roles are heard; empty for all. */
  public void setRoles(Set<String> heard) {
    synchronized (lock) {
      roles = Set.copyOf(heard);
      rechoose();
    }
  }

  /** Which part of the stereo picture is heard. */
  public void setSide(Side value) {
    side = value;
  }

  /** Which frequencies are heard; null for all. */
  public void setBand(Band value) {
    band = value;
  }

  /** Levels of what is heard now, or was heard last. */
  public LevelMeter.Levels levels() {
    LevelMeter meter = levels;
    return meter == null ? LevelMeter.SILENT : meter.levels();
  }

  /** Whether everything runs at half its speed, an octave lower. */
  public void setHalfSpeed(boolean on) {
    halfSpeed = on;
  }

  /** What happens at the end of each pass of a loop. */
  public void setTurns(Turns value) {
    synchronized (lock) {
      turns = value;
      sourcesTurn = false;
      rechoose();
    }
  }

  /** How many of the tracks, from the first, have their turn in {@link Turns#NEXT}. */
  public void setRound(int count) {
    synchronized (lock) {
      round = count;
    }
  }

  /** Told of the track that sounds, from a thread of its own, when its turn comes by itself. */
  public void onTurn(IntConsumer listener) {
    turned = listener;
  }

  /** Repeats a stretch of the source's time; null for no loop. */
  public void setLoop(TimeSpan span) {
    setLoop(span == null ? List.of() : List.of(span));
  }

  /** Repeats stretches of the source's time, one after the other; none for no loop. */
  public void setLoop(List<TimeSpan> spans) {
    synchronized (lock) {
      loop = List.copyOf(spans);
      List<Deck.Stretch> stretches = stretches();
      send(deck -> deck.loop(stretches));
    }
  }

  private List<Deck.Stretch> stretches() {
    return loop.stream()
        .map(
            s ->
                new Deck.Stretch(
                    Math.round(s.from() * sampleRate), Math.round(s.to() * sampleRate)))
        .toList();
  }

  private void send(Consumer<Deck> command) {
    if (current != null && !current.stopping) {
      current.commands.add(command);
    }
  }

  private TimedSound sound() {
    return tracks
        .get(sourcesTurn ? 0 : chosen)
        .sound(levelMatched, onlyRemoved, roles, tracks.get(0).matched());
  }

  private void rechoose() {
    if (!tracks.isEmpty()) {
      TimedSound sound = sound();
      send(deck -> deck.choose(sound));
    }
  }

  /** Goes to a place in the source's time. */
  public void seek(double seconds) {
    synchronized (lock) {
      heardSeconds = Math.max(0, seconds);
      long frame = Math.round(heardSeconds * sampleRate);
      send(deck -> deck.seek(frame));
    }
  }

  /** Begins to play where it was left. */
  public void play() {
    synchronized (lock) {
      if (closed || playing() || tracks.isEmpty()) {
        return;
      }
      current = new Playback(current == null ? null : current.holder(), sampleRate);
      current.thread.start();
    }
  }

  /** Stops after a short fade; the place is kept. */
  public void stop() {
    synchronized (lock) {
      stopCurrent();
    }
  }

  private void stopCurrent() {
    if (current != null) {
      current.stopping = true;
      // It may be waiting for the output.
      lock.notifyAll();
    }
  }

  /** Whether something plays and was not told to stop. */
  public boolean playing() {
    synchronized (lock) {
      return current != null && !current.stopping;
    }
  }

  /** The place that is heard now, seconds of the source's time. */
  public double positionSeconds() {
    return heardSeconds;
  }

  /** The output that plays or played last; null before the first. */
  public SoundOut output() {
    return output;
  }

  @Override
  public void close() {
    Playback last;
    synchronized (lock) {
      closed = true;
      stopCurrent();
      last = current == null ? null : current.holder();
    }
    if (last != null) {
      last.await(CLOSE_MILLIS);
    }
  }

  /** One playing from its begin to its end. */
  private final class Playback {
    private final Thread thread = new Thread(this::run, "player");
    private final Queue<Consumer<Deck>> commands = new ConcurrentLinkedQueue<>();
    private final int rate;
    private final Deck deck;
    private volatile boolean stopping;

    // Under the lock.
    private Playback before;
    private boolean ended;

    /**
     * @param before the one that may still hold the output; null for none
     */
    Playback(Playback before, int rate) {
      this.before = before;
      this.rate = rate;
      this.deck = new Deck(rate);
      thread.setDaemon(true);
      thread.setPriority(Thread.MAX_PRIORITY);
    }

    /** Who holds the output or will open it: one that still waits does not. Under the lock. */
    Playback holder() {
      if (before != null && !before.ended) {
        return before;
      }
      return ended ? null : this;
    }

    void await(long millis) {
      if (thread != Thread.currentThread()) {
        try {
          thread.join(millis);
        } catch (InterruptedException e) {
          Thread.currentThread().interrupt();
        }
      }
    }

    private void run() {
      SoundOut out = null;
      try {
        if (mayOpen()) {
          out = open(outputs.get());
          output = out;
          begin();
          out = render(out);
        }
      } catch (RuntimeException | Error e) {
        LOG.error("playing broke down", e);
        news.accept("Playing stopped by an error of the program's own; its log says more.");
      } finally {
        stopping = true;
        if (out != null) {
          out.close();
        }
        synchronized (lock) {
          ended = true;
          lock.notifyAll();
        }
      }
    }

    /** Waits until the output is free; false if this playback was stopped meanwhile. */
    private boolean mayOpen() {
      synchronized (lock) {
        try {
          while (!stopping && before != null && !before.ended) {
            lock.wait();
          }
        } catch (InterruptedException e) {
          return false;
        }
        if (before != null && before.ended) {
          before = null;
        }
        return !stopping;
      }
    }

    private void begin() {
      synchronized (lock) {
        double place = heardSeconds;
        long start = Math.round(place * rate);
        if (loop.stream().noneMatch(l -> l.holds(place)) && !loop.isEmpty()) {
          start = Math.round(loop.get(0).from() * rate);
        }
        if (stopping || tracks.isEmpty()) {
          stopping = true;
          return;
        }
        TimedSound sound = sound();
        if (loop.isEmpty() && sound.own(start) >= sound.audio().frames()) {
          start = 0;
        }
        // What was asked for until now is in the state already.
        commands.clear();
        deck.begin(sound, start);
        deck.loop(stretches());
        deck.atPass(this::nextPass);
      }
    }

    /** The end of a pass: whose turn is it now? */
    private TimedSound nextPass(TimedSound last) {
      int now;
      TimedSound next;
      synchronized (lock) {
        if (stopping || turns == Turns.STAY || tracks.size() < 2) {
          return last;
        }
        if (turns == Turns.NEXT) {
          chosen = (chosen + 1) % Math.max(1, Math.min(round, tracks.size()));
          now = chosen;
        } else {
          sourcesTurn = !sourcesTurn && chosen != 0;
          now = sourcesTurn ? 0 : chosen;
        }
        next = sound();
      }
      turned.accept(now);
      return next;
    }

    private SoundOut render(SoundOut first) {
      SoundOut out = first;
      OutputChain chain = new OutputChain(rate);
      LevelMeter meter = new LevelMeter(rate);
      levels = meter;
      HalfSpeed slow = new HalfSpeed();
      float[] left = new float[BLOCK];
      float[] right = new float[BLOCK];
      float[] leftHalf = new float[BLOCK / 2];
      float[] rightHalf = new float[BLOCK / 2];
      boolean fading = false;
      while (true) {
        if (!fading && stopping) {
          deck.choose((TimedSound) null);
          fading = true;
        }
        if (!fading) {
          for (Consumer<Deck> c = commands.poll(); c != null; c = commands.poll()) {
            c.accept(deck);
          }
        }
        if (deck.atEnd() && (fading || nothingMore())) {
          return out;
        }
        boolean slowly = halfSpeed;
        if (slowly) {
          deck.render(leftHalf, rightHalf, BLOCK / 2);
          slow.process(leftHalf, rightHalf, BLOCK / 2, left, right);
        } else {
          deck.render(left, right, BLOCK);
        }
        chain.set(side, band);
        chain.process(left, right, BLOCK);
        meter.process(left, right, BLOCK);
        out = write(out, left, right);
        if (!fading) {
          int pending = out.pendingFrames();
          heard(Math.max(0, deck.position() - (slowly ? pending / 2 : pending)));
        }
      }
    }

    /** At the end of the recording: whether nothing was asked for meanwhile; then it is over. */
    private boolean nothingMore() {
      synchronized (lock) {
        if (commands.isEmpty()) {
          stopping = true;
        }
        return stopping;
      }
    }

    /** Only the playback that is wanted says where it is; a jump that was asked for comes first. */
    private void heard(long frame) {
      synchronized (lock) {
        if (current == this && !stopping && commands.isEmpty()) {
          heardSeconds = (double) frame / rate;
        }
      }
    }

    private SoundOut write(SoundOut out, float[] left, float[] right) {
      try {
        out.write(left, right, BLOCK);
        return out;
      } catch (IOException e) {
        LOG.warn("the sound output was lost", e);
        out.close();
        return fallBack("The sound device was lost: playing goes on without sound.");
      }
    }

    private SoundOut open(SoundOut out) {
      try {
        out.open(rate);
        return out;
      } catch (IOException e) {
        LOG.info("no sound output: {}", e.getMessage());
        return fallBack("There is no sound device: playing is simulated, nothing is heard.");
      }
    }

    private SoundOut fallBack(String message) {
      SimulatedOut simulated = new SimulatedOut(true);
      simulated.open(rate);
      output = simulated;
      news.accept(message);
      return simulated;
    }
  }
}
