package kettlesieve.core.media;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import kettlesieve.core.Faults;
import kettlesieve.core.Sounds;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Recordings broken in every way: each is read, or refused with its name and a remedy; none hangs,
 * none throws anything else, and what holds checksums or promises its length is never taken for
 * whole when it is not.
 */
class FaultyRecordingsTest {
  private static final Duration PATIENCE = Duration.ofSeconds(30);

  /** Of these every change of the sound can be told, by checksums of their own. */
  private static final List<String> CHECKED = List.of("tone.flac", "tone.ogg");

  private static final List<String> OTHERS =
      List.of("s16.wav", "s24.wav", "f32.wav", "rf64.wav", "tone.aiff", "tone.mp3", "eight.wav");

  @TempDir Path folder;

  private record Told(String problem, boolean silent, boolean hung, float[] sound) {}

  private Told read(ExecutorService pool, Path file) throws Exception {
    // A cache of its own each: nothing is taken from what was read before.
    MediaReader reader = new MediaReader(folder.resolve("cache"));
    Future<Told> going =
        pool.submit(
            () -> {
              try {
                Recording read = reader.read(file, Progress.SILENT);
                return new Told(
                    read.facts().doubt(),
                    read.facts().doubt() == null,
                    false,
                    read.audio().wholeChannel(0));
              } catch (MediaException e) {
                return new Told(e.getMessage(), false, false, null);
              }
            });
    try {
      return going.get(PATIENCE.toSeconds(), TimeUnit.SECONDS);
    } catch (TimeoutException e) {
      return new Told("it hung", false, true, null);
    } catch (ExecutionException e) {
      return new Told("threw " + e.getCause(), true, false, null);
    }
  }

  @Test
  void brokenRecordingsAreReadOrRefusedAndNeverInSilence() throws Exception {
    int count = Faults.count(126, 1260);
    List<String> wrong = new ArrayList<>();
    int refused = 0;
    List<String> all = new ArrayList<>(CHECKED);
    all.addAll(OTHERS);
    ExecutorService pool = Executors.newCachedThreadPool();
    try {
      for (int i = 0; i < count; i++) {
        String name = all.get(i % all.size());
        Faults.Kind kind = Faults.Kind.values()[i / all.size() % Faults.Kind.values().length];
        byte[] whole = Files.readAllBytes(Sounds.resource("formats/" + name));
        byte[] bytes = Faults.broken(whole, kind, i);
        Path file = folder.resolve(kind + "-" + i + "-" + name);
        Files.write(file, bytes);
        Told told = read(pool, file);
        refused += told.sound() == null ? 1 : 0;
        String what = file.getFileName() + ": " + told.problem();
        boolean named =
            told.sound() != null
                || told.problem().contains(file.getFileName().toString())
                    && told.problem().endsWith(".");
        boolean missing = kind == Faults.Kind.CUT && lost(whole, bytes, name);
        boolean altered =
            (CHECKED.contains(name) || missing)
                && told.silent()
                && !Arrays.equals(told.sound(), sound(name));
        if (told.hung() || !named || altered) {
          wrong.add(what);
        }
        Files.delete(file);
      }
    } finally {
      pool.shutdownNow();
    }
    System.out.printf("%d broken recordings: %d refused, %d wrong%n", count, refused, wrong.size());
    assertThat(wrong).isEmpty();
  }

  /** Whether more is missing than headers are off by, in a form that promises its length. */
  private static boolean lost(byte[] whole, byte[] cut, String name) {
    return !name.equals("tone.mp3") && whole.length - cut.length > whole.length / 50;
  }

  private float[] sound(String name) throws MediaException {
    return new MediaReader(folder.resolve("cache"))
        .read(Sounds.resource("formats/" + name), Progress.SILENT)
        .audio()
        .wholeChannel(0);
  }

  @Test
  void anythingUnderTheNameOfARecordingIsRefused() throws IOException {
    List<byte[]> junk = new ArrayList<>();
    junk.add(new byte[1]);
    junk.add(new byte[100_000]);
    junk.add("RIFF".getBytes(StandardCharsets.US_ASCII));
    junk.add("RIFF\u00ff\u00ff\u00ff\u00ffWAVEfmt ".getBytes(StandardCharsets.ISO_8859_1));
    junk.add("OggS".repeat(1000).getBytes(StandardCharsets.US_ASCII));
    junk.add("fLaC\0\0\0\"".getBytes(StandardCharsets.ISO_8859_1));
    junk.add("FORM\0\0\0\0AIFF".getBytes(StandardCharsets.ISO_8859_1));
    ByteArrayOutputStream nested = new ByteArrayOutputStream();
    for (int i = 0; i < 20_000; i++) {
      nested.write("RIFF\u0004\0\0\0WAVE".getBytes(StandardCharsets.ISO_8859_1));
    }
    junk.add(nested.toByteArray());
    for (int i = 0; i < junk.size(); i++) {
      for (String ending : List.of(".wav", ".flac", ".ogg", ".mp3", ".aiff")) {
        Path file = Files.write(folder.resolve("junk-" + i + ending), junk.get(i));
        try {
          new MediaReader(folder.resolve("cache")).read(file, Progress.SILENT);
          throw new AssertionError(file + " was read");
        } catch (MediaException e) {
          assertThat(e).hasMessageContaining(file.toString());
        }
      }
    }
  }
}
