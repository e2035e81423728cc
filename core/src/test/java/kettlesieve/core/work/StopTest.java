package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Matched;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.signal.Yin;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is stopped ends, at whatever moment it is stopped, and leaves nobody behind. */
class StopTest {
  private static final int RATE = 16_000;

  @TempDir private Path folder;

  private Comparison comparison(Job job) throws Exception {
    float[] speech = Arrays.copyOf(Sounds.speech16(), 6 * RATE);
    float[] noise = Sounds.white(speech.length, 7);
    double factor = Sounds.noiseFactor(speech, noise, 15);
    Comparison c = Comparison.empty("test", job);
    write("source.wav", Sounds.mix(speech, noise, factor));
    c = c.withSource(ref("source.wav"));
    for (int v = 1; v <= 3; v++) {
      write("v" + v + ".wav", Sounds.mix(speech, noise, factor / (v + 1)));
      c = c.plus(Version.of("v" + v, "version " + v, ref("v" + v + ".wav")));
    }
    return c;
  }

  private MediaRef ref(String name) {
    return MediaRef.of(folder.resolve(name));
  }

  private void write(String name, float[] x) throws Exception {
    Sounds.write(folder.resolve(name), RATE, x);
  }

  /** Ends the work at its n-th question, whoever asks it. */
  private static final class AfterQuestions implements Stop {
    final AtomicLong asked = new AtomicLong();
    final long most;

    AfterQuestions(long most) {
      this.most = most;
    }

    @Override
    public void check() {
      if (asked.incrementAndGet() > most) {
        throw new CancellationException();
      }
    }
  }

  /** Counts what is told after it should be over. */
  private static final class Late implements Conductor.Listener {
    final AtomicBoolean over = new AtomicBoolean();
    final AtomicInteger late = new AtomicInteger();

    private void told() {
      if (over.get()) {
        late.incrementAndGet();
      }
    }

    @Override
    public void progress(String what, double share) {
      told();
    }

    @Override
    public void versionRead(String id, Map<String, Recording> files) {
      told();
    }

    @Override
    public void versionMatched(String id, Matched matched) {
      told();
    }

    @Override
    public void versionFailed(String id, String problem) {
      told();
    }

    @Override
    public void measured(Results results) {
      told();
    }
  }

  /**
   * Stopped at seeded moments all over the work: the run ends, none of its threads is alive when it
   * has, nothing is told any more, no version is called broken; and the next run, with what the
   * stopped ones left, gives what a run gives that nobody disturbed.
   */
  @Test
  void aRunThatIsStoppedAnywhereEndsWithAllItsThreads() throws Exception {
    for (Job job : List.of(Job.DENOISE, Job.DEREVERB)) {
      Comparison c = comparison(job);
      AfterQuestions all = new AfterQuestions(Long.MAX_VALUE);
      String undisturbed;
      try (Conductor alone =
          new Conductor(new MediaReader(folder.resolve("alone")), ResultStore.inMemory())) {
        undisturbed =
            ScoresJson.write(alone.run(c, Conductor.Listener.SILENT, all).sheet(), folder);
      }
      assertThat(all.asked.get()).isGreaterThan(10_000);
      List<Thread> threads = new CopyOnWriteArrayList<>();
      SplittableRandom random = new SplittableRandom(3);
      int stopped = 0;
      // What stopped runs left makes later ones shorter, how much depends on the machine: one may
      // come to its end before its stop. Then it must be right, and the next begins afresh.
      for (int round = 0; stopped < 25; round++) {
        try (Conductor conductor =
            new Conductor(
                new MediaReader(folder.resolve(job.id() + round)),
                ResultStore.inMemory(),
                new Width(3, 1L << 33),
                task -> {
                  Thread thread = new Thread(task);
                  threads.add(thread);
                  return thread;
                })) {
          while (stopped < 25) {
            Late late = new Late();
            AfterQuestions stop = new AfterQuestions(random.nextLong(all.asked.get() / 2));
            Results whole = null;
            try {
              whole = conductor.run(c, late, stop);
            } catch (CancellationException e) {
              stopped++;
            }
            late.over.set(true);
            assertThat(threads).noneMatch(Thread::isAlive);
            threads.clear();
            Thread.sleep(5);
            assertThat(late.late.get()).isZero();
            if (whole != null) {
              assertThat(stop.asked.get()).isLessThanOrEqualTo(stop.most);
              assertThat(ScoresJson.write(whole.sheet(), folder)).isEqualTo(undisturbed);
              break;
            }
          }
          assertThat(stopped).as("runs stopped, of those that began with nothing").isPositive();
          assertThat(
                  ScoresJson.write(
                      conductor.run(c, Conductor.Listener.SILENT, Stop.NEVER).sheet(), folder))
              .isEqualTo(undisturbed);
        }
      }
    }
  }

