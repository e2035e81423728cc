package kettlesieve.core.listen;

import java.io.IOException;
import java.util.List;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.function.Consumer;
import java.util.function.Supplier;
import kettlesieve.core.comparison.TimeSpan;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Plays tracks on a sound output: switching keeps the place and is heard within a few hundredths of
 * a second. All methods return at once and may be called from any thread.
 *
 * <p>Where the output cannot be opened or is lost, playing goes on with the simulated one, and the
 * listener is told.
 */
public final class Player implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Player.class);
  private static final int BLOCK = 256;

  private final Supplier<SoundOut> outputs;
  private final Consumer<String> news;
  private final ConcurrentLinkedQueue<Consumer<Deck>> commands = new ConcurrentLinkedQueue<>();
  private final Object lock = new Object();
  private List<Track> tracks = List.of();
  private int sampleRate = 48_000;
  private int chosen;
  private boolean levelMatched = true;
  private boolean onlyRemoved;
  private TimeSpan loop;
  private double restSeconds;
  private Thread thread;
  private volatile long heardFrame;
  private volatile boolean stopping;
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
   * under its number.
   */
  public void setTracks(List<Track> newTracks) {
    synchronized (lock) {
      tracks = List.copyOf(newTracks);
      if (!tracks.isEmpty()) {
        int rate = tracks.get(0).matched().sampleRate();
        if (rate != sampleRate) {
          halt();
          sampleRate = rate;
        }
      } else {
        halt();
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
        rechoose();
      }
    }
  }

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

  /** Repeats a stretch of the source's time; null for no loop. */
  public void setLoop(TimeSpan span) {
    synchronized (lock) {
      loop = span;
      commands.add(this::applyLoop);
    }
  }

  private void applyLoop(Deck deck) {
    TimeSpan span;
    synchronized (lock) {
      span = loop;
    }
    if (span == null) {
      deck.loop(0, 0);
    } else {
      deck.loop(Math.round(span.from() * sampleRate), Math.round(span.to() * sampleRate));
    }
  }

  private void rechoose() {
    if (!tracks.isEmpty()) {
      var audio = tracks.get(chosen).audio(levelMatched, onlyRemoved);
      commands.add(deck -> deck.choose(audio));
    }
  }

  /** Goes to a place in the source's time. */
  public void seek(double seconds) {
    synchronized (lock) {
      restSeconds = Math.max(0, seconds);
      heardFrame = Math.round(restSeconds * sampleRate);
      long frame = heardFrame;
      commands.add(deck -> deck.seek(frame));
    }
  }

  /** Begins to play where it was left. */
  public void play() {
    synchronized (lock) {
      if (playing() || tracks.isEmpty()) {
        return;
      }
      joinOld();
      stopping = false;
      commands.clear();
      thread = new Thread(this::run, "player");
      thread.setDaemon(true);
      thread.setPriority(Thread.MAX_PRIORITY);
      thread.start();
    }
  }

  /** Stops after a short fade; the place is kept. */
  public void stop() {
    stopping = true;
  }

  private void halt() {
    stopping = true;
    joinOld();
  }

  private void joinOld() {
    Thread old = thread;
    thread = null;
    if (old != null && old != Thread.currentThread()) {
      try {
        old.join(500);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }

  public boolean playing() {
    Thread t = thread;
    return t != null && t.isAlive() && !stopping;
  }

  /** The place that is heard now, seconds of the source's time. */
  public double positionSeconds() {
    return (double) heardFrame / sampleRate;
  }

  /** The output that plays or played last; null before the first. */
  public SoundOut output() {
    return output;
  }

  private void run() {
    Deck deck = new Deck(sampleRate);
    SoundOut out = open(outputs.get());
    output = out;
    synchronized (lock) {
      applyLoop(deck);
      long start = heardFrame;
      if (loop != null && !loop.holds(positionSeconds())) {
        start = Math.round(loop.from() * sampleRate);
      }
      var audio = tracks.get(chosen).audio(levelMatched, onlyRemoved);
      if (start >= audio.frames()) {
        start = loop == null ? 0 : start;
      }
      deck.begin(audio, start);
    }
    float[] left = new float[BLOCK];
    float[] right = new float[BLOCK];
    boolean fading = false;
    try {
      while (true) {
        for (Consumer<Deck> c = commands.poll(); c != null; c = commands.poll()) {
          c.accept(deck);
        }
        if (stopping && !fading) {
          deck.choose(null);
          fading = true;
        }
        if (deck.atEnd()) {
          break;
        }
        deck.render(left, right, BLOCK);
        out = write(out, left, right);
        if (!fading) {
          heardFrame = Math.max(0, deck.position() - out.pendingFrames());
        }
      }
    } finally {
      stopping = true;
      out.close();
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
      out.open(sampleRate);
      return out;
    } catch (IOException e) {
      LOG.info("no sound output: {}", e.getMessage());
      return fallBack("There is no sound device: playing is simulated, nothing is heard.");
    }
  }

  private SoundOut fallBack(String message) {
    SimulatedOut simulated = new SimulatedOut(true);
    simulated.open(sampleRate);
    output = simulated;
    news.accept(message);
    return simulated;
  }

  @Override
  public void close() {
    synchronized (lock) {
      halt();
    }
  }
}
