package kettlesieve.core.listen;

import java.io.IOException;
import java.util.List;
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
  private Set<String> roles = Set.of();
  private List<TimeSpan> loop = List.of();
  private Turns turns = Turns.STAY;
  private boolean sourcesTurn;
  private int round = Integer.MAX_VALUE;
  private Side side = Side.BOTH;
  private Band band;
  private volatile boolean halfSpeed;
  private IntConsumer turned = track -> {};
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
        sourcesTurn = false;
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

  /** Of versions in stems, only these roles are heard; empty for all. */
  public void setRoles(Set<String> heard) {
    synchronized (lock) {
      roles = Set.copyOf(heard);
      rechoose();
    }
  }

  /** Which part of the stereo picture is heard. */
  public void setSide(Side value) {
    synchronized (lock) {
      side = value;
    }
  }

  /** Which frequencies are heard; null for all. */
  public void setBand(Band value) {
    synchronized (lock) {
      band = value;
    }
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
      commands.add(this::applyLoop);
    }
  }

  private void applyLoop(Deck deck) {
    List<TimeSpan> spans;
    synchronized (lock) {
      spans = loop;
    }
    deck.loop(
        spans.stream()
            .map(
                s ->
                    new Deck.Stretch(
                        Math.round(s.from() * sampleRate), Math.round(s.to() * sampleRate)))
            .toList());
  }

  private TimedSound sound() {
    return tracks
        .get(sourcesTurn ? 0 : chosen)
        .sound(levelMatched, onlyRemoved, roles, tracks.get(0).matched());
  }

  private void rechoose() {
    if (!tracks.isEmpty()) {
      TimedSound sound = sound();
      commands.add(deck -> deck.choose(sound));
    }
  }

  /** The end of a pass: whose turn is it now? */
  private TimedSound nextPass(TimedSound last) {
    synchronized (lock) {
      if (turns == Turns.STAY || tracks.size() < 2) {
        return last;
      }
      if (turns == Turns.NEXT) {
        chosen = (chosen + 1) % Math.max(1, Math.min(round, tracks.size()));
        turned.accept(chosen);
      } else {
        sourcesTurn = !sourcesTurn && chosen != 0;
        turned.accept(sourcesTurn ? 0 : chosen);
      }
      return sound();
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
      long start = heardFrame;
      double place = positionSeconds();
      if (loop.stream().noneMatch(l -> l.holds(place)) && !loop.isEmpty()) {
        start = Math.round(loop.get(0).from() * sampleRate);
      }
      TimedSound sound = sound();
      if (loop.isEmpty() && sound.own(start) >= sound.audio().frames()) {
        start = 0;
      }
      deck.begin(sound, start);
      applyLoop(deck);
      deck.atPass(this::nextPass);
    }
    OutputChain chain = new OutputChain(sampleRate);
    HalfSpeed slow = new HalfSpeed();
    float[] left = new float[BLOCK];
    float[] right = new float[BLOCK];
    float[] leftHalf = new float[BLOCK / 2];
    float[] rightHalf = new float[BLOCK / 2];
    boolean fading = false;
    try {
      while (true) {
        for (Consumer<Deck> c = commands.poll(); c != null; c = commands.poll()) {
          c.accept(deck);
        }
        if (stopping && !fading) {
          deck.choose((TimedSound) null);
          fading = true;
        }
        if (deck.atEnd()) {
          break;
        }
        boolean slowly = halfSpeed;
        if (slowly) {
          deck.render(leftHalf, rightHalf, BLOCK / 2);
          slow.process(leftHalf, rightHalf, BLOCK / 2, left, right);
        } else {
          deck.render(left, right, BLOCK);
        }
        synchronized (lock) {
          chain.set(side, band);
        }
        chain.process(left, right, BLOCK);
        out = write(out, left, right);
        if (!fading) {
          int pending = out.pendingFrames();
          heardFrame = Math.max(0, deck.position() - (slowly ? pending / 2 : pending));
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