  /** Preparing the source asks as often as everything else does. */
  @Test
  void preparingTheSourceTakesAStop() throws Exception {
    for (Job job : List.of(Job.DENOISE, Job.DEREVERB, Job.DECLIP)) {
      Comparison c = comparison(job).withVersions(List.of());
      AfterQuestions all = new AfterQuestions(Long.MAX_VALUE);
      Map<String, Long> at = new ConcurrentHashMap<>();
      Conductor.Listener marks =
          new Conductor.Listener() {
            @Override
            public void sourceRead(Recording source) {
              at.put("read", all.asked.get());
            }

            @Override
            public void sourceReady(Recording s, Recording r, PreparedSource prepared) {
              at.put("ready", all.asked.get());
            }
          };
      try (Conductor conductor =
          new Conductor(new MediaReader(folder.resolve("decoded")), ResultStore.inMemory())) {
        conductor.run(c, marks, all);
        // Six seconds have some hundred frames of spectra.
        assertThat(at.get("ready") - at.get("read")).as(job.id()).isGreaterThan(150);
        conductor.forget();
        AfterQuestions between = new AfterQuestions((at.get("read") + at.get("ready")) / 2);
        assertThatThrownBy(() -> conductor.run(c, Conductor.Listener.SILENT, between))
            .isInstanceOf(CancellationException.class);
      }
    }
  }

  /** Who is stopped while what was decoded before is looked through leaves it as it was. */
  @Test
  void aStopSpoilsNothingThatIsKept() throws Exception {
    write("long.wav", Sounds.white(200_000, 3));
    Path cache = folder.resolve("decoded");
    MediaReader reader = new MediaReader(cache);
    reader.read(folder.resolve("long.wav"), Progress.SILENT);
    List<String> kept = names(cache);
    assertThat(kept).hasSize(2);
    AfterQuestions all = new AfterQuestions(Long.MAX_VALUE);
    Stop.over(all, () -> reader.read(folder.resolve("long.wav"), Progress.SILENT));
    for (long n = 0; n < all.asked.get(); n++) {
      AfterQuestions stop = new AfterQuestions(n);
      assertThatThrownBy(
              () -> Stop.over(stop, () -> reader.read(folder.resolve("long.wav"), Progress.SILENT)))
          .isInstanceOf(CancellationException.class);
      assertThat(names(cache)).as("stopped at question %d", n).isEqualTo(kept);
    }
  }

  private static List<String> names(Path folder) throws Exception {
    try (var files = java.nio.file.Files.list(folder)) {
      return files.map(f -> f.getFileName().toString()).sorted().toList();
    }
  }

  /** A stop is over the thread that works for its run, and over no other. */
  @Test
  void aStopIsOverItsThreadAndGoesWithTheWork() {
    Stop gone =
        () -> {
          throw new CancellationException();
        };
    Audio audio = Audio.of(RATE, Sounds.white(RATE, 1));
    Yin yin = new Yin(audio, 80, 400);
    assertThatThrownBy(() -> Stop.over(gone, () -> yin.at(0.5)))
        .isInstanceOf(CancellationException.class);
    assertThat(Stop.here()).isSameAs(Stop.NEVER);
    Stop.over(
        Stop.NEVER,
        () -> {
          assertThatThrownBy(() -> Stop.over(gone, () -> audio.samples(0, 0, 10)))
              .isInstanceOf(CancellationException.class);
          return audio.samples(0, 0, 10);
        });
    Stop.checkHere();
  }
}
